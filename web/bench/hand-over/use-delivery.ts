import { proxy } from 'comlink'
import { computed, ref, shallowRef } from 'vue'
import type { Deliverable } from '../../../core/piece/deliver'
import { usePiece } from '../../stores/piece'
import { usePreferences } from '../../stores/preferences'
import { solidClient } from '../../workers/solid-client'
import { Stopped } from '../../workers/worker-client'
import { downloadBlob } from '../download'
import { plainFileName } from '../../../core/piece/file-name'

/** Writes files in the worker, one delivery at a time, with progress and stop. */
export function useDelivery() {
  const piece = usePiece()
  const preferences = usePreferences()
  const base = computed(() => plainFileName(piece.whole.name))
  /** What is being written; empty while nothing is. */
  const busy = ref<Deliverable | 'together' | ''>('')
  const progress = ref(0)
  const problem = ref('')
  /** Solids that are left out, by id. */
  const leftOut = shallowRef<readonly string[]>([])
  const lighter = ref(false)

  /** The file, or null when it was stopped or could not be written; `problem` says why then. */
  async function write(wanted: Deliverable[], what: typeof busy.value) {
    busy.value = what
    problem.value = ''
    progress.value = 0
    const { axes, paper } = preferences
    const { whole } = piece
    const solids = [
      'body',
      ...whole.parts.filter((p) => p.shown && p.relation === 'separate').map((p) => p.id),
    ]
    const options = {
      axes: { ...axes },
      paper,
      only: leftOut.value.length > 0 ? solids.filter((id) => !leftOut.value.includes(id)) : undefined,
      lighter: lighter.value ? lighterSides(whole.solid.sides) : undefined,
      timeStamp: new Date().toISOString().slice(0, 19),
    }
    const told = proxy((fraction: number) => void (progress.value = fraction))
    try {
      return await solidClient.call((worker) => worker.deliver(whole, wanted, base.value, options, told))
    } catch (error) {
      problem.value = error instanceof Stopped ? 'Stopped; nothing was written.' : `The file could not be written: ${(error as Error).message}` // prettier-ignore
      return null
    } finally {
      busy.value = ''
    }
  }

  async function save(wanted: Deliverable[]): Promise<void> {
    const single = wanted.length === 1 ? wanted[0]! : null
    const file = await write(wanted, single ?? 'together')
    if (file) downloadBlob(file.blob, file.name)
  }

  return { base, busy, progress, problem, leftOut, lighter, write, save, stop: () => solidClient.stop() }
}

/** Halves of the sides, down to the coarsest that still reads as round. */
function lighterSides(sides: number): number[] {
  const out: number[] = []
  for (let n = Math.round(sides / 2); n >= 8 && out.length < 3; n = Math.round(n / 2)) out.push(n)
  return out
}

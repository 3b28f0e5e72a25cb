import { createSharedComposable } from '@vueuse/core'
import { proxy } from 'comlink'
import { computed, ref, shallowRef, watch } from 'vue'
import type { SolidProfile } from '../../../core/piece/derive'
import type { Making } from '../../../core/piece/plan-assembly'
import type { Turn } from '../../../core/solid/revolve'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import type { PaintWish, ShownBuild } from '../../workers/protocol'
import { buildClient, latestOnly } from '../../workers/solid-client'
import { Stopped } from '../../workers/worker-client'

interface Input {
  making: Making
  solid: SolidProfile
  cutOpen: Turn | undefined
  paint: PaintWish
}

/** The solids of the piece, built in a worker whenever what they are made of changes; the newest wish wins. */
export const useBuild = createSharedComposable(() => {
  const bench = useBench()
  const piece = usePiece()
  const built = shallowRef<ShownBuild | null>(null)
  const problem = ref('')
  /** How far the parts have been joined, 0 to 1; null while nothing is under way. */
  const progress = ref<number | null>(null)

  const cutOpen = computed((): Turn | undefined => {
    const { cut, cutFrom } = bench.solid
    return cut > 0 ? { start: cutFrom - cut, sweep: cut } : undefined
  })
  const paint = computed((): PaintWish => {
    const { outline } = piece.whole
    const { view } = piece.wholeDerived.calibration
    const { cage } = piece.whole.solid
    if (cage && bench.solid.cage !== null) return { by: 'cage', cage, levels: bench.solid.cage }
    if (bench.solid.surface === 'check' || bench.solid.surface === 'materials') return { by: 'pattern' }
    if (bench.solid.surface === 'thickness') return { by: 'thickness' }
    if (bench.solid.surface === 'deviation' && outline) return { by: 'deviation', outline, view }
    return { by: 'none' }
  })
  const ask = latestOnly(
    async ({ making, solid, cutOpen: wedge, paint: wish }: Input) => {
      progress.value = 0
      // What is told travels apart from the result, and may arrive after it.
      let over = false
      const told = proxy((done: number, all: number) => {
        if (!over) progress.value = all > 0 ? done / all : 1
      })
      try {
        return await buildClient.call((worker) => worker.build(making, solid, wedge, wish, told))
      } finally {
        over = true
      }
    },
    (result) => {
      problem.value = ''
      progress.value = null
      built.value = piece.wholeDerived.solid ? result : null
    },
    (error) => {
      progress.value = null
      problem.value = error instanceof Stopped ? 'Stopped; the solid shows an earlier state.' : (error as Error).message // prettier-ignore
    },
  )
  watch(
    () => {
      const { name, solid, parts, zones } = piece.whole
      return [piece.wholeDerived.solid, name, solid, parts, zones, cutOpen.value, paint.value] as const
    },
    ([solid, name, making, parts, zones, wedge, wish]) => {
      if (solid) ask({ making: { name, solid: making, parts, zones }, solid, cutOpen: wedge, paint: wish })
      else built.value = null
    },
    { immediate: true },
  )
  /** Figures of a solid that booleans made. */
  const figuresOf = (id: string) => built.value?.figures?.solids.find((s) => s.id === id) ?? null
  return { built, problem, progress, cutOpen, figuresOf, stop: () => buildClient.stop() }
})

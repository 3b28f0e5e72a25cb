import { ref, shallowRef } from 'vue'
import type { PicturePoint } from '../../../core/conventions'
import { usePiece } from '../../stores/piece'
import { photoClient, pixelsOf } from '../../workers/photo-client'
import { Stopped } from '../../workers/worker-client'

const NO_WAY = new Float64Array(0)

/** The way along the photo's edge from one place to another, computed by a worker; shown live while the pointer moves. */
export function useEdgePath() {
  const piece = usePiece()
  /** The way to the pointer [x y ...], picture px. */
  const live = shallowRef<Float64Array>(NO_WAY)
  const problem = ref('')
  let wanted: { from: PicturePoint; to: PicturePoint } | null = null
  let looking = false
  /** Counts strokes, so that an answer that comes too late is thrown away. */
  let stroke = 0

  /** The way between two places; null when it was dropped meanwhile or can't be found. */
  async function find(from: PicturePoint, to: PicturePoint): Promise<Float64Array | null> {
    const { photo, outline } = piece.document
    if (!photo) return null
    const now = stroke
    problem.value = ''
    try {
      const path = await photoClient.call((worker) =>
        worker.edgePath(pixelsOf(photo), from, to, outline?.blur ?? 1),
      )
      return now === stroke ? path : null
    } catch (error) {
      if (!(error instanceof Stopped)) problem.value = (error as Error).message
      return null
    }
  }

  /** Shows the way to a place; while one is computed only the newest place is kept. */
  function look(from: PicturePoint, to: PicturePoint): void {
    wanted = { from, to }
    if (!looking) void follow()
  }
  async function follow(): Promise<void> {
    looking = true
    while (wanted) {
      const { from, to } = wanted
      wanted = null
      const path = await find(from, to)
      if (path) live.value = path
    }
    looking = false
  }

  function drop(): void {
    stroke++
    wanted = null
    live.value = NO_WAY
  }

  return { live, problem, find, look, drop }
}

import { computed, type Ref } from 'vue'
import { bulgeThrough } from '../../core/profile/arc'
import { handlesOf } from '../../core/profile/segment-kind'
import { pointOn, sharpSegments } from '../../core/profile/segments'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'

/** What bends a segment: a handle of a curve at its first (0) or second node, or the middle of an arc. */
export interface Bend {
  id: string
  end: 0 | 1 | 'middle'
}

/**
 * Handles of curves and middles of arcs beside the chosen nodes.
 * @param sign -1 where the half-profile is drawn on the left
 */
export function useBends(sign: Ref<number>, nodeScreen: (n: { r: number; z: number }) => ScreenPoint) {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()

  /** What bends the segments beside the chosen nodes. */
  const bends = computed(() => {
    const { nodes } = piece.document.profile
    const { selected } = bench
    if (selected.size === 0 || selected.size > 3) return []
    const out: { bend: Bend; at: ScreenPoint; from: ScreenPoint }[] = []
    for (const segment of sharpSegments(nodes)) {
      const [a, b] = [nodes[segment.index]!, nodes[segment.index + 1]]
      if (!b || segment.kind === 'line') continue
      const [first, second] = [selected.has(a.id), selected.has(b.id)]
      if (!first && !second) continue
      const place = (r: number, z: number) => nodeScreen({ r, z })
      if (segment.kind === 'arc') {
        const at = place(...pointOn(segment, 0.5))
        out.push({ bend: { id: a.id, end: 'middle' }, at, from: at })
        continue
      }
      const c = segment.cubic
      if (first) out.push({ bend: { id: a.id, end: 0 }, at: place(c[2], c[3]), from: nodeScreen(a) })
      if (second) out.push({ bend: { id: a.id, end: 1 }, at: place(c[4], c[5]), from: nodeScreen(b) })
    }
    return out
  })

  /** Bends a segment so that its handle, or its middle, comes to a place. */
  function bend({ id, end }: Bend, at: ScreenPoint): void {
    const { nodes } = piece.settled.profile
    const index = nodes.findIndex((n) => n.id === id)
    const [a, b] = [nodes[index], nodes[index + 1]]
    const segment = sharpSegments(nodes).find((s) => s.index === index)
    if (!a || !b || !segment) return
    const plane = view.screenToPlane(at)
    const p = { r: sign.value * plane.x, z: plane.z }
    if (end === 'middle') {
      const bulge = bulgeThrough([a.r, a.z], [p.r, p.z], [b.r, b.z])
      if (Number.isFinite(bulge) && Math.abs(bulge) < 100) piece.preview = { type: 'set-bulge', id, bulge }
      return
    }
    if (segment.kind !== 'cubic') return
    const handles = handlesOf(segment.cubic)
    const from = end === 0 ? a : b
    handles[2 * end] = p.r - from.r
    handles[2 * end + 1] = p.z - from.z
    piece.preview = { type: 'set-handles', id, handles }
  }

  return { bends, bend }
}

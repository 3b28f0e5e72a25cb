import { computed, type Ref } from 'vue'
import type { PicturePoint } from '../../core/conventions'
import { picturePointOf } from '../../core/profile/edit'
import type { ProfileNode } from '../../core/profile/profile'
import { toPlane } from '../../core/camera/view'
import { useView } from '../composables/use-view'
import { usePiece } from '../stores/piece'
import { solidClient } from '../workers/solid-client'
import { newId } from './new-id'
import { useEdgePath } from './outline/use-edge-path'
import type { Place } from './snapping'

/** Without an outline's own tolerance the curve stays this near to the edge, px: about what an edge is known to. */
const FIT_PX = 0.5

/** The pen along the photo's edge: the way to the pointer, and the nodes of few elements that follow it. */
export function useEdgeRun(sign: Ref<number>) {
  const piece = usePiece()
  const view = useView()
  const { live, problem, find, look: show, drop } = useEdgePath()

  const inPicture = (p: Place): PicturePoint =>
    picturePointOf(sign.value < 0 ? 'left' : 'right', p, view.seen.value)

  /** The way to the pointer as a path on the screen. */
  const way = computed(() => {
    const points: string[] = []
    for (let i = 0; i + 1 < live.value.length; i += 2) {
      const { sx, sy } = view.pictureToScreen({ x: live.value[i]!, y: live.value[i + 1]! })
      points.push(`${sx.toFixed(1)} ${sy.toFixed(1)}`)
    }
    return points.length > 1 ? `M${points.join('L')}` : ''
  })

  /** Nodes along the edge from one place to another, the first on the place it starts from; null where none is found. */
  async function nodesTo(from: Place, to: Place): Promise<ProfileNode[] | null> {
    const path = await find(inPicture(from), inPicture(to))
    if (!path) return null
    const points: [number, number][] = [[from.r, from.z]]
    for (let i = 2; i + 3 < path.length; i += 2) {
      const p = toPlane(view.seen.value, { x: path[i]!, y: path[i + 1]! })
      points.push([Math.max(1e-6, sign.value * p.x), p.z])
    }
    points.push([to.r, to.z])
    const toleranceMm = piece.document.outline?.fitMm ?? FIT_PX * view.frame.value.mmPerPx
    drop()
    try {
      const { nodes } = await solidClient.call((worker) => worker.fitRun(points, toleranceMm))
      if (nodes.length < 2) return null
      return nodes.map((node) => ({ ...node, id: newId(), drawn: inPicture(node) }))
    } catch (error) {
      problem.value = (error as Error).message
      return null
    }
  }

  return {
    way,
    problem,
    drop,
    nodesTo,
    look: (from: Place, to: Place) => show(inPicture(from), inPicture(to)),
  }
}

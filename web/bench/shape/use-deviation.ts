import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import { curveDeviation } from '../../../core/profile/deviation'
import { reversed } from '../../../core/profile/edit'
import { extent, flatten } from '../../../core/profile/flatten'
import { profileSegments } from '../../../core/profile/profile-segments'
import { usePiece } from '../../stores/piece'
import { useOutlineRead } from '../outline/use-outline-read'

/** Chords for comparing are finer than those for drawing, as a share of the extent. */
const FINE = 1 / 100_000

/** How far the outline lies from the curve, where it was seen: one computation for comb, chart and figures. */
export const useDeviation = createSharedComposable(() => {
  const piece = usePiece()
  const { read } = useOutlineRead()
  const deviation = computed(() => {
    const seen = read.value
    const { nodes } = piece.document.profile
    if (!seen || nodes.length < 2) return null
    // The outline runs from the foot to the top.
    const upwards = nodes[0]!.z <= nodes[nodes.length - 1]!.z
    const segments = profileSegments(upwards ? nodes : reversed(nodes))
    const { points } = flatten(segments, { toleranceMm: FINE * extent(segments) })
    return curveDeviation(points, seen.points, (i) => seen.states[i] !== 'assumed')
  })
  return { read, deviation }
})

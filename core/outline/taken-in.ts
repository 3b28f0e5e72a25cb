import { samplePlane } from '../picture/sample'
import type { Plane } from '../picture/raster'
import { runsOf, type Silhouette } from './silhouette'

/** What lies so far within both edges, as a share of the half-width, but no less than so many px, … */
const WITHIN = 0.12
const LEAST_WITHIN_PX = 4
/** … but for the px next to the edge, which show both, is backdrop where it speaks against the piece by so much in the mean. */
const EDGE_PX = 1.5
const BACKDROP = -0.7

/**
 * Over how many rows on end, at most, a silhouette has backdrop within both of its edges: there it follows lines that lie
 * evenly about the piece. A piece may have the backdrop's colours in one place, but hardly its edges all along.
 * @param firm how much each px speaks for the piece, -1 (surely backdrop) to 1
 */
export function rowsTakenIn({ axis: { at, up }, top, half }: Silhouette, firm: Plane): number {
  const isTakenIn = half.map((r, row) => {
    const wide = Math.max(LEAST_WITHIN_PX, WITHIN * r)
    if (r < EDGE_PX + wide) return 0
    const v = top - row
    const means = [-1, 1].map((side) => {
      let [sum, count] = [0, 0]
      for (let d = EDGE_PX; d <= EDGE_PX + wide; d++) {
        const u = side * (r - d)
        sum += samplePlane(firm, at.x + v * up.x - u * up.y, at.y + v * up.y + u * up.x, -1)
        count++
      }
      return sum / count
    })
    return Math.max(...means) < BACKDROP ? 1 : 0
  })
  return Math.max(0, ...runsOf(isTakenIn).map(({ from, to }) => to - from))
}

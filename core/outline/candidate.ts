import type { AxisLine } from './axis-line'
import type { Silhouette } from './silhouette'

/** A thing that might be the piece: its axis, what it is worth, and the silhouette that told it; null where there is none. */
export interface Candidate {
  axis: AxisLine
  worth: number
  silhouette: Silhouette | null
  /** Share of its rows whose edges lie evenly about the axis. */
  even: number
}

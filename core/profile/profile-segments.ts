import { roundEdges, type EdgeNote } from './edges'
import type { ProfileNode } from './profile'
import { sharpSegments, type Segment } from './segments'

/** The exact curve with its fillets and chamfers, and which of these had to be made smaller than asked for. */
export function roundedSegments(nodes: readonly ProfileNode[]): { segments: Segment[]; notes: EdgeNote[] } {
  return roundEdges(sharpSegments(nodes), nodes)
}

/** The exact curve through the nodes, corners filleted and chamfered as they say. */
export function profileSegments(nodes: readonly ProfileNode[]): Segment[] {
  return roundedSegments(nodes).segments
}

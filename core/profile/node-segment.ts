import type { ProfileNode } from './profile'

/** What a node says of the segment that follows it. */
export type NodeSegment = Pick<ProfileNode, 'next' | 'bulge' | 'handles' | 'way' | 'radius'>

export const LINE: NodeSegment = { next: 'line' }
/** A curve that is as fair as its neighbours let it be. */
export const FAIR: NodeSegment = { next: 'curve' }

/** The node with another segment behind it. */
export function withSegment(
  node: ProfileNode,
  { next, bulge, handles, way, radius }: NodeSegment,
): ProfileNode {
  const out: ProfileNode = { ...node, next, bulge, handles, way, radius }
  if (next !== 'arc' || !bulge) delete out.bulge
  if (next !== 'curve' || !handles) delete out.handles
  if (next !== 'line' || !way) delete out.way
  if (next !== 'arc' || !radius) delete out.radius
  return out
}

/** The same segment run the other way. */
export function backwards({ next, bulge, handles, way, radius }: NodeSegment): NodeSegment {
  return {
    next,
    way,
    radius,
    bulge: bulge === undefined ? undefined : -bulge,
    handles: handles && [handles[2], handles[3], handles[0], handles[1]],
  }
}

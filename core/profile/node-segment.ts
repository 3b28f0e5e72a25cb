import type { ProfileNode } from './profile'

/** What a node says of the segment that follows it. */
export type NodeSegment = Pick<ProfileNode, 'next' | 'bulge' | 'handles'>

export const LINE: NodeSegment = { next: 'line' }
/** A curve that is as fair as its neighbours let it be. */
export const FAIR: NodeSegment = { next: 'curve' }

/** The node with another segment behind it. */
export function withSegment(node: ProfileNode, { next, bulge, handles }: NodeSegment): ProfileNode {
  const out: ProfileNode = { ...node, next, bulge, handles }
  if (next !== 'arc' || !bulge) delete out.bulge
  if (next !== 'curve' || !handles) delete out.handles
  return out
}

/** The same segment run the other way. */
export function backwards({ next, bulge, handles }: NodeSegment): NodeSegment {
  return {
    next,
    bulge: bulge === undefined ? undefined : -bulge,
    handles: handles && [handles[2], handles[3], handles[0], handles[1]],
  }
}

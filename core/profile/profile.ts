import type { PicturePoint } from '../conventions'

export type Joint = 'corner' | 'smooth'
export type SegmentKind = 'line' | 'arc' | 'curve'

/** What a corner is worked to: rounded by a radius, or cut off by a size along both sides, mm. */
export interface CornerEdge {
  kind: 'fillet' | 'chamfer'
  mm: number
}

/**
 * A node of the half-profile. Coordinates are mm relative to axis and ground; the picture point it was
 * drawn at is kept, so that a corrected scale or axis moves the node rightly.
 */
export interface ProfileNode {
  id: string
  r: number
  z: number
  /** How the curve passes: with a corner, or with one tangent. */
  joint: Joint
  /** The segment from this node to the following one; without meaning on the last node. */
  next: SegmentKind
  /** Of an arc: tangent of a quarter of its sweep, positive when it turns to the left; see `arcOf`. */
  bulge?: number
  /**
   * Of a curve: where its two control points lie, [r z] against this node and [r z] against the following one, mm. Without
   * them the curve is fair: a Hobby spline through its neighbours.
   */
  handles?: [number, number, number, number]
  /** The segment stays level or upright: both its nodes share their height or their ⌀. */
  way?: 'level' | 'upright'
  /** The arc that follows keeps this radius, mm. */
  radius?: number
  /** Coordinates that nothing but typing changes. */
  held?: ('r' | 'z')[]
  /** Of a smooth joint between curves: they also share their curvature there. */
  even?: true
  /** Of a corner: kept as a wish, so that it can be changed and taken away. */
  edge?: CornerEdge
  /** Where it was drawn in the photo; absent for nodes that never were. */
  drawn?: PicturePoint
  /** Coordinates that were typed, and so don't follow a changed scale. */
  typed?: ('r' | 'z')[]
  /** Set while the node follows the outline found in the photo; a hand that touches it takes this away. */
  by?: 'outline'
}

/** Side of the axis, seen upright, on which the half-profile was drawn. */
export type Side = 'left' | 'right'

/** Nodes that share their ⌀ or their height. */
export interface Tie {
  id: string
  coordinate: 'r' | 'z'
  nodes: string[]
}

/** A run of nodes that is not joined to the profile (yet). */
export interface Stroke {
  id: string
  nodes: ProfileNode[]
}

export interface HalfProfile {
  side: Side
  ties?: Tie[]
  /** The stroke in hand, of which the solid is made; in drawing order. */
  nodes: ProfileNode[]
  /** Strokes that lie aside: shown, moved with the calibration, joined when their ends come near. */
  aside?: Stroke[]
}

export const EMPTY_PROFILE: HalfProfile = { side: 'right', nodes: [] }

/** True when an end lies exactly on the axis. */
export function onAxis(node: Pick<ProfileNode, 'r'>): boolean {
  return node.r === 0
}

/** True when both ends lie exactly on the axis, so that the revolved curve has no hole. */
export function isClosed(nodes: readonly ProfileNode[]): boolean {
  // Two nodes are enough for a ball.
  const bounds = nodes.length >= 3 || (nodes.length === 2 && nodes[0]!.next !== 'line')
  return bounds && onAxis(nodes[0]!) && onAxis(nodes[nodes.length - 1]!)
}

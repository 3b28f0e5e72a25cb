/** What a node's wished place is drawn to. */
export interface SnapRequest {
  r: number
  z: number
  /** Only ends lie on the axis. */
  mayEndOnAxis: boolean
  neighbours: readonly { r: number; z: number }[]
  mmPerScreenPx: number
  /** Shift: exactly level or upright from the nearer neighbour. */
  straight: boolean
  /** Alt or Ctrl: no snapping, for delicate moves. Ends still close on the axis when they touch it. */
  free: boolean
}

export interface Snapped {
  r: number
  z: number
  /** What it snapped to, in words, for the tag beside the pointer. */
  to: string[]
}

/** Distances on the screen within which things attract, px. */
const AXIS_PX = 9
const LEVEL_PX = 5

/** Draws a place to the axis, the ground and the neighbours' heights and diameters; visible before the click. */
export function snapNode(request: SnapRequest): Snapped {
  const { mayEndOnAxis, neighbours, mmPerScreenPx: mm } = request
  let { r, z } = request
  const to: string[] = []
  const near = (a: number, b: number, px: number) => Math.abs(a - b) <= px * mm
  if (request.straight && neighbours.length > 0) {
    const from = neighbours.reduce((a, b) =>
      Math.hypot(a.r - r, a.z - z) <= Math.hypot(b.r - r, b.z - z) ? a : b,
    )
    if (Math.abs(from.r - r) < Math.abs(from.z - z)) {
      r = from.r
      to.push('upright')
    } else {
      z = from.z
      to.push('level')
    }
  }
  if (mayEndOnAxis && near(r, 0, request.free ? 1 : AXIS_PX)) {
    r = 0
    to.push('on the axis')
  }
  if (request.free) return { r, z, to }
  if (to.includes('upright') || !to.includes('level')) {
    const level = neighbours.find((n) => near(z, n.z, LEVEL_PX))
    if (near(z, 0, LEVEL_PX)) {
      z = 0
      to.push('on the ground')
    } else if (level && !to.includes('upright')) {
      z = level.z
      to.push('level')
    }
  }
  if (r > 0 && !to.includes('upright')) {
    const equal = neighbours.find((n) => n.r > 0 && near(r, n.r, LEVEL_PX))
    if (equal && !to.includes('level')) {
      r = equal.r
      to.push('same ⌀')
    }
  }
  return { r, z, to }
}

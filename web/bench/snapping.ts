/** A place on the half-profile's plane, mm. */
export interface Place {
  r: number
  z: number
}

/** What a node's wished place is drawn to. */
export interface SnapRequest extends Place {
  /** Only ends lie on the axis. */
  mayEndOnAxis: boolean
  neighbours: readonly Place[]
  mmPerScreenPx: number
  /** Shift: exactly level or upright from the nearer neighbour. */
  straight: boolean
  /** Alt or Ctrl: no snapping, for delicate moves. Ends still close on the axis when they touch it. */
  free: boolean
  /** Other nodes, whose heights and diameters attract. */
  others?: readonly Place[]
  /** Heights of stations. */
  levels?: readonly { z: number; name: string }[]
  /** The half-profile as the photo shows it, from the foot to the top. */
  edge?: readonly (readonly [number, number])[]
  /** Ends of strokes that lie aside. */
  ends?: readonly (Place & { stroke: string })[]
  /** Step of the grid, mm; in ⌀ it is twice that. 0: none. */
  gridMm?: number
}

export interface Snapped extends Place {
  /** What it snapped to, in words, for the tag beside the pointer. */
  to: string[]
  /** The places it snapped to, to be pointed out. */
  guides: Place[]
  /** The stroke whose end it meets. */
  joins?: string
}

/** Distances on the screen within which things attract, px. */
const AXIS_PX = 9
const LEVEL_PX = 5
const EDGE_PX = 7
/** Ends of strokes that come nearer than this join; drawn as a ring about them. */
export const JOIN_PX = 12

/**
 * Draws a place to what is near it; visible before the click. First of all Shift, the axis and other strokes' ends; then the
 * edge of the photo; then heights and diameters of the ground, the neighbours, stations and other nodes; last the grid.
 */
export function snapNode(request: SnapRequest): Snapped {
  const { mmPerScreenPx: mm, mayEndOnAxis } = request
  const near = (a: number, b: number, px: number) => Math.abs(a - b) <= px * mm
  const held = request.straight ? straightened(request) : null
  const place = held ? { r: held.r, z: held.z } : { r: request.r, z: request.z }
  const out: Snapped = { ...place, to: held ? [held.way] : [], guides: [] }
  if (mayEndOnAxis && near(out.r, 0, request.free ? 1 : AXIS_PX)) {
    out.r = 0
    out.to.push('on the axis')
  }
  if (request.free) return out
  const end = nearest(request.ends ?? [], out)
  if (!held && end && distance(end, out) <= JOIN_PX * mm)
    return { r: end.r, z: end.z, to: ['joins'], guides: [], joins: end.stroke }
  const height = held?.way === 'level' ? null : bestHeight(request, out)
  const touch = out.r > 0 ? edgeAt(request, out, height?.value ?? null, held?.way) : null
  if (touch) return { ...touch, to: [...out.to, 'on the edge', ...(height ? height.words : [])], guides: height?.guides ?? [] } // prettier-ignore
  if (height) {
    out.z = height.value
    out.to.push(...height.words)
    out.guides.push(...height.guides)
  }
  if (out.r > 0 && held?.way !== 'upright') {
    const width = bestRadius(request, out)
    if (width) {
      out.r = width.value
      out.to.push(...width.words)
      out.guides.push(...width.guides)
    }
  }
  return out
}

interface Pull {
  value: number
  words: string[]
  guides: Place[]
}

const distance = (a: Place, b: Place) => Math.hypot(a.r - b.r, a.z - b.z)

function nearest<T extends Place>(places: readonly T[], p: Place): T | null {
  return places.reduce<T | null>((best, q) => (!best || distance(q, p) < distance(best, p) ? q : best), null)
}

/** Level or upright from the nearer neighbour, whichever is less of a change. */
function straightened({ r, z, neighbours }: SnapRequest): (Place & { way: 'level' | 'upright' }) | null {
  const from = nearest(neighbours, { r, z })
  if (!from) return null
  return Math.abs(from.r - r) < Math.abs(from.z - z)
    ? { r: from.r, z, way: 'upright' }
    : { r, z: from.z, way: 'level' }
}

function bestHeight(request: SnapRequest, { z }: Place): Pull | null {
  const { neighbours, others = [], levels = [], gridMm = 0, mmPerScreenPx: mm } = request
  const within = (value: number) => Math.abs(value - z) <= LEVEL_PX * mm
  if (within(0)) return { value: 0, words: ['on the ground'], guides: [] }
  const level = neighbours.find((n) => within(n.z))
  if (level && !request.straight) return { value: level.z, words: ['level'], guides: [] }
  const station = levels.find((s) => within(s.z))
  if (station) return { value: station.z, words: [`at ${station.name}`], guides: [] }
  const other = closest(others, (n) => Math.abs(n.z - z))
  if (other && within(other.z)) return { value: other.z, words: ['same height'], guides: [other] }
  return onGrid(z, gridMm, within)
}

function bestRadius(request: SnapRequest, at: Place): Pull | null {
  const { neighbours, others = [], gridMm = 0, mmPerScreenPx: mm } = request
  const within = (value: number) => value > 0 && Math.abs(value - at.r) <= LEVEL_PX * mm
  // Level with a neighbour and of its ⌀ it would lie on it.
  const free = (n: Place) => n.z !== at.z && within(n.r)
  const neighbour = neighbours.find(free)
  if (neighbour) return { value: neighbour.r, words: ['same ⌀'], guides: [] }
  const other = closest(others.filter(free), (n) => Math.abs(n.r - at.r))
  if (other) return { value: other.r, words: ['same ⌀'], guides: [other] }
  return onGrid(at.r, gridMm, within)
}

function closest<T>(list: readonly T[], far: (item: T) => number): T | null {
  return list.reduce<T | null>((best, item) => (!best || far(item) < far(best) ? item : best), null)
}

function onGrid(value: number, gridMm: number, within: (v: number) => boolean): Pull | null {
  if (!(gridMm > 0)) return null
  // Through a division, so that 0.3 comes out as 3/10 and not as a sum of tenths.
  const per = 1 / gridMm
  const line = Number.isInteger(per) ? Math.round(value * per) / per : Math.round(value / gridMm) * gridMm
  return within(line) ? { value: line, words: ['on the grid'], guides: [] } : null
}

/** The place of the photo's edge near a place: at a height when one attracts too, straight above or beside it under Shift. */
function edgeAt(
  request: SnapRequest,
  at: Place,
  height: number | null,
  way?: 'level' | 'upright',
): Place | null {
  const { edge = [], mmPerScreenPx: mm } = request
  const z = way === 'level' ? at.z : height
  const r = way === 'upright' ? at.r : null
  if (r !== null && z !== null) return null
  let best: Place | null = null
  for (let i = 0; i + 1 < edge.length; i++) {
    const [a, b] = [edge[i]!, edge[i + 1]!]
    const place = z !== null ? crossing(a, b, 1, z) : r !== null ? crossing(a, b, 0, r) : foot(a, b, at)
    if (place && (!best || distance(place, at) < distance(best, at))) best = place
  }
  return best && distance(best, at) <= EDGE_PX * mm ? best : null
}

type Pair = readonly [number, number]

function crossing(a: Pair, b: Pair, axis: 0 | 1, value: number): Place | null {
  const [p, q] = [a[axis] - value, b[axis] - value]
  if (p * q > 0 || p === q) return null
  const t = p / (p - q)
  const [r, z] = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])]
  return axis === 1 ? { r, z: value } : { r: value, z }
}

function foot(a: Pair, b: Pair, { r, z }: Place): Place {
  const [dr, dz] = [b[0] - a[0], b[1] - a[1]]
  const square = dr * dr + dz * dz
  const t = square > 0 ? Math.min(1, Math.max(0, ((r - a[0]) * dr + (z - a[1]) * dz) / square)) : 0
  return { r: a[0] + t * dr, z: a[1] + t * dz }
}

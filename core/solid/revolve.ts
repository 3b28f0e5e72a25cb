import { CoreError, requireFinite } from '../errors'
import { flatEnd } from './flat-end'
import type { Mesh } from './mesh'

export interface RevolveOptions {
  /** Number of sides around the axis, 3 to 4096. ⌀ is across the corners. */
  sides: number
  /** A part of a turn, closed by flat ends; default: a full one. */
  turn?: Turn
}

/** A part of a turn, radians: where it starts, from +x towards +y, and how far it goes, more than 0 and less than a full turn. */
export interface Turn {
  start: number
  sweep: number
}

export const LEAST_SIDES = 3
export const MOST_SIDES = 4096

/**
 * Revolves a closed half-profile about the axis.
 *
 * The chain must start and end exactly on the axis (r = 0, decided by equality, not by a tolerance: whoever
 * draws snaps the ends), have r > 0 in between, and run from the lower end outwards and up. Each end becomes
 * one pole, every other point a ring of `sides` vertices; rings close by modulo. Vertices come as
 * [lower pole, ring 1, ring 2, ..., upper pole], so that their count is rings · sides + 2 and that of the
 * triangles 2 · sides · rings.
 *
 * @param points flat [r z ...], mm
 * @throws CoreError `revolve-sides`, `revolve-open`, `revolve-inner-pole`, `revolve-too-short`, `not-finite`
 */
export function revolve(points: Float64Array, options: RevolveOptions): Mesh {
  const { sides, turn } = options
  requireRevolvable(points, sides)
  if (turn && turn.sweep < 2 * Math.PI) return revolvePart(points, sides, turn)
  const rings = points.length / 2 - 2
  const positions = new Float64Array(3 * (rings * sides + 2))
  const triangles = new Uint32Array(6 * sides * rings)
  const top = rings * sides + 1
  positions[2] = points[1]!
  positions[3 * top + 2] = points[points.length - 1]!
  fillRings(positions, points, sides)
  fillTriangles(triangles, rings, sides)
  return { positions, triangles }
}

/** Cosines and sines of the corners, [c0 s0 c1 s1 ...]; corner 0 lies on +x. */
export function cornerDirections(sides: number): Float64Array {
  const directions = new Float64Array(2 * sides)
  for (let i = 0; i < sides; i++) {
    // Reduced to the first octant, so that the quarter points come out exact and opposite corners are exact negatives.
    const [c, s] = exactDirection(i, sides)
    directions[2 * i] = c
    directions[2 * i + 1] = s
  }
  return directions
}

function exactDirection(i: number, n: number): [number, number] {
  const quarter = Math.floor((4 * i) / n)
  const rest = 4 * i - quarter * n // angle in quarter turns is rest / n, in 0..1
  const [c, s] =
    2 * rest <= n
      ? [Math.cos((Math.PI / 2) * (rest / n)), Math.sin((Math.PI / 2) * (rest / n))]
      : [Math.sin((Math.PI / 2) * ((n - rest) / n)), Math.cos((Math.PI / 2) * ((n - rest) / n))]
  const turns: [number, number][] = [
    [c, s],
    [-s, c],
    [-c, -s],
    [s, -c],
  ]
  return turns[quarter]!
}

/** Sides of a part of a turn: as broad as those of the full one, or a little different to fit. */
export function sidesOfPart(sides: number, { sweep }: Turn): number {
  return Math.max(1, Math.round((sides * sweep) / (2 * Math.PI)))
}

/**
 * A part of a turn: rings of one vertex more than sides, poles as ever, and both flat ends over the vertices that are there,
 * so that the mesh stays closed along the axis too.
 */
function revolvePart(points: Float64Array, sides: number, turn: Turn): Mesh {
  const n = sidesOfPart(sides, turn)
  const columns = n + 1
  const rings = points.length / 2 - 2
  const top = rings * columns + 1
  const positions = new Float64Array(3 * (top + 1))
  positions[2] = points[1]!
  positions[3 * top + 2] = points[points.length - 1]!
  for (let k = 0; k < rings; k++)
    for (let i = 0; i < columns; i++) {
      const angle = turn.start + (turn.sweep * i) / n
      const at = 3 * (1 + k * columns + i)
      positions[at] = points[2 * k + 2]! * Math.cos(angle)
      positions[at + 1] = points[2 * k + 2]! * Math.sin(angle)
      positions[at + 2] = points[2 * k + 3]!
    }
  const vertex = (point: number, column: number) =>
    point === 0 ? 0 : point === rings + 1 ? top : 1 + (point - 1) * columns + column
  const triangles: number[] = []
  for (let point = 0; point <= rings; point++)
    for (let i = 0; i < n; i++) {
      const [a, b, c, d] = [vertex(point, i), vertex(point, i + 1), vertex(point + 1, i + 1), vertex(point + 1, i)] // prettier-ignore
      if (a !== b) triangles.push(a, b, c)
      if (c !== d) triangles.push(a, c, d)
    }
  const end = flatEnd(points)
  for (let i = 0; i < end.length; i += 3) {
    const [a, b, c] = [end[i]!, end[i + 1]!, end[i + 2]!]
    // Seen along the way round, the profile of the first end is seen from behind.
    triangles.push(vertex(a, 0), vertex(b, 0), vertex(c, 0))
    triangles.push(vertex(a, n), vertex(c, n), vertex(b, n))
  }
  return { positions, triangles: Uint32Array.from(triangles) }
}

function fillRings(positions: Float64Array, points: Float64Array, sides: number): void {
  const directions = cornerDirections(sides)
  const last = points.length / 2 - 1
  let at = 3
  for (let k = 1; k < last; k++) {
    const r = points[2 * k]!
    const z = points[2 * k + 1]!
    for (let i = 0; i < 2 * sides; i += 2) {
      positions[at] = r * directions[i]!
      positions[at + 1] = r * directions[i + 1]!
      positions[at + 2] = z
      at += 3
    }
  }
}

function fillTriangles(triangles: Uint32Array, rings: number, sides: number): void {
  let at = 0
  for (let i = 0; i < sides; i++) {
    triangles[at++] = 0
    triangles[at++] = 1 + (i + 1 === sides ? 0 : i + 1)
    triangles[at++] = 1 + i
  }
  for (let k = 0; k + 1 < rings; k++) {
    const first = 1 + k * sides
    const last = first + sides - 1
    for (let a = first; a < last; a++) {
      at = quad(triangles, at, a, a + 1, a + 1 + sides, a + sides)
    }
    at = quad(triangles, at, last, first, first + sides, last + sides)
  }
  const top = rings * sides + 1
  const ring = top - sides
  for (let i = 0; i < sides; i++) {
    triangles[at++] = ring + i
    triangles[at++] = ring + (i + 1 === sides ? 0 : i + 1)
    triangles[at++] = top
  }
}

/** Two triangles a-b-c and a-c-d. */
function quad(triangles: Uint32Array, at: number, a: number, b: number, c: number, d: number): number {
  triangles[at] = a
  triangles[at + 1] = b
  triangles[at + 2] = c
  triangles[at + 3] = a
  triangles[at + 4] = c
  triangles[at + 5] = d
  return at + 6
}

function requireRevolvable(points: Float64Array, sides: number): void {
  if (!Number.isInteger(sides) || sides < LEAST_SIDES || sides > MOST_SIDES) {
    throw new CoreError({
      code: 'revolve-sides',
      message: `The number of sides must be a whole number from ${LEAST_SIDES} to ${MOST_SIDES}.`,
      where: 'sides',
      expected: `${LEAST_SIDES}..${MOST_SIDES}`,
      received: String(sides),
    })
  }
  const count = points.length / 2
  if (count < 3) {
    throw new CoreError({
      code: 'revolve-too-short',
      message: 'A profile needs at least three points to revolve.',
      where: 'profile',
      expected: '>= 3',
      received: String(count),
    })
  }
  for (let i = 0; i < points.length; i++) requireFinite(points[i]!, `profile point ${i >> 1}`)
  if (points[0] !== 0 || points[points.length - 2] !== 0) {
    throw new CoreError({
      code: 'revolve-open',
      message: 'The profile is open: both ends must lie on the axis. Close it first.',
      where: 'profile ends',
      expected: 'r = 0',
      received: `r = ${points[0]} and ${points[points.length - 2]}`,
    })
  }
  for (let k = 1; k < count - 1; k++) {
    if (points[2 * k]! > 0) continue
    throw new CoreError({
      code: 'revolve-inner-pole',
      message: `The profile meets the axis between its ends, at height ${points[2 * k + 1]} mm.`,
      where: `point ${k}`,
      expected: 'r > 0',
      received: `r = ${points[2 * k]}`,
    })
  }
}

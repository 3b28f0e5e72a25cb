import { signedPlace } from '../profile/nearest-chord'
import type { Mesh } from './mesh'

/** Signed distance from a body, mm: negative inside. */
export type Distance = (x: number, y: number, z: number) => number

/** Steps of a fillet's arc. */
const ARC_STEPS = 7
/** Along an edge a distance may differ so much from a straight run, as a share of the radius, before it is halved. */
const BENT = 1 / 10
const ROUNDS = 12
/** Within the body the flare keeps its full width to the first of these depths and is gone at the second, in radii. */
const KEPT_TO = 0.5
const GONE_AT = 1.5
const SCAN = 8
const HALVINGS = 24

/**
 * A fitting flared where it meets a body, so that a ball of the radius would roll along both: each point moves along its
 * normal by s with s = r - √(r² - (r - d)²), d being its distance from the body where it comes to lie. That touches the
 * fitting at d = r and the body at d = 0 whatever angle they meet at, and is the exact arc where they meet square. The mesh is
 * split first where the flare needs more points; it stays closed.
 */
export function filletedTo(mesh: Mesh, distance: Distance, radius: number): Mesh {
  const fine = refined(mesh, distance, radius)
  const normals = vertexNormals(fine)
  const positions = fine.positions.slice()
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!]
    const [nx, ny, nz] = [normals[i]!, normals[i + 1]!, normals[i + 2]!]
    const s = flare((by) => distance(x + by * nx, y + by * ny, z + by * nz), radius)
    positions.set([x + s * nx, y + s * ny, z + s * nz], i)
  }
  return { positions, triangles: fine.triangles }
}

/** How far the flare stands out at a distance from the body. */
function breadth(d: number, radius: number): number {
  if (d >= radius) return 0
  if (d >= 0) return radius - Math.sqrt(d * (2 * radius - d))
  const depth = -d / radius
  if (depth <= KEPT_TO) return radius
  const t = Math.min(1, (depth - KEPT_TO) / (GONE_AT - KEPT_TO))
  return radius * (1 - t * t * (3 - 2 * t))
}

/** The least way along the normal at which it is as broad as it is far. */
function flare(distanceAt: (by: number) => number, radius: number): number {
  const lacks = (s: number) => breadth(distanceAt(s), radius) - s
  if (lacks(0) <= 0) return 0
  let low = 0
  for (let k = 1; k <= SCAN; k++) {
    let high = (k / SCAN) * radius
    if (lacks(high) > 0) {
      low = high
      continue
    }
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (low + high) / 2
      if (lacks(middle) > 0) low = middle
      else high = middle
    }
    return (low + high) / 2
  }
  return radius
}

type Three = [number, number, number]

/** A mesh whose edges can be cut; its vertices know how far they are from the body. */
interface Cut {
  positions: number[]
  distances: number[]
  triangles: number[]
}

/** The mesh with vertices at every step of the arc, in rows along the body, so that its foot is one clean line. */
function refined(mesh: Mesh, distance: Distance, radius: number): Mesh {
  const positions = Array.from(mesh.positions)
  const distances: number[] = []
  for (let i = 0; i < positions.length; i += 3)
    distances.push(distance(positions[i]!, positions[i + 1]!, positions[i + 2]!))
  let cut: Cut = { positions, distances, triangles: Array.from(mesh.triangles) }
  for (let round = 0; round < ROUNDS; round++) {
    const before = cut.triangles.length
    cut = cutEdges(cut, distance, (a, b) => (isBent(cut, a, b, distance, radius) ? 0.5 : null))
    if (cut.triangles.length === before) break
  }
  for (let k = 0; k <= ARC_STEPS; k++) {
    const level = radius * (1 - Math.cos((Math.PI / 2) * (k / ARC_STEPS)))
    cut = cutEdges(cut, distance, (a, b) => crossingOf(cut, a, b, distance, level, radius))
  }
  return { positions: Float64Array.from(cut.positions), triangles: Uint32Array.from(cut.triangles) }
}

/** The mesh with a vertex on each edge where `where` puts one, as a share of the way from its first to its second vertex. */
function cutEdges(
  { positions, distances, triangles }: Cut,
  distance: Distance,
  where: (a: number, b: number) => number | null,
): Cut {
  const made = new Map<number, number>()
  const count = distances.length
  const vertexOn = (p: number, q: number): number => {
    const [a, b] = p < q ? [p, q] : [q, p]
    const known = made.get(a * count + b)
    if (known !== undefined) return known
    const share = where(a, b)
    const vertex = share === null ? -1 : distances.length
    if (share !== null) {
      const place = along(positions, a, b, share)
      positions.push(...place)
      distances.push(distance(...place))
    }
    made.set(a * count + b, vertex)
    return vertex
  }
  const out: number[] = []
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!]
    out.push(...split([a, b, c], [vertexOn(a, b), vertexOn(b, c), vertexOn(c, a)]))
  }
  return { positions, distances, triangles: out }
}

function along(p: readonly number[], a: number, b: number, share: number): Three {
  return [0, 1, 2].map((k) => p[3 * a + k]! + share * (p[3 * b + k]! - p[3 * a + k]!)) as Three
}

/** True for an edge within reach of the flare along which the distance doesn't run straight: it could leap over it unseen. */
function isBent(
  { positions, distances }: Cut,
  a: number,
  b: number,
  distance: Distance,
  radius: number,
): boolean {
  const [from, to] = [distances[a]!, distances[b]!]
  const [i, j] = [3 * a, 3 * b]
  const length = Math.hypot(positions[i]! - positions[j]!, positions[i + 1]! - positions[j + 1]!, positions[i + 2]! - positions[j + 2]!) // prettier-ignore
  // A distance changes no faster than the place.
  const least = (from + to - length) / 2
  const most = (from + to + length) / 2
  if (least > radius || most < 0) return false
  return Math.abs(distance(...along(positions, a, b, 0.5)) - (from + to) / 2) > BENT * radius
}

/** What lies nearer to a level than this share of the radius lies on it. */
const ON_LEVEL = 1e-6

/** Where an edge crosses a level of distance; null where it doesn't. */
function crossingOf(
  { positions, distances }: Cut,
  a: number,
  b: number,
  distance: Distance,
  level: number,
  radius: number,
): number | null {
  const [from, to] = [distances[a]! - level, distances[b]! - level]
  if (Math.abs(from) < ON_LEVEL * radius || Math.abs(to) < ON_LEVEL * radius || from * to > 0) return null
  let [low, high] = [0, 1]
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2
    if ((distance(...along(positions, a, b, middle)) - level) * from > 0) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** The parts of a triangle whose edges have the middles, -1 where an edge stays whole; turned the same way. */
function split(corners: Three, middles: Three): number[] {
  const count = middles.filter((m) => m >= 0).length
  if (count === 0) return corners
  // Turned so that with one middle it is on the first edge, with two the last edge is whole.
  const first =
    count === 1 ? middles.findIndex((m) => m >= 0) : count === 2 ? (middles.indexOf(-1) + 1) % 3 : 0
  const [a, b, c] = [0, 1, 2].map((k) => corners[(first + k) % 3]!) as Three
  const [ab, bc, ca] = [0, 1, 2].map((k) => middles[(first + k) % 3]!) as Three
  if (count === 1) return [a, ab, c, ab, b, c]
  if (count === 2) return [a, ab, c, ab, bc, c, ab, b, bc]
  return [a, ab, ca, ab, b, bc, bc, c, ca, ab, bc, ca]
}

/** Unit normals at the vertices: those of the faces about each, weighted by their angles there. */
function vertexNormals({ positions: p, triangles: t }: Mesh): Float64Array {
  const normals = new Float64Array(p.length)
  for (let i = 0; i < t.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [3 * t[i + k]!, 3 * t[i + ((k + 1) % 3)]!, 3 * t[i + ((k + 2) % 3)]!]
      const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!]
      const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!]
      const n: Three = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
      const size = Math.hypot(...n)
      const angle = Math.atan2(size, ux * vx + uy * vy + uz * vz)
      if (size > 0) n.forEach((v, j) => (normals[a + j]! += (angle * v) / size))
    }
  for (let i = 0; i < normals.length; i += 3) {
    const size = Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!) || 1
    for (let j = 0; j < 3; j++) normals[i + j]! /= size
  }
  return normals
}

/**
 * Distance from the body that a closed half-profile [r z ...] makes, all round.
 * @param sides of its flat sides, the first corner on +x, square to them; absent: it is round
 */
export function revolvedDistance(points: Float64Array, sides?: number): Distance {
  const side = sides ? (2 * Math.PI) / sides : 0
  /** By how much a place is nearer to its flat side than to the circle through the corners. */
  const flattened = (x: number, y: number) => {
    const angle = Math.atan2(y, x)
    return Math.cos(angle - side * (Math.floor(angle / side) + 0.5)) / Math.cos(side / 2)
  }
  return (x, y, z) => signedPlace(points, Math.hypot(x, y) * (sides ? flattened(x, y) : 1), z).distance
}

import { CoreError } from '../errors'
import { hobbyChain, type Cubic } from '../profile/hobby'
import { derivativeAt, pointAt } from '../profile/segments'
import { lidTriangles } from './lid'
import type { Mesh } from './mesh'

/** A place of a fitting in the plane of the photo: distance from the axis (to the right) and height, mm. */
export interface FittingPoint {
  x: number
  z: number
}

/** A tube along a curve; its section changes from point to point. Where it is added to a body a fillet may lead over to it. */
export interface Tube {
  points: readonly (FittingPoint & { mm: number })[]
  /** How thick it is across the plane, as a share of its ⌀ in the plane: 1 is round. */
  flat: number
  ends: 'flat' | 'round'
  filletMm?: number
}

/** A plate whose outline lies in the plane, so wide across it, its edges rounded; with a fillet where it meets a body, as a tube. */
export interface Plate {
  points: readonly FittingPoint[]
  widthMm: number
  /** Radius of the rounded edges, mm; 0: sharp. */
  roundMm: number
  /** The outline runs smoothly through its points; otherwise straight from one to the next. */
  smooth: boolean
  filletMm?: number
}

/** Sections along one piece of a tube's way, at least. */
const LEAST_STEPS = 6
/** Sections of a rounded end or edge. */
const ROUND_STEPS = 6

/**
 * The tube as a closed mesh about y = 0. Its way is Hobby's spline through the points, its ⌀ between them a monotone cubic
 * (Fritsch and Carlson, 1980, from memory), so that it never swells beyond what was given.
 * @param sides of its section
 * @throws CoreError `fitting` when it is too short, or bends more sharply than it is thick
 */
export function tubeMesh({ points, flat, ends }: Tube, sides: number): Mesh {
  if (points.length < 2) throw fault('Its way needs two points at least.')
  for (const [k, p] of points.entries()) {
    if (!(p.mm > 0)) throw fault(`Its ⌀ at point ${k + 1} must be more than 0.`)
    const before = points[k - 1]
    if (before && Math.hypot(p.x - before.x, p.z - before.z) < 1e-6) throw fault(`Points ${k} and ${k + 1} lie on each other.`) // prettier-ignore
  }
  const way = hobbyChain(points.flatMap((p) => [p.x, p.z]), 'free', 'free') // prettier-ignore
  const sections = sectionsAlong(way, points.map((p) => p.mm), sides) // prettier-ignore
  requireRoom(sections)
  const all = ends === 'round' ? [...rounded(sections[0]!, -1).reverse(), ...sections, ...rounded(sections.at(-1)!, 1)] : sections // prettier-ignore
  return sweep(all, flat, sides)
}

interface Section {
  x: number
  z: number
  /** Unit direction of the way. */
  tx: number
  tz: number
  radius: number
}

function sectionsAlong(way: readonly Cubic[], diameters: readonly number[], sides: number): Section[] {
  const lengths = way.map((c) => lengthOf(c))
  const slopes = monotoneSlopes(diameters, lengths)
  const sections: Section[] = []
  way.forEach((c, k) => {
    const turning = Math.abs(turnOf(c))
    const steps = Math.max(LEAST_STEPS, Math.ceil((turning * sides) / (2 * Math.PI)))
    for (let i = k === 0 ? 0 : 1; i <= steps; i++) {
      const t = i / steps
      const [x, z] = pointAt(c, t)
      const [dx, dz] = derivativeAt(c, t)
      const size = Math.hypot(dx, dz) || 1
      const mm = hermite(diameters[k]!, diameters[k + 1]!, slopes[k]! * lengths[k]!, slopes[k + 1]! * lengths[k]!, t) // prettier-ignore
      sections.push({ x, z, tx: dx / size, tz: dz / size, radius: mm / 2 })
    }
  })
  return sections
}

const LENGTH_STEPS = 32
function lengthOf(c: Cubic): number {
  let length = 0
  let last = pointAt(c, 0)
  for (let i = 1; i <= LENGTH_STEPS; i++) {
    const p = pointAt(c, i / LENGTH_STEPS)
    length += Math.hypot(p[0] - last[0], p[1] - last[1])
    last = p
  }
  return length
}

/** How far the direction turns over a cubic, summed without sign, radians. */
function turnOf(c: Cubic): number {
  let turned = 0
  let last = derivativeAt(c, 0)
  for (let i = 1; i <= LENGTH_STEPS; i++) {
    const d = derivativeAt(c, i / LENGTH_STEPS)
    turned += Math.abs(Math.atan2(last[0] * d[1] - last[1] * d[0], last[0] * d[0] + last[1] * d[1]))
    last = d
  }
  return turned
}

/** Slopes at the points, per mm of way, that keep a cubic between them monotone. */
function monotoneSlopes(values: readonly number[], lengths: readonly number[]): number[] {
  const secants = lengths.map((l, k) => (values[k + 1]! - values[k]!) / l)
  return values.map((_, k) => {
    const [a, b] = [secants[k - 1], secants[k]]
    if (a === undefined || b === undefined) return a ?? b ?? 0
    // The harmonic mean is never more than three times the smaller of both.
    return a * b <= 0 ? 0 : (2 * a * b) / (a + b)
  })
}

function hermite(a: number, b: number, da: number, db: number, t: number): number {
  const [t2, t3] = [t * t, t * t * t]
  return (2 * t3 - 3 * t2 + 1) * a + (t3 - 2 * t2 + t) * da + (3 * t2 - 2 * t3) * b + (t3 - t2) * db
}

/** @throws CoreError where neighbouring sections would cross: on the inner side of a bend that is too sharp */
function requireRoom(sections: readonly Section[]): void {
  for (let k = 1; k < sections.length; k++) {
    const [a, b] = [sections[k - 1]!, sections[k]!]
    const step = Math.hypot(b.x - a.x, b.z - a.z)
    const turn = Math.abs(Math.atan2(a.tx * b.tz - a.tz * b.tx, a.tx * b.tx + a.tz * b.tz))
    if (turn * Math.max(a.radius, b.radius) > step)
      throw fault(
        `It bends more sharply than it is thick near ${b.x.toFixed(0)} mm from the axis, height ${b.z.toFixed(0)} mm. Make it thinner there, or the bend wider.`,
      )
  }
}

/** Sections that round an end off, outwards from it. */
function rounded(end: Section, way: 1 | -1): Section[] {
  return Array.from({ length: ROUND_STEPS - 1 }, (_, i) => {
    const angle = ((i + 1) / ROUND_STEPS) * (Math.PI / 2)
    const out = way * end.radius * Math.sin(angle)
    return { ...end, x: end.x + out * end.tx, z: end.z + out * end.tz, radius: end.radius * Math.cos(angle) }
  })
}

/** Rings about the way, closed by a middle point at each end. */
function sweep(sections: readonly Section[], flat: number, sides: number): Mesh {
  const n = sections.length
  const positions = new Float64Array(3 * (n * sides + 2))
  sections.forEach(({ x, z, tx, tz, radius }, k) => {
    for (let i = 0; i < sides; i++) {
      const a = (2 * Math.PI * i) / sides
      const [u, v] = [radius * Math.cos(a), flat * radius * Math.sin(a)]
      positions.set([x - u * tz, v, z + u * tx], 3 * (k * sides + i))
    }
  })
  const [first, last] = [sections[0]!, sections[n - 1]!]
  positions.set([first.x, 0, first.z], 3 * n * sides)
  positions.set([last.x, 0, last.z], 3 * (n * sides + 1))
  const triangles: number[] = []
  for (let k = 0; k + 1 < n; k++)
    for (let i = 0; i < sides; i++) {
      const j = (i + 1) % sides
      const [a, b, c, d] = [k * sides + i, k * sides + j, (k + 1) * sides + j, (k + 1) * sides + i]
      triangles.push(a, c, b, a, d, c)
    }
  for (let i = 0; i < sides; i++) {
    const j = (i + 1) % sides
    triangles.push(n * sides, i, j)
    triangles.push(n * sides + 1, (n - 1) * sides + j, (n - 1) * sides + i)
  }
  return { positions, triangles: Uint32Array.from(triangles) }
}

/** Chords of one piece of a smooth outline. */
const OUTLINE_STEPS = 12

/**
 * The plate as a closed mesh about y = 0.
 * @throws CoreError `fitting` when the outline crosses itself or its edges can't be rounded so far
 */
export function plateMesh({ points, widthMm, roundMm, smooth }: Plate): Mesh {
  if (points.length < 3) throw fault('Its outline needs three points at least.')
  if (!(widthMm > 0)) throw fault('Its width must be more than 0.')
  if (roundMm * 2 > widthMm) throw fault('Its edges can be rounded by half of its width at most.')
  const outline = anticlockwise(smooth ? smoothOutline(points) : points.map((p) => [p.x, p.z] as const))
  if (crossesItself(outline)) throw fault('Its outline crosses itself.')
  const layers = layersOf(widthMm, roundMm)
  const rings = layers.map(({ inset }) => (inset === 0 ? outline : insetOutline(outline, inset)))
  const innermost = rings[0]!
  if (roundMm > 0 && (crossesItself(innermost) || areaOf(innermost) <= 0))
    throw fault('It is too narrow for edges rounded so far.')
  const n = outline.length
  const positions = new Float64Array(3 * n * rings.length)
  rings.forEach((ring, k) =>
    ring.forEach(([x, z], i) => positions.set([x, layers[k]!.y, z], 3 * (k * n + i))),
  )
  const triangles: number[] = []
  for (let k = 0; k + 1 < rings.length; k++)
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n
      const [a, b, c, d] = [k * n + i, k * n + j, (k + 1) * n + j, (k + 1) * n + i]
      triangles.push(a, c, b, a, d, c)
    }
  const lid = lidTriangles(innermost.flatMap(([x, z]) => [x, z]))
  const far = (rings.length - 1) * n
  for (let i = 0; i < lid.length; i += 3) {
    const [a, b, c] = [lid[i]!, lid[i + 1]!, lid[i + 2]!]
    // Seen along +y an outline that runs anticlockwise in (x, z) runs clockwise about y.
    triangles.push(a, b, c, far + a, far + c, far + b)
  }
  return { positions, triangles: Uint32Array.from(triangles) }
}

type Outline = readonly (readonly [number, number])[]

/** From the face at -y to the face at +y: how far the outline is set in at each level. */
function layersOf(widthMm: number, roundMm: number): { y: number; inset: number }[] {
  if (roundMm === 0) return [{ y: -widthMm / 2, inset: 0 }, { y: widthMm / 2, inset: 0 }] // prettier-ignore
  const half = Array.from({ length: ROUND_STEPS + 1 }, (_, i) => {
    const angle = (i / ROUND_STEPS) * (Math.PI / 2)
    return { y: -widthMm / 2 + roundMm * (1 - Math.sin(angle)), inset: roundMm * (1 - Math.cos(angle)) }
  }).reverse()
  const other = half.map(({ y, inset }) => ({ y: -y, inset })).reverse()
  // A plate rounded all the way has one widest level.
  return roundMm * 2 === widthMm ? [...half, ...other.slice(1)] : [...half, ...other]
}

/** A closed smooth curve: Hobby's spline through the points and some of them again on both sides, of which the middle is kept. */
function smoothOutline(points: readonly FittingPoint[]): Outline {
  const n = points.length
  const around = Array.from({ length: n + 2 * WRAP + 1 }, (_, k) => points[(k - WRAP + n * WRAP) % n]!)
  const way = hobbyChain(around.flatMap((p) => [p.x, p.z]), 'free', 'free').slice(WRAP, WRAP + n) // prettier-ignore
  return way.flatMap((c) => Array.from({ length: OUTLINE_STEPS }, (_, i) => pointAt(c, i / OUTLINE_STEPS)))
}
/** The influence of an end fades by about four with every point. */
const WRAP = 6

const areaOf = (p: Outline) => p.reduce((sum, [x, z], i) => { const [x1, z1] = p[(i + 1) % p.length]!; return sum + (x * z1 - x1 * z) / 2 }, 0) // prettier-ignore
const anticlockwise = (p: Outline): Outline => (areaOf(p) < 0 ? [...p].reverse() : p)

/** Every point moved inwards so that both its sides move by the distance. */
function insetOutline(p: Outline, by: number): Outline {
  const n = p.length
  return p.map(([x, z], i) => {
    const [a, b] = [p[(i - 1 + n) % n]!, p[(i + 1) % n]!]
    const [ux, uz] = unit(x - a[0], z - a[1])
    const [vx, vz] = unit(b[0] - x, b[1] - z)
    // Inwards of an anticlockwise outline lies to the left.
    const [nx, nz] = [-(uz + vz), ux + vx]
    const cosine = 1 + ux * vx + uz * vz
    return [x + (by * nx) / Math.max(cosine, 0.2), z + (by * nz) / Math.max(cosine, 0.2)] as const
  })
}

function unit(x: number, z: number): [number, number] {
  const l = Math.hypot(x, z) || 1
  return [x / l, z / l]
}

function crossesItself(p: Outline): boolean {
  const n = p.length
  const side = (a: readonly number[], b: readonly number[], c: readonly number[]) => (b[0]! - a[0]!) * (c[1]! - a[1]!) - (b[1]! - a[1]!) * (c[0]! - a[0]!) // prettier-ignore
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue
      const [a, b, c, d] = [p[i]!, p[(i + 1) % n]!, p[j]!, p[(j + 1) % n]!]
      if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return true
    }
  return false
}

const fault = (message: string) => new CoreError({ code: 'fitting', message })

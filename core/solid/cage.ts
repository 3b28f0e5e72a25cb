import { CoreError } from '../errors'
import type { FlatProfile } from '../profile/flatten'
import { cornerDirections } from './revolve'

/** A closed mesh of faces with any number of corners, counter-clockwise from outside; one index a point. */
export interface PolyMesh {
  /** [x y z ...], mm. */
  positions: Float64Array
  faces: number[][]
  /** Edges that stay sharp under subdivision: both ends, the lower index first, and for how many levels. */
  creases: { a: number; b: number; sharpness: number }[]
}

/** How the flat ends are made: triangles about one pole, rings set in and then the fan, or strips of quads without a pole. */
export type CageEnds = 'fan' | 'rings' | 'quads'

/** How corners of the profile hold their own under subdivision. */
export type CageCorners = { by: 'none' } | { by: 'rings'; mm: number } | { by: 'crease'; sharpness: number }

export interface CageOptions {
  sides: number
  ends: CageEnds
  corners: CageCorners
}

/** Rings set into a flat end, at these shares of its radius. */
const INSET = [0.66, 0.33]
/** Support rings take no more than this share of the chord beside their corner. */
const MOST_SUPPORT = 0.4
/** An end is flat where its first chord is no steeper than this. */
const FLAT = 0.05

/**
 * A control mesh of quads over a revolved profile, for modelling and for subdivision: one row of quads a chord.
 * @param flat closed, from the axis to the axis; its chords are the rows, so it should have few
 * @throws CoreError `cage-sides` for quads over an odd number of sides
 */
export function cageOf(flat: FlatProfile, { sides, ends, corners }: CageOptions): PolyMesh {
  if (ends === 'quads' && sides % 2 !== 0)
    throw new CoreError({
      code: 'cage-sides',
      message: `Ends of quads need an even number of sides; ${sides} is odd.`,
      where: 'sides',
    })
  const rows = withSupport(flat, corners)
  const directions = cornerDirections(sides)
  const positions: number[] = []
  const faces: number[][] = []
  const ring = (r: number, z: number): number => {
    const first = positions.length / 3
    for (let i = 0; i < sides; i++) positions.push(r * directions[2 * i]!, r * directions[2 * i + 1]!, z)
    return first
  }
  const inner = rows.slice(1, -1)
  const rings = inner.map(({ r, z }) => ring(r, z))
  for (let k = 0; k + 1 < rings.length; k++) band(faces, rings[k]!, rings[k + 1]!, sides)
  const [low, high] = [rows[0]!, rows[rows.length - 1]!]
  closeEnd({ positions, faces, ring }, rings[0]!, inner[0]!, low.z, sides, ends, true)
  closeEnd(
    { positions, faces, ring },
    rings[rings.length - 1]!,
    inner[inner.length - 1]!,
    high.z,
    sides,
    ends,
    false,
  )
  const creases =
    corners.by === 'crease'
      ? inner.flatMap(({ corner }, k) => (corner ? ringEdges(rings[k]!, sides, corners.sharpness) : []))
      : []
  return { positions: Float64Array.from(positions), faces, creases }
}

interface Row {
  r: number
  z: number
  corner: boolean
}

/** The rows of a profile, with one more on each side of its corners where they are held by rings. */
function withSupport({ points, corner }: FlatProfile, corners: CageCorners): Row[] {
  const rows = Array.from({ length: points.length / 2 }, (_, k): Row => ({ r: points[2 * k]!, z: points[2 * k + 1]!, corner: corner[k] === 1 })) // prettier-ignore
  if (corners.by !== 'rings') return rows
  return rows.flatMap((row, k) => {
    if (!row.corner || k === 0 || k === rows.length - 1) return [row]
    return [beside(row, rows[k - 1]!, corners.mm), row, beside(row, rows[k + 1]!, corners.mm)]
  })
}

function beside(row: Row, other: Row, mm: number): Row {
  const length = Math.hypot(other.r - row.r, other.z - row.z)
  const t = Math.min(mm / length, MOST_SUPPORT)
  return { r: row.r + t * (other.r - row.r), z: row.z + t * (other.z - row.z), corner: false }
}

function band(faces: number[][], low: number, high: number, sides: number): void {
  for (let i = 0; i < sides; i++) {
    const j = (i + 1) % sides
    faces.push([low + i, low + j, high + j, high + i])
  }
}

interface Making {
  positions: number[]
  faces: number[][]
  ring: (r: number, z: number) => number
}

/** @param lower the lower end looks down: its faces run the other way round */
function closeEnd(
  { positions, faces, ring }: Making,
  first: number,
  { r, z }: Row,
  poleZ: number,
  sides: number,
  ends: CageEnds,
  lower: boolean,
): void {
  const flat = Math.abs(poleZ - z) <= FLAT * r
  if (ends === 'quads' && flat) {
    for (let i = 0; i + 1 < sides / 2; i++) {
      const quad = [first + i, first + i + 1, first + sides - 2 - i, first + sides - 1 - i]
      faces.push(lower ? quad.reverse() : quad)
    }
    return
  }
  let last = first
  if (ends === 'rings' && flat)
    for (const share of INSET) {
      const next = ring(r * share, poleZ + (z - poleZ) * share)
      if (lower) band(faces, next, last, sides)
      else band(faces, last, next, sides)
      last = next
    }
  const pole = positions.length / 3
  positions.push(0, 0, poleZ)
  for (let i = 0; i < sides; i++) {
    const j = (i + 1) % sides
    faces.push(lower ? [pole, last + j, last + i] : [pole, last + i, last + j])
  }
}

function ringEdges(first: number, sides: number, sharpness: number): PolyMesh['creases'] {
  return Array.from({ length: sides }, (_, i) => {
    const [p, q] = [first + i, first + ((i + 1) % sides)]
    return { a: Math.min(p, q), b: Math.max(p, q), sharpness }
  })
}

import { flatEnd } from './flat-end'
import { cornerDirections, sidesOfPart, type Turn } from './revolve'
import type { FlatProfile } from '../profile/flatten'

/** Buffers for a renderer: vertices split at sharp corners of the profile, so that each carries one normal. */
export interface ShadingBuffers {
  /** [x y z ...], mm. */
  positions: Float32Array
  /** Unit normals, one a vertex. */
  normals: Float32Array
  indices: Uint32Array
  /** Where among the indices the flat ends of a part of a turn begin; all of them are around for a full one. */
  endsFrom: number
  /** Texture coordinates in mm, [along the grain, across it], one pair a vertex; only where they were asked for. */
  uvs?: Float32Array
}

/** How a surface is unrolled. */
export interface Mapping {
  /** Where the unrolled surface is cut, radians about the axis. */
  seam: number
  /**
   * `straight`: lines along the grain follow the profile, and squares are as broad as at the mean radius; `even`: squares keep
   * their area everywhere, and lines along the grain lean where the radius changes. A round piece can't have both.
   */
  way: 'straight' | 'even'
}

/** From this many sides on the surface is shaded round; below, a turn of over 30° a side shows as flat sides. */
export const LEAST_ROUND_SIDES = 12

/**
 * Smooth along the curve and around, sharp at corners of the profile (and at every side when there are fewer than
 * `LEAST_ROUND_SIDES`). Takes the same chain as `revolve`; a pole is split once a side, since each of its
 * triangles leans its own way.
 * @param turn a part of a turn, with flat ends; default a full one
 */
export function shadingBuffers(
  flat: FlatProfile,
  sides: number,
  turn?: Turn,
  mapping?: Mapping,
): ShadingBuffers {
  const bands = flat.points.length / 2 - 1
  const rows = normalRows(flat)
  // Unrolled, a full turn has a first and a last column at one place.
  const columns = columnsOf(sides, turn ?? (mapping && { start: mapping.seam, sweep: 2 * Math.PI }))
  const rowCount = rows.length / 4
  const ends = turn ? flat.points.length : 0
  const count = rowCount * columns.count + ends
  const positions = new Float32Array(3 * count)
  const normals = new Float32Array(3 * count)
  let at = 0
  for (let k = 0; k < rows.length; k += 4) {
    for (let column = 0; column < 4 * columns.count; column += 4) {
      const [x, y] = [columns.directions[column]!, columns.directions[column + 1]!]
      const [nx, ny] = [columns.directions[column + 2]!, columns.directions[column + 3]!]
      positions[at] = rows[k]! * x
      positions[at + 1] = rows[k]! * y
      positions[at + 2] = rows[k + 1]!
      normals[at] = rows[k + 2]! * nx
      normals[at + 1] = rows[k + 2]! * ny
      normals[at + 2] = rows[k + 3]!
      at += 3
    }
  }
  const around = bandIndices(flat, bands, columns)
  const uvs = mapping && unrolled(flat, rows, columns, mapping.way, count)
  if (!turn) return { positions, normals, indices: around, endsFrom: around.length, ...(uvs && { uvs }) }
  const faces = flatEnd(flat.points)
  const indices = new Uint32Array(around.length + 2 * faces.length)
  indices.set(around)
  const half = flat.points.length / 2
  for (const [end, angle] of [turn.start, turn.start + turn.sweep].entries()) {
    const [c, s] = [Math.cos(angle), Math.sin(angle)]
    const outwards = end === 0 ? 1 : -1
    for (let p = 0; p < flat.points.length; p += 2) {
      positions.set([flat.points[p]! * c, flat.points[p]! * s, flat.points[p + 1]!], at)
      normals.set([outwards * s, -outwards * c, 0], at)
      uvs?.set([flat.points[p + 1]!, outwards * flat.points[p]!], (2 * at) / 3)
      at += 3
    }
    const first = rowCount * columns.count + end * half
    for (let i = 0; i < faces.length; i += 3) {
      const [a, b, d] = [faces[i]!, faces[i + 1]!, faces[i + 2]!].map((v) => first + v) as [number, number, number] // prettier-ignore
      indices.set(end === 0 ? [a, b, d] : [a, d, b], around.length + end * faces.length + i)
    }
  }
  return { positions, normals, indices, endsFrom: around.length, ...(uvs && { uvs }) }
}

/** A row whose normal is nearer to the axis than this lies on a flat end, which is unrolled as it lies. */
const LEVEL_NORMAL = 0.999

/**
 * Texture coordinates in mm: along the profile and around, from the middle between both sides of the seam; flat ends as they
 * lie, grain in the direction of +x.
 */
function unrolled(
  flat: FlatProfile,
  rows: readonly number[],
  columns: Columns,
  way: Mapping['way'],
  count: number,
): Float32Array {
  const uvs = new Float32Array(2 * count)
  const mean = meanRadius(flat.points)
  const lengths = rowLengths(flat, rows)
  let at = 0
  for (let k = 0; k < rows.length; k += 4) {
    const [r, level] = [rows[k]!, Math.abs(rows[k + 3]!) > LEVEL_NORMAL]
    for (let column = 0; column < columns.count; column++) {
      const [x, y] = [columns.directions[4 * column]!, columns.directions[4 * column + 1]!]
      uvs[at++] = level ? r * x : lengths[k / 4]!
      uvs[at++] = level ? r * y : (way === 'even' ? r : mean) * (columns.angleOf(column) - columns.sweep / 2)
    }
  }
  return uvs
}

/** Mean of the radius over the surface, mm: texture coordinates of the straight way are in mm there. */
export function meanRadius(points: Float64Array): number {
  let [area, moment] = [0, 0]
  for (let i = 0; i + 3 < points.length; i += 2) {
    const r = (points[i]! + points[i + 2]!) / 2
    const strip = r * Math.hypot(points[i + 2]! - points[i]!, points[i + 3]! - points[i + 1]!)
    area += strip
    moment += strip * r
  }
  return area > 0 ? moment / area : 1
}

/** Way along the profile up to each row, mm: points at corners have two rows. */
function rowLengths({ points, corner }: FlatProfile, rows: readonly number[]): Float64Array {
  const lengths = new Float64Array(rows.length / 4)
  const last = points.length / 2 - 1
  let [row, way] = [0, 0]
  for (let k = 0; k <= last; k++) {
    if (k > 0) way += Math.hypot(points[2 * k]! - points[2 * k - 2]!, points[2 * k + 1]! - points[2 * k - 1]!)
    const twice = k > 0 && k < last && corner[k]
    for (let i = 0; i < (twice ? 2 : 1); i++) lengths[row++] = way
  }
  return lengths
}

/** Columns of vertices around the axis. */
interface Columns {
  count: number
  sides: number
  round: boolean
  /** True when the last side meets the first column again. */
  closed: boolean
  /** [x y nx ny ...]: direction, and that of the normal. */
  directions: Float64Array
  /** How far round all of them go, and one from the first, radians. */
  sweep: number
  angleOf(column: number): number
}

function columnsOf(sides: number, turn?: Turn): Columns {
  const round = sides >= LEAST_ROUND_SIDES
  const n = turn ? sidesOfPart(sides, turn) : sides
  const corners = turn
    ? Float64Array.from({ length: 2 * (n + 1) }, (_, i) => {
        const angle = turn.start + (turn.sweep * (i >> 1)) / n
        return i % 2 ? Math.sin(angle) : Math.cos(angle)
      })
    : cornerDirections(n)
  const sweep = turn?.sweep ?? 2 * Math.PI
  // After a full turn the last corner is the first one, to the last bit.
  if (turn && sweep === 2 * Math.PI) corners.copyWithin(2 * n, 0, 2)
  const count = round ? corners.length / 2 : 2 * n
  const directions = new Float64Array(4 * count)
  for (let column = 0; column < count; column++) {
    const i = round ? column : ((column + 1) >> 1) % (corners.length / 2)
    const [x, y] = [corners[2 * i]!, corners[2 * i + 1]!]
    const middle = (turn?.start ?? 0) + (sweep * ((column >> 1) + 0.5)) / n
    directions.set(round ? [x, y, x, y] : [x, y, Math.cos(middle), Math.sin(middle)], 4 * column)
  }
  const angleOf = (column: number) => (sweep * (round ? column : (column + 1) >> 1)) / n
  return { count, sides: n, round, closed: !turn, directions, sweep, angleOf }
}

/**
 * Rows of vertices as [r z nr nz ...]: the normal of a smooth point is the mean of its two chords' normals weighted
 * by the other chord's length (second order for uneven steps); a corner has one row a chord.
 */
function normalRows(flat: FlatProfile): number[] {
  const { points, corner } = flat
  const last = points.length / 2 - 1
  const rows: number[] = []
  const chord = (k: number): [number, number, number] => {
    const dr = points[2 * k + 2]! - points[2 * k]!
    const dz = points[2 * k + 3]! - points[2 * k + 1]!
    const length = Math.hypot(dr, dz) || 1
    return [dz / length, -dr / length, length]
  }
  for (let k = 0; k <= last; k++) {
    const r = points[2 * k]!
    const z = points[2 * k + 1]!
    const before = k > 0 ? chord(k - 1) : null
    const after = k < last ? chord(k) : null
    if (before && after && !corner[k]) {
      const nr = before[0] * after[2] + after[0] * before[2]
      const nz = before[1] * after[2] + after[1] * before[2]
      const length = Math.hypot(nr, nz) || 1
      rows.push(r, z, nr / length, nz / length)
    } else {
      if (before) rows.push(r, z, before[0], before[1])
      if (after) rows.push(r, z, after[0], after[1])
    }
  }
  return rows
}

function bandIndices(flat: FlatProfile, bands: number, { count: columns, sides, round, closed }: Columns) {
  const indices = new Uint32Array(6 * sides * (bands - 1))
  let at = 0
  let row = 0
  for (let k = 0; k < bands; k++) {
    const low = row * columns
    const high = low + columns
    const lowIsPole = k === 0
    const highIsPole = k === bands - 1
    for (let i = 0; i < sides; i++) {
      const a = round ? i : 2 * i
      const b = !round ? 2 * i + 1 : closed ? (i + 1) % sides : i + 1
      if (!lowIsPole) {
        indices[at++] = low + a
        indices[at++] = low + b
        indices[at++] = highIsPole ? high + a : high + b
      }
      if (!highIsPole) {
        indices[at++] = low + a
        indices[at++] = high + b
        indices[at++] = high + a
      }
    }
    row += flat.corner[k + 1] && k + 1 < bands ? 2 : 1
  }
  return indices
}

import { cornerDirections } from './revolve'
import type { FlatProfile } from '../profile/flatten'

/** Buffers for a renderer: vertices split at sharp corners of the profile, so that each carries one normal. */
export interface ShadingBuffers {
  /** [x y z ...], mm. */
  positions: Float32Array
  /** Unit normals, one a vertex. */
  normals: Float32Array
  indices: Uint32Array
}

/** From this many sides on the surface is shaded round; below, a turn of over 30° a side shows as flat sides. */
export const LEAST_ROUND_SIDES = 12

/**
 * Smooth along the curve and around, sharp at corners of the profile (and at every side when there are fewer than
 * `LEAST_ROUND_SIDES`). Takes the same chain as `revolve`; a pole is split once a side, since each of its
 * triangles leans its own way.
 */
export function shadingBuffers(flat: FlatProfile, sides: number): ShadingBuffers {
  const bands = flat.points.length / 2 - 1
  const rows = normalRows(flat)
  const round = sides >= LEAST_ROUND_SIDES
  const columns = round ? sides : 2 * sides
  const rowCount = rows.length / 4
  const positions = new Float32Array(3 * rowCount * columns)
  const normals = new Float32Array(3 * rowCount * columns)
  const corners = cornerDirections(sides)
  let at = 0
  for (let k = 0; k < rows.length; k += 4) {
    for (let column = 0; column < columns; column++) {
      const i = round ? column : ((column + 1) >> 1) % sides
      const x = corners[2 * i]!
      const y = corners[2 * i + 1]!
      let nx = x
      let ny = y
      if (!round) {
        const side = column >> 1
        nx = Math.cos((2 * Math.PI * (side + 0.5)) / sides)
        ny = Math.sin((2 * Math.PI * (side + 0.5)) / sides)
      }
      positions[at] = rows[k]! * x
      positions[at + 1] = rows[k]! * y
      positions[at + 2] = rows[k + 1]!
      normals[at] = rows[k + 2]! * nx
      normals[at + 1] = rows[k + 2]! * ny
      normals[at + 2] = rows[k + 3]!
      at += 3
    }
  }
  return { positions, normals, indices: bandIndices(flat, bands, sides, round) }
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

function bandIndices(flat: FlatProfile, bands: number, sides: number, round: boolean): Uint32Array {
  const columns = round ? sides : 2 * sides
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
      const b = round ? (i + 1) % sides : 2 * i + 1
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

import type { LabPicture } from '../picture/reduce'
import type { Plane } from '../picture/raster'
import { samplePlane } from '../picture/sample'
import type { AxisLine } from './axis-line'

/** The silhouette in the axis' own frame: half-width at each row, top row first. Reduced px throughout. */
export interface Silhouette {
  axis: AxisLine
  /** Position along the axis (upwards from `axis.at`) of row i: top - i. */
  top: number
  /** Half-width at each row, px; 0 where there is no piece. */
  half: Float32Array
  /** How well it runs along edges on both sides: the weaker side's contrast, summed over the rows. */
  edges: number
}

/** OKLab distance over two px that counts as a full edge. */
const CLEAR_CONTRAST = 0.15
/** What an edge is worth against the evidence of a pixel, and a step sideways against both. */
const EDGE_WORTH = 2.2
/** A row must earn more than this to belong to the piece: a mortar joint on the axis is no neck. */
const ROW_COST = 5
const STEP_COST = 0.35
const MOST_STEP_COST = 30

/** The picture cut into rows square to an axis, with the contrast across each half-width on both sides. */
export interface Strip {
  axis: AxisLine
  top: number
  rows: number
  /** Half-widths run from 0 to this, px. */
  radii: number
  /** Sum of both sides' contrasts and the weaker one, rows of radii + 1. */
  both: Float32Array
  weaker: Float32Array
}

/** Cuts the picture into rows about an axis. */
export function stripAbout(picture: LabPicture, axis: AxisLine): Strip {
  const { width, height } = picture
  const { at, up } = axis
  const across = { x: -up.y, y: up.x }
  const corners = [0, width].flatMap((x) => [0, height].map((y) => ({ x: x - at.x, y: y - at.y })))
  const along = corners.map((p) => p.x * up.x + p.y * up.y)
  const aside = corners.map((p) => Math.abs(p.x * across.x + p.y * across.y))
  const top = Math.floor(Math.max(...along)) - 1
  const rows = Math.max(1, Math.floor(top - Math.min(...along)))
  const radii = Math.ceil(Math.max(...aside))
  const l: Plane = { width, height, data: picture.l }
  const a: Plane = { width, height, data: picture.a }
  const b: Plane = { width, height, data: picture.b }
  const both = new Float32Array(rows * (radii + 1))
  const weaker = new Float32Array(rows * (radii + 1))
  const side = new Float32Array(2 * 3 * (radii + 2))
  for (let row = 0; row < rows; row++) {
    const v = top - row
    for (let r = 0; r <= radii + 1; r++) {
      for (const s of [0, 1]) {
        const d = (s ? 1 : -1) * r
        const x = at.x + v * up.x + d * across.x
        const y = at.y + v * up.y + d * across.y
        const i = 3 * (2 * r + s)
        side[i] = samplePlane(l, x, y, -1)
        if (side[i]! < 0) continue
        side[i + 1] = samplePlane(a, x, y, 0)
        side[i + 2] = samplePlane(b, x, y, 0)
      }
    }
    for (let r = 1; r <= radii; r++) {
      const left = contrast(side, r, 0)
      const right = contrast(side, r, 1)
      both[row * (radii + 1) + r] = left + right
      weaker[row * (radii + 1) + r] = Math.min(left, right)
    }
  }
  return { axis, top, rows, radii, both, weaker }
}

/**
 * The best symmetric silhouette about an axis: for every row the half-width that leaves the least evidence for the
 * piece outside and for the backdrop inside, runs along edges on both sides, and changes little from row to row. One
 * exact dynamic program over rows and half-widths; both sides vote, so that a shadow or a handle on one side is
 * outvoted by the other.
 * @param seeThrough what looks like the backdrop counts against the piece only this much: 1, or less for a clear piece
 */
export function findSilhouette(strip: Strip, evidence: Plane, seeThrough = 1): Silhouette {
  const { axis, top, rows, radii, both, weaker } = strip
  const { at, up } = axis
  const across = { x: -up.y, y: up.x }
  const gain = new Float32Array(rows * (radii + 1))
  for (let row = 0; row < rows; row++) {
    const ox = at.x + (top - row) * up.x
    const oy = at.y + (top - row) * up.y
    let inside = -ROW_COST * seeThrough
    for (let r = 1; r <= radii; r++) {
      const d = r - 0.5
      const p = samplePlane(evidence, ox + d * across.x, oy + d * across.y, -1)
      const q = samplePlane(evidence, ox - d * across.x, oy - d * across.y, -1)
      // A pixel is piece when both mirror images say so; one alone counts for little, and for less against the other.
      const sum = p * q > 0 ? p + q : p * q < 0 ? 0.3 * (p + q) - 0.4 : 0.6 * (p + q)
      inside += sum > 0 ? sum : seeThrough * sum
      const i = row * (radii + 1) + r
      gain[i] = inside + EDGE_WORTH * both[i]!
    }
  }
  const half = bestPath(gain, rows, radii)
  let edges = 0
  half.forEach((r, row) => {
    if (r > 0) edges += weaker[row * (radii + 1) + r]!
  })
  return { axis, top, half, edges }
}

/** Contrast across half-width r on one side, 0..1; the picture's borders count as none. */
function contrast(side: Float32Array, r: number, s: 0 | 1): number {
  const i = 3 * (2 * (r - 1) + s)
  const j = 3 * (2 * (r + 1) + s)
  if (side[i]! < 0 || side[j]! < 0) return 0
  const d = Math.hypot(side[i]! - side[j]!, side[i + 1]! - side[j + 1]!, side[i + 2]! - side[j + 2]!)
  return Math.min(1, d / CLEAR_CONTRAST)
}

/** Largest total gain; steps cost in proportion up to a limit, so that a shoulder is no harder than a slope. */
function bestPath(gain: Float32Array, rows: number, radii: number): Float32Array {
  const n = radii + 1
  const from = new Uint16Array(rows * n)
  let score = gain.slice(0, n)
  for (let row = 1; row < rows; row++) {
    let best = 0
    for (let r = 1; r < n; r++) if (score[r]! > score[best]!) best = r
    const next = new Float32Array(n)
    const arg = new Uint16Array(n)
    // Distance transform of the scores with a truncated linear cost: two sweeps and the global best.
    for (let r = 0; r < n; r++) {
      next[r] = score[r]!
      arg[r] = r
      if (r > 0 && next[r - 1]! - STEP_COST > next[r]!) {
        next[r] = next[r - 1]! - STEP_COST
        arg[r] = arg[r - 1]!
      }
    }
    for (let r = n - 2; r >= 0; r--) {
      if (next[r + 1]! - STEP_COST > next[r]!) {
        next[r] = next[r + 1]! - STEP_COST
        arg[r] = arg[r + 1]!
      }
    }
    const far = score[best]! - MOST_STEP_COST
    for (let r = 0; r < n; r++) {
      if (far > next[r]!) {
        next[r] = far
        arg[r] = best
      }
      from[row * n + r] = arg[r]!
      next[r]! += gain[row * n + r]!
    }
    score = next
  }
  const half = new Float32Array(rows)
  let r = 0
  for (let k = 1; k < n; k++) if (score[k]! > score[r]!) r = k
  for (let row = rows - 1; row >= 0; row--) {
    half[row] = r
    r = from[row * n + r]!
  }
  return longestRun(half)
}

/** Only the tallest connected piece is kept. */
function longestRun(half: Float32Array): Float32Array {
  let best: [number, number] = [0, 0]
  let start = -1
  for (let i = 0; i <= half.length; i++) {
    if (i < half.length && half[i]! >= 1) {
      if (start < 0) start = i
    } else if (start >= 0) {
      if (i - start > best[1] - best[0]) best = [start, i]
      start = -1
    }
  }
  return half.map((r, i) => (i >= best[0] && i < best[1] ? r : 0))
}

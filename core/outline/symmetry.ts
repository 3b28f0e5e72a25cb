import type { PicturePoint } from '../conventions'
import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import type { AxisLine } from './axis-line'

/** Pieces are brought roughly upright before; a lean beyond this is turned by hand. */
export const MOST_LEAN = (8 * Math.PI) / 180

/** What the symmetry of the colours is worth against that of the edges; each gives a candidate. */
const TRUSTS = [0.1, 0.8]
/** Candidates nearer to each other than this (reduced px, radians) are one. */
const SAME_OFFSET = 1.5
const SAME_LEAN = 0.006

/**
 * Lines about which the picture may be mirror-symmetric, to about a pixel of the reduced picture: where the mirror
 * image of the evidence for the piece overlaps best, and the mirror image of the edges that run along the axis. Edges
 * know no light and dark side, which colours do; colours know no mortar and grain, which edges do; so several
 * mixtures of the two are tried. The search walks leans and offsets coarsely, then halves its steps.
 * @param up rough direction of the axis in the picture, one of the four
 * @returns one or two candidates
 */
export function symmetryAxes(sharp: Sharpness, evidence: Plane, up: PicturePoint): AxisLine[] {
  const { width, height } = evidence
  const across = { x: -up.y, y: up.x }
  const middle = { x: width / 2, y: height / 2 }
  const half = Math.abs(across.x) * (width / 2) + Math.abs(across.y) * (height / 2)
  const tall = Math.abs(up.x) * width + Math.abs(up.y) * height
  const stride = Math.max(2, Math.round(Math.max(width, height) / 110))
  const edges = edgesAlong(sharp, across)
  // Both overlaps count in shares of what a perfect mirror image would give.
  const evidenceTotal = 0.5 * positiveSum(evidence)
  const edgeTotal = 0.5 * positiveSum(edges)
  const scores = (p: Place, step: number): Scored => {
    const u = turn(up, p.lean)
    const ox = middle.x + p.offset * across.x
    const oy = middle.y + p.offset * across.y
    let colours = 0
    let lines = 0
    const reach = half + Math.abs(p.offset)
    for (let v = -tall / 2 + step / 2; v < tall / 2; v += step) {
      for (let r = step / 2; r < reach; r += step) {
        // The nearest pixel is near enough for a search that ends at a pixel.
        const ax = ox + v * u.x - r * u.y
        const ay = oy + v * u.y + r * u.x
        const bx = ox + v * u.x + r * u.y
        const by = oy + v * u.y - r * u.x
        const i = ax >= 0 && ay >= 0 && ax < width && ay < height ? (ay | 0) * width + (ax | 0) : -1
        const j = bx >= 0 && by >= 0 && bx < width && by < height ? (by | 0) * width + (bx | 0) : -1
        // Beyond the picture's border there is no piece.
        const e = i < 0 ? -1 : evidence.data[i]!
        const f = j < 0 ? -1 : evidence.data[j]!
        if (e > 0 && f > 0) colours += e < f ? e : f
        else if (e > 0) colours -= 0.5 * e
        else if (f > 0) colours -= 0.5 * f
        if (i < 0 || j < 0) continue
        const g = edges.data[i]!
        const h = edges.data[j]!
        lines += g < h ? g : h
      }
    }
    const area = step * step
    return { ...p, colours: (colours * area) / evidenceTotal, edges: (lines * area) / edgeTotal }
  }
  const coarse: Scored[] = []
  for (let offset = -0.7 * half; offset <= 0.7 * half; offset += stride)
    for (const lean of [-0.05, 0, 0.05]) coarse.push(scores({ offset, lean }, stride))
  const found: Place[] = []
  for (const trust of TRUSTS) {
    const total = (s: Scored) => trust * s.colours + s.edges
    let best = coarse.reduce((p, q) => (total(q) > total(p) ? q : p))
    let dOffset: number = stride
    let dLean = 0.025
    for (let round = 0; round < 5; round++) {
      const { offset, lean } = best
      const step = round < 4 ? stride : Math.max(1, stride / 2)
      best = scores(best, step)
      for (const i of [-1, 0, 1])
        for (const j of [-1, 0, 1]) {
          const next = { offset: offset + i * dOffset, lean: lean + j * dLean }
          if ((i === 0 && j === 0) || Math.abs(next.lean) > MOST_LEAN || Math.abs(next.offset) > half)
            continue
          const scored = scores(next, step)
          if (total(scored) > total(best)) best = scored
        }
      dOffset /= 2
      dLean /= 2
    }
    const { offset, lean } = best
    if (!found.some((f) => Math.abs(f.offset - offset) < SAME_OFFSET && Math.abs(f.lean - lean) < SAME_LEAN))
      found.push(best)
  }
  return found.map(({ offset, lean }) => ({
    at: { x: middle.x + offset * across.x, y: middle.y + offset * across.y },
    up: turn(up, lean),
  }))
}

/** A line by its offset across from the picture's middle, px, and its lean, radians. */
interface Place {
  offset: number
  lean: number
}
interface Scored extends Place {
  colours: number
  edges: number
}

/** True for lines that the search can't tell apart. */
export function sameLine(a: AxisLine, b: AxisLine): boolean {
  const offset = -(a.at.x - b.at.x) * b.up.y + (a.at.y - b.at.y) * b.up.x
  const lean = a.up.x * b.up.y - a.up.y * b.up.x
  return Math.abs(offset) < SAME_OFFSET && Math.abs(lean) < SAME_LEAN
}

/** How sharp an edge runs along the axis at each pixel, 0..1. */
function edgesAlong({ x, y }: Sharpness, across: PicturePoint): Plane {
  const { width, height, data } = Math.abs(across.x) > 0.5 ? x : y
  return { width, height, data: data.map((v) => v * v) }
}

function positiveSum({ data }: Plane): number {
  let sum = 1e-9
  for (const v of data) if (v > 0) sum += v
  return sum
}

/** Turned clockwise on the picture by an angle, radians. */
export function turn(v: PicturePoint, angle: number): PicturePoint {
  const c = Math.cos(angle)
  const s = Math.sin(angle)
  return { x: c * v.x - s * v.y, y: s * v.x + c * v.y }
}

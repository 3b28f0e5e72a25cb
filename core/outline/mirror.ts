import { inAxis, movedAxis, type AxisLine } from './axis-line'

/** The axis found from left and right edges, with its standard errors. */
export interface MirrorFit {
  axis: AxisLine
  /** Standard error of the direction, radians, and of the place across at the middle of the edges, px. */
  sdAngle: number
  sdOffset: number
  /** Robust spread of left minus mirrored right, px. */
  spread: number
  /** Share of the edge points that agree with a mirror image of the other side. */
  agreeing: number
  /** Left minus right along the axis, for a plot: height along the axis (px, from `axis.at`) and difference, px. */
  difference: { along: number; px: number; agrees: boolean }[]
}

/** Tukey's constant for 95 % efficiency on Gaussian noise (Beaton & Tukey 1974). */
const TUKEY = 4.685
const ROUNDS = 30
/** Neighbouring edge points share pixels and the smoothing of the fit: so many px hold one independent value. */
const CORRELATION_PX = 6

/**
 * The mirror axis of two edge chains by iterated reweighted least squares: each side is mirrored onto the other, the
 * signed normal distances are weighted by Tukey's biweight, and angle and place follow by Gauss-Newton. Parts without
 * a twin (a handle, a shadow) lose their weight; up to about half of the rows may be so.
 * @param sides edge points [x y ...] of left and right, each ordered along the axis, px
 */
export function fitMirror(left: Float64Array, right: Float64Array, start: AxisLine): MirrorFit | null {
  if (left.length < 20 || right.length < 20) return null
  let axis = start
  let spread = Infinity
  let samples: Sample[] = []
  for (let round = 0; round < ROUNDS; round++) {
    const l = inAxis(left, axis, true)
    const r = inAxis(right, axis)
    samples = [...mirrorDistances(l, r, -1), ...mirrorDistances(r, l, 1)]
    if (samples.length < 20) return null
    const sizes = samples.map((s) => Math.abs(s.d)).sort((a, b) => a - b)
    spread = Math.max(0.02, 1.4826 * sizes[sizes.length >> 1]!)
    const limit = TUKEY * spread
    // Moving the axis by c across and turning it by a changes the mirrored distance by 2 (c + a v) n_across.
    let waa = 0
    let wab = 0
    let wbb = 0
    let ra = 0
    let rb = 0
    for (const s of samples) {
      s.weight = Math.abs(s.d) < limit ? (1 - (s.d / limit) ** 2) ** 2 : 0
      const ja = 2 * s.n
      // Turning also moves points along the axis by their radius, in opposite directions left and right.
      const jb = 2 * (s.n * s.v - s.m * s.u)
      waa += s.weight * ja * ja
      wab += s.weight * ja * jb
      wbb += s.weight * jb * jb
      ra += s.weight * ja * s.d
      rb += s.weight * jb * s.d
    }
    const det = waa * wbb - wab * wab
    if (!(det > 1e-9 * waa * wbb)) return null
    const c = (wbb * ra - wab * rb) / det
    const a = (waa * rb - wab * ra) / det
    axis = movedAxis(axis, c, a)
    const done = Math.abs(c) < 1e-4 && Math.abs(a) < 1e-7
    if (done || round === ROUNDS - 1) {
      const kept = samples.filter((s) => s.weight > 0)
      const independent = Math.max(4, kept.length / 2 / CORRELATION_PX)
      const inflate = kept.length / independent
      const centre = wab / waa
      return {
        axis,
        sdOffset: spread * Math.sqrt(inflate / waa),
        sdAngle: spread * Math.sqrt(inflate / (wbb - centre * wab)),
        spread,
        agreeing: kept.length / samples.length,
        difference: plot(samples),
      }
    }
  }
  return null
}

interface Sample {
  /** Signed distance from the mirrored point to the other side, positive outwards of the right side. */
  d: number
  /** Across and along parts of the unit normal there. */
  n: number
  m: number
  u: number
  v: number
  weight: number
}

/** Largest distance, px, at which a mirrored point still finds its twin; also the size of the search grid's cells. */
const TWIN_REACH = 40

/** Signed normal distances of every point of `a` to the chain `b`, both mirrored to one side. `side` is a's. */
function mirrorDistances(a: Float64Array, b: Float64Array, side: 1 | -1): Sample[] {
  const out: Sample[] = []
  const cells = new Map<number, number[]>()
  const cell = (u: number, v: number) => 65_536 * Math.floor(u / TWIN_REACH) + Math.floor(v / TWIN_REACH)
  for (let j = 0; j + 3 < b.length; j += 2) {
    const key = cell(b[j]!, b[j + 1]!)
    const list = cells.get(key)
    if (list) list.push(j)
    else cells.set(key, [j])
  }
  for (let i = 0; i < a.length; i += 2) {
    const u = a[i]!
    const v = a[i + 1]!
    let best = TWIN_REACH ** 2
    let twin = -1
    const home = cell(u, v)
    for (const across of [-65_536, 0, 65_536]) {
      for (const along of [-1, 0, 1]) {
        for (const j of cells.get(home + across + along) ?? []) {
          const u0 = b[j]!
          const v0 = b[j + 1]!
          const du = b[j + 2]! - u0
          const dv = b[j + 3]! - v0
          const l2 = du * du + dv * dv
          if (l2 === 0) continue
          const t = Math.max(0, Math.min(1, ((u - u0) * du + (v - v0) * dv) / l2))
          const d2 = (u - u0 - t * du) ** 2 + (v - v0 - t * dv) ** 2
          if (d2 >= best) continue
          best = d2
          twin = j
        }
      }
    }
    if (twin < 0) continue
    const du = b[twin + 2]! - b[twin]!
    const dv = b[twin + 3]! - b[twin + 1]!
    const l = Math.sqrt(du * du + dv * dv)
    // The chains run upwards with the outside on their right, seen in this mirrored frame.
    const d = ((u - b[twin]!) * dv - (v - b[twin + 1]!) * du) / l
    out.push({ d: side * d, n: dv / l, m: -du / l, u, v, weight: 1 })
  }
  return out
}

function plot(samples: Sample[]): MirrorFit['difference'] {
  const step = Math.max(1, Math.floor(samples.length / 400))
  return samples
    .filter((_, i) => i % step === 0)
    .map((s) => ({ along: s.v, px: s.d, agrees: s.weight > 0 }))
    .sort((p, q) => p.along - q.along)
}

import { upperMedian } from '../upper-median'

/** The colours (OKLab) of lines across a picture at their two ends, three values a line. */
export type LineEnds = readonly [Float32Array, Float32Array]

/** Every so many lines are looked at to tell by how much the two ends usually differ. */
const TELL = 60
/** Ends that differ by this much more or less than they usually do, OKLab units, don't show the same backdrop. */
const OTHER_COLOUR = 0.05
/** … and by so many times what the calmer lines do, this share of all: bricks differ all along. */
const WAVERS = 2.5
const CALM_LINES = 0.3
/** … unless that is more than this. */
const MOST_LIMIT = 0.075
/** So many lines off the change of colour both of its sides are looked at: it is soft. */
const SOFT = 2
/** What covers less than this share of the lines is as unusual among its neighbours that those tell it, … */
const LEAST_LINES = 0.03
/** … and where more than this share of all lines is covered, the rest may be the thing. */
const MOST_LINES = 0.35
/** Where a thing begins or ends, its own border shows this share of the change at least, and the other border this one at most. */
const OWN_SHARE = 0.7
const OTHER_SHARE = 0.4

/** A shadow is of the backdrop's hue to within this, OKLab units, … */
const OTHER_HUE = 0.03
/** … and its border is soft: within a few lines it shows less than this share of its change. */
const SHARP_SHARE = 0.6
const SHARP = 2
const FAR = 5

/** Lines from one to before another whose one end shows a thing; its soft border is counted in. */
export interface CoveredLines {
  side: 0 | 1
  from: number
  to: number
}

/**
 * Runs of lines of which one end shows something that crosses the border, a box or a hand: there the two ends differ by another
 * amount than elsewhere, and where that begins and ends only one of them changes. (The floor begins at both.)
 */
export function coveredLines(ends: LineEnds): CoveredLines[] {
  const lines = ends[0].length / 3
  const differences = [0, 1, 2].map((c) =>
    Float32Array.from({ length: lines }, (_, line) => ends[0][3 * line + c]! - ends[1][3 * line + c]!),
  )
  const usual = differences.map(repeatedMedianLine)
  const off = Float32Array.from({ length: lines }, (_, line) =>
    Math.hypot(...differences.map((d, c) => d[line]! - usual[c]!(line))),
  )
  const limit = Math.max(OTHER_COLOUR, WAVERS * off.toSorted()[Math.floor(CALM_LINES * lines)]!)
  if (limit > MOST_LIMIT) return []
  const isOther = (line: number) => off[line]! > limit
  const out: CoveredLines[] = []
  for (let from = 0; from < lines; from++) {
    if (!isOther(from)) continue
    let to = from + 1
    while (to < lines && isOther(to)) to++
    const covered = { from, to }
    const side = to - from < LEAST_LINES * lines ? null : sideOf(ends, covered)
    if (side !== null && !isShadow(ends, { side, ...covered }))
      out.push({ side, from: Math.max(0, from - SOFT), to: Math.min(lines, to + SOFT) })
    from = to
  }
  return out.reduce((sum, { from, to }) => sum + to - from, 0) > MOST_LINES * lines ? [] : out
}

/** The border that a run of lines is covered at: the one that changes where the run begins or ends; null where each does once. */
function sideOf(ends: LineEnds, covered: Pick<CoveredLines, 'from' | 'to'>): 0 | 1 | null {
  const sides = boundsOf(ends[0], covered, SOFT).flatMap((bound) => {
    const changes = ends.map((end) => changeAt(end, bound))
    const both = Math.hypot(...changes[0]!.map((v, c) => v - changes[1]![c]!))
    // A thing as dark as the shade that it stands in shows one of its ends only.
    if (both < OTHER_COLOUR / 2) return []
    const [left, right] = changes.map((change) => Math.hypot(...change) / both) as [number, number]
    if (left >= OWN_SHARE && right <= OTHER_SHARE) return [0 as const]
    return right >= OWN_SHARE && left <= OTHER_SHARE ? [1 as const] : []
  })
  const [side] = sides
  return side !== undefined && sides.every((other) => other === side) ? side : null
}

/** The lines so far before and after where a run begins and ends, but for those that the picture doesn't have. */
function boundsOf(end: Float32Array, { from, to }: Pick<CoveredLines, 'from' | 'to'>, off: number) {
  const lines = end.length / 3
  const bounds = [
    { outer: from - 1 - off, inner: from + off },
    { outer: to + off, inner: to - 1 - off },
  ]
  return bounds.filter((bound) => Object.values(bound).every((line) => line >= 0 && line < lines))
}

const changeAt = (end: Float32Array, { outer, inner }: { outer: number; inner: number }) =>
  [0, 1, 2].map((c) => end[3 * inner + c]! - end[3 * outer + c]!)

/** Whether a covered run is but a shadow that reaches the border: the backdrop's own light tells it. */
function isShadow(ends: LineEnds, covered: CoveredLines): boolean {
  const own = ends[covered.side]
  const led: LineEnds = [ends[0].slice(), ends[1].slice()]
  leadOver(led, covered)
  const at = 3 * ((covered.from + covered.to) >> 1)
  const [l, a, b] = own.subarray(at, at + 3) as unknown as [number, number, number]
  const [l0, a0, b0] = led[covered.side].subarray(at, at + 3) as unknown as [number, number, number]
  const dim = l / Math.max(l0, 1e-3)
  if (dim >= 1 || Math.hypot(a - dim * a0, b - dim * b0) > OTHER_HUE) return false
  const change = (off: number) =>
    boundsOf(own, covered, off).map((bound) => Math.hypot(...changeAt(own, bound)))
  const far = change(FAR)
  return change(SHARP).every((step, i) => step < SHARP_SHARE * (far[i] ?? 0))
}

/** Leads the colours of covered lines over, in place: those of the other border, and by what the two differ just before and after. */
export function leadOver(ends: LineEnds, { side, from, to }: CoveredLines): void {
  const [own, other] = side === 0 ? [ends[0], ends[1]] : [ends[1], ends[0]]
  const lines = own.length / 3
  const [before, after] = [from - 1, to]
  const differenceAt = (line: number, c: number) => own[3 * line + c]! - other[3 * line + c]!
  const first = Math.max(0, before + 1)
  const last = Math.min(lines, after)
  for (let c = 0; c < 3; c++) {
    const p = before >= 0 ? differenceAt(before, c) : differenceAt(after, c)
    const q = after < lines ? differenceAt(after, c) : p
    for (let line = first; line < last; line++) {
      const t = (line - first + 1) / (last - first + 1)
      own[3 * line + c] = other[3 * line + c]! + (1 - t) * p + t * q
    }
  }
}

/** The line through most values, whatever nearly half of them are: repeated medians (Siegel, Biometrika 69, 1982, 242-244). */
function repeatedMedianLine(values: Float32Array): (at: number) => number {
  const stride = Math.max(1, Math.floor(values.length / TELL))
  const at = Array.from({ length: Math.ceil(values.length / stride) }, (_, i) => i * stride)
  if (at.length < 2) return () => values[0] ?? 0
  const slope = upperMedian(
    Float32Array.from(at, (x) =>
      upperMedian(
        Float32Array.from(
          at.filter((other) => other !== x),
          (other) => (values[other]! - values[x]!) / (other - x),
        ),
      ),
    ),
  )
  const start = upperMedian(Float32Array.from(at, (x) => values[x]! - slope * x))
  return (x) => start + slope * x
}

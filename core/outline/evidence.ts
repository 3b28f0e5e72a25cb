import type { LabPicture } from '../picture/reduce'
import type { Plane } from '../picture/raster'
import { upperMedian } from '../upper-median'

/** Share of the picture's shorter side along its borders that is taken for backdrop. */
const MARGIN = 0.05
/** No backdrop is known better than this, OKLab units: about one step of an 8-bit picture after JPEG. */
const LEAST_SPREAD = 0.006
/** A line across the picture, or columns, is believed when it foretells the borders it hasn't seen to within this. */
const PLAIN_ENOUGH = 0.035

/**
 * How much each pixel speaks for the piece, -1 (backdrop) to 1 (piece).
 *
 * Cut-outs: the alpha. Plain and graded backdrops: distance from the colour that the two ends of the pixel's row (or
 * column, whichever foretells the other two borders better) make expect. Textured ones: rarity of the colour among the
 * colours of the borders.
 */
export function pieceEvidence(picture: LabPicture): Evidence {
  const { width, height, alpha } = picture
  if (alpha)
    return {
      kind: 'cut-out',
      plane: { width, height, data: alpha.data.map((v) => 2 * v - 1) },
      unshadowed: null,
      backdrop: null,
    }
  const margin = Math.max(2, Math.round(MARGIN * Math.min(width, height)))
  const rows = lineModel(picture, margin, false)
  const columns = lineModel(picture, margin, true)
  const best = rows.unseen <= columns.unseen ? rows : columns
  if (best.unseen < PLAIN_ENOUGH)
    return { kind: 'plain', plane: best.evidence, unshadowed: best.unshadowed, backdrop: best.backdrop }
  const plane = colourEvidence(picture, inBorder(picture, margin))
  return { kind: 'textured', plane, unshadowed: null, backdrop: null }
}

export interface Evidence {
  /** What the backdrop is like. */
  kind: 'cut-out' | 'plain' | 'textured'
  /** -1 (backdrop) to 1 (piece). */
  plane: Plane
  /** The same with what may be a shadow held back, before a plain backdrop: grey pieces are held back too. */
  unshadowed: Plane | null
  /** What a plain backdrop looks like behind the piece. */
  backdrop: Backdrop | null
}

/** A plain backdrop as its colours along two opposite borders foretell it. */
export interface Backdrop {
  /** Px of the picture that the borders were read in. */
  factor: number
  /** Lines run across (or down) from one border to the other. */
  down: boolean
  /** So many px, of those. */
  length: number
  /** OKLab of each line at its two ends. */
  ends: readonly [Float32Array, Float32Array]
  /** From this distance on a colour isn't the backdrop's, each line. */
  limits: Float32Array
}

/** What looks like the backdrop dimmed may be a shadow: it speaks for the piece only this much. Darker than so, none is. */
const SHADOW_DOUBT = 0.2
const DEEPEST_SHADOW = 0.4

interface LineModel {
  evidence: Plane
  unshadowed: Plane
  /** Median distance between foretold and real colour on the two borders that the model wasn't made of. */
  unseen: number
  backdrop: Backdrop
}

/** Lines on either side among which one is unusual, as a share of all. */
const USUAL_REACH = 0.09
/** Ends that differ from their neighbours by less than this are as usual, OKLab units. */
const LEAST_AWAY = 0.05

/** Medians of every `stride`-th value, from the first on, over ever as many neighbours on either side, fewer at the ends. */
function runningMedian(values: Float32Array, stride: number, first: number): Float32Array {
  const n = values.length / stride
  const reach = Math.round(USUAL_REACH * n)
  return Float32Array.from({ length: n }, (_, i) => {
    const r = Math.min(reach, i, n - 1 - i)
    return upperMedian(
      Float32Array.from({ length: 2 * r + 1 }, (_, k) => values[stride * (i - r + k) + first]!),
    )
  })
}

/** A shadow dims all light alike, which scales all three coordinates of OKLab alike. */
function mayBeShadow(
  l: number,
  a: number,
  b: number,
  l0: number,
  a0: number,
  b0: number,
  limit: number,
  deepest: number,
): boolean {
  const dim = l / Math.max(l0, 1e-3)
  const hue = Math.sqrt((a - dim * a0) ** 2 + (b - dim * b0) ** 2)
  return dim < 1 && dim > deepest && hue < limit / 2
}

/**
 * How much a colour of the picture speaks for the piece rather than for a plain backdrop and its shadows, -1 to 1.
 * @param x full-resolution px, as y
 * @param l OKLab, as a and b
 */
export function speaksForPiece(
  { factor, down, length, ends: [first, last], limits }: Backdrop,
  x: number,
  y: number,
  l: number,
  a: number,
  b: number,
): number {
  const line = Math.max(0, Math.min(limits.length - 1, Math.round((down ? x : y) / factor - 0.5)))
  const t = Math.max(0, Math.min(1, ((down ? y : x) / factor - 0.5) / (length - 1)))
  const l0 = (1 - t) * first[3 * line]! + t * last[3 * line]!
  const a0 = (1 - t) * first[3 * line + 1]! + t * last[3 * line + 1]!
  const b0 = (1 - t) * first[3 * line + 2]! + t * last[3 * line + 2]!
  const limit = limits[line]!
  const evidence = Math.min(1, Math.sqrt((l - l0) ** 2 + (a - a0) ** 2 + (b - b0) ** 2) / limit - 1)
  return evidence > 0 && mayBeShadow(l, a, b, l0, a0, b0, limit, 0) ? 0 : evidence
}

/** Backdrop read across each row between its two ends (or down each column). */
function lineModel(picture: LabPicture, margin: number, down: boolean): LineModel {
  const { width, height, l, a, b } = picture
  const lines = down ? width : height
  const length = down ? height : width
  const at = (line: number, k: number) => (down ? k * width + line : line * width + k)
  const ends = [new Float32Array(lines * 3), new Float32Array(lines * 3)] as const
  const limits = new Float32Array(lines)
  const values = new Float32Array(margin)
  for (let line = 0; line < lines; line++) {
    let deviation = 0
    ends.forEach((end, side) => {
      const from = side === 0 ? 0 : length - margin
      ;[l, a, b].forEach((channel, c) => {
        for (let k = 0; k < margin; k++) values[k] = channel[at(line, from + k)]!
        values.sort()
        end[3 * line + c] = values[values.length >> 1]!
      })
      for (let k = 0; k < margin; k++) {
        const i = at(line, from + k)
        deviation +=
          Math.hypot(l[i]! - end[3 * line]!, a[i]! - end[3 * line + 1]!, b[i]! - end[3 * line + 2]!) / margin
      }
    })
    limits[line] = 4.5 * Math.max(LEAST_SPREAD, deviation / 2)
  }
  // What crosses a border, a handle or another thing, foretells nothing of the backdrop along its lines.
  const usualLimits = runningMedian(limits, 1, 0)
  for (const end of ends) {
    const usual = [0, 1, 2].map((c) => runningMedian(end, 3, c))
    for (let line = 0; line < lines; line++) {
      const away = Math.hypot(...usual.map((u, c) => end[3 * line + c]! - u[line]!))
      if (away <= Math.max(LEAST_AWAY, usualLimits[line]!)) continue
      usual.forEach((u, c) => (end[3 * line + c] = u[line]!))
      limits[line] = usualLimits[line]!
    }
  }
  const data = new Float32Array(width * height)
  const unshadowed = new Float32Array(width * height)
  const unseen: number[] = []
  const [first, last] = ends
  for (let line = 0; line < lines; line++) {
    const limit = limits[line]!
    for (let k = 0; k < length; k++) {
      const t = k / (length - 1)
      const i = at(line, k)
      const l0 = (1 - t) * first[3 * line]! + t * last[3 * line]!
      const a0 = (1 - t) * first[3 * line + 1]! + t * last[3 * line + 1]!
      const b0 = (1 - t) * first[3 * line + 2]! + t * last[3 * line + 2]!
      const d = Math.sqrt((l[i]! - l0) ** 2 + (a[i]! - a0) ** 2 + (b[i]! - b0) ** 2)
      data[i] = Math.min(1, d / limit - 1)
      const shadow = data[i]! > 0 && mayBeShadow(l[i]!, a[i]!, b[i]!, l0, a0, b0, limit, DEEPEST_SHADOW)
      unshadowed[i] = shadow ? SHADOW_DOUBT * data[i]! : data[i]!
      if (line < margin || line >= lines - margin) unseen.push(d)
    }
  }
  const sorted = Float32Array.from(unseen).sort()
  return {
    evidence: { width, height, data },
    unshadowed: { width, height, data: unshadowed },
    unseen: sorted[Math.floor(0.8 * sorted.length)]!,
    backdrop: { factor: picture.factor, down, length, ends, limits },
  }
}

function inBorder({ width, height }: LabPicture, margin: number): (i: number) => boolean {
  return (i) => {
    const x = i % width
    const y = (i - x) / width
    return x < margin || y < margin || x >= width - margin || y >= height - margin
  }
}

const BINS = 24
/** OKLab ranges that sRGB fills: lightness 0..1, colour axes about -0.25..0.3. */
const bin = (value: number, low: number, high: number) =>
  Math.min(BINS - 1, Math.max(0, Math.floor(((value - low) / (high - low)) * BINS)))

/**
 * Evidence from colours alone: how much more often a pixel's colour (and its neighbours' in colour space) is seen
 * among the pixels of the piece than among those of the backdrop.
 * @param isBackdrop pixels known as backdrop; all others count as possible piece
 */
export function colourEvidence(picture: LabPicture, isBackdrop: (i: number) => boolean): Plane {
  const { width, height, l, a, b } = picture
  const n = width * height
  const cell = new Uint16Array(n)
  const backdrop = new Float32Array(BINS ** 3)
  const other = new Float32Array(BINS ** 3)
  let backdrops = 0
  for (let i = 0; i < n; i++) {
    cell[i] = (bin(l[i]!, 0, 1) * BINS + bin(a[i]!, -0.25, 0.3)) * BINS + bin(b[i]!, -0.3, 0.25)
    if (isBackdrop(i)) {
      backdrop[cell[i]!]!++
      backdrops++
    } else other[cell[i]!]!++
  }
  const smoothBackdrop = smoothCells(backdrop)
  const smoothOther = smoothCells(other)
  const data = new Float32Array(n)
  const even = 1e-5
  for (let i = 0; i < n; i++) {
    const p = smoothOther[cell[i]!]! / Math.max(1, n - backdrops) + even
    const q = smoothBackdrop[cell[i]!]! / Math.max(1, backdrops) + even
    data[i] = Math.max(-1, Math.min(1, beyond(Math.log(p / q), UNSURE) / 2.5))
  }
  return { width, height, data }
}

/** Colours less than e^0.8, some twice, as common on one side as on the other tell nothing. */
const UNSURE = 0.8
const beyond = (value: number, limit: number) => Math.sign(value) * Math.max(0, Math.abs(value) - limit)

/** Spreads counts over neighbouring cells, so that a colour a little off isn't taken for unseen. */
function smoothCells(count: Float32Array): Float32Array {
  let from = count
  for (const stride of [1, BINS, BINS * BINS]) {
    const to = new Float32Array(from.length)
    for (let i = 0; i < from.length; i++) {
      const k = Math.floor(i / stride) % BINS
      to[i] =
        0.5 * from[i]! +
        0.25 * (k > 0 ? from[i - stride]! : from[i]!) +
        0.25 * (k < BINS - 1 ? from[i + stride]! : from[i]!)
    }
    from = to
  }
  return from
}

import type { Raster } from '../picture/raster'
import { upperMedian } from '../upper-median'
import { placeAt, type AxisLine } from './axis-line'
import type { Backdrop } from './backdrop'
import { clearness, edgeBand } from './edge-band'
import { areSoft, lightAcross } from './soft-steps'
import { likenessAlong, type BandedChain } from './region-worth'

/** What the steps across an end of the outline say of an edge that closes it. */
export interface EndEvidence {
  /** What an edge earns; less than 0 for grain. */
  earned: Places
  /** Columns across, on both sides alike, and which one a distance from the axis falls into. */
  columns: number
  columnOf: (u: number) => number
  uOf: (column: number) => number
  /**
   * How much more unlike the backdrop and its shadows the piece looks inside of a place than outside, -1 to 1, the mean of
   * both sides; a shadow's border is no such place, however sharp it is.
   */
  parts: (backdrop: Backdrop) => Places
  /** How unlike the backdrop it looks just inside of a place, -1 to 1, the mean of both sides. */
  inside: (backdrop: Backdrop) => Places
  /** Whether the steps at these places along the axis, from the first column on, are much softer than the picture's edges, as shadows' are. */
  areSoft: (levels: ArrayLike<number>) => boolean
}

/** Values at the places about an end, at `columns` a level, since arcs run across. */
export class Places {
  /**
   * @param from along the axis (outwards positive, px), where the first level of places lies, and how far apart they are
   * @param beyond what there is where no place lies
   */
  constructor(
    private readonly data: Float32Array,
    private readonly columns: number,
    private readonly from: number,
    private readonly step: number,
    private readonly beyond: number,
  ) {}

  /** The value at a place along the axis, at a column across. */
  at(v: number, column: number): number {
    const k = Math.round((v - this.from) / this.step)
    return this.data[k * this.columns + column] ?? this.beyond
  }

  /** The sum along an arc: from a tip it falls so much, times so far, in each column. */
  along(tip: number, b: number, fall: Float64Array): number {
    const { data, columns, step, beyond } = this
    const levels = data.length / columns
    const first = (tip - this.from) / step + 0.5
    const share = b / step
    let sum = 0
    for (let c = 0; c < fall.length; c++) {
      const level = first - share * fall[c]!
      sum += level < 0 || level >= levels ? beyond : data[(level | 0) * columns + c]!
    }
    return sum
  }

  /** With so much of other values at the same places. */
  plus(other: Places, share: number): Places {
    const data = this.data.map((v, i) => v + share * other.data[i]!)
    return new Places(data, this.columns, this.from, this.step, this.beyond + share * other.beyond)
  }
}

export interface EndOptions {
  axis: AxisLine
  /** The end lies down the axis. */
  down: boolean
  blur: number
  /** Where the outline ends along the axis, outwards positive, and its half-width there, px. */
  end: number
  wide: number
  /** How far from there the evidence reaches, px. */
  reach: number
  /** The piece is seen through: its thin walls show two edges close to each other, neither of which may be lost. */
  clear: boolean
}

/** Places across that vote, on each side, from the axis to this many half-widths. */
const COLUMNS = 84
const COLUMNS_REACH = 1.35
/** Places lie so far apart, px; farther across wide ends, whose arcs need no finer ones, but within so many blurs. */
const STEP = 0.5
const WIDEST_STEP = 1
const WIDEST_STEP_BLURS = 0.7
const HALF_WIDTH_PER_STEP = 700
/** One glaring edge isn't worth more than this, and each must be worth so much more than grain. */
const MOST_WORTH = 1.3
const LEAST_WORTH = 0.3
/** What one side says alone, and what both say. */
const EACH = 0.35
const BOTH = 0.3

/** Looks for steps along the axis over the width of an end, on both sides at once. */
export function endEvidence(raster: Raster, options: EndOptions): EndEvidence {
  const { axis, down, blur, end, wide, reach, clear } = options
  const sign = down ? -1 : 1
  const widest = Math.max(WIDEST_STEP, WIDEST_STEP_BLURS * blur)
  const step = Math.min(widest, Math.max(STEP, wide / HALF_WIDTH_PER_STEP))
  const uOf = (column: number) => ((column + 0.5) / COLUMNS) * COLUMNS_REACH * wide
  const normals = Float64Array.from({ length: 2 * COLUMNS }, (_, i) => sign * (i % 2 ? axis.up.y : axis.up.x))
  const sides = [-1, 1].map((side): BandedChain => {
    const points = new Float64Array(2 * COLUMNS)
    for (let c = 0; c < COLUMNS; c++) {
      const { x, y } = placeAt(axis, side * uOf(c), sign * end)
      points.set([x, y], 2 * c)
    }
    const band = edgeBand(raster, points, normals, { reach, blur, step, along: uOf(0), alone: !clear })
    return { points, normals, band }
  })
  const { places } = sides[0]!.band
  const [left, right] = sides.map(({ band }) =>
    peaksOf(clearness(band), places, Math.round(SKIRT_PX / step)),
  ) as [Float32Array, Float32Array]
  const shared = left.map((_, i) => {
    const [p, q] = [
      Math.min(MOST_WORTH, beside(left, i, places)),
      Math.min(MOST_WORTH, beside(right, i, places)),
    ]
    // Two sides that agree are worth more than one that shouts.
    return EACH * (p + q) + BOTH * Math.min(p, q)
  })
  const least = upperMedian(shared.slice()) + LEAST_WORTH
  const from = end - ((places - 1) / 2) * step
  const table = (valueAt: (i: number, k: number) => number, beyond: number) => {
    const data = new Float32Array(COLUMNS * places)
    for (let c = 0; c < COLUMNS; c++)
      for (let k = 0; k < places; k++) data[k * COLUMNS + c] = valueAt(c * places + k, k)
    return new Places(data, COLUMNS, from, step, beyond)
  }
  const look = Math.round(LOOK_PX / step)
  const gap = Math.ceil(blur / step)
  const likenesses = (backdrop: Backdrop) =>
    sides.map((side) => likenessAlong(raster, side, backdrop, look)) as [Float32Array, Float32Array]
  return {
    earned: table((i) => shared[i]! - least, -least),
    columns: COLUMNS,
    columnOf: (u) => Math.floor((u / (COLUMNS_REACH * wide)) * COLUMNS),
    uOf,
    parts: (backdrop) => {
      const [p, q] = likenesses(backdrop)
      const pieceAt = (i: number) => (Math.max(0, p[i]!) + Math.max(0, q[i]!)) / 2
      const outside = (k: number) => k < gap + look || k + gap + look > places
      return table((i, k) => (outside(k) ? 0 : pieceAt(i - gap - look) - pieceAt(i + gap)), 0)
    },
    inside: (backdrop) => {
      const [p, q] = likenesses(backdrop)
      const from = gap + look
      return table((i, k) => (k < from ? 0 : (p[i - from]! + q[i - from]!) / 2), 0)
    },
    areSoft: (levels) => {
      const lines = sides.flatMap(({ points, normals }) =>
        Array.from({ length: levels.length }, (_, c) => {
          const [nx, ny] = [normals[2 * c]!, normals[2 * c + 1]!]
          const out = levels[c]! - end
          const at = { x: points[2 * c]! + out * nx, y: points[2 * c + 1]! + out * ny }
          return lightAcross(raster, at, { x: nx, y: ny }, blur)
        }),
      )
      return areSoft(lines, blur)
    },
  }
}

/** What lies beside a place is looked at over so many px. */
const LOOK_PX = 2

/** Nearer than this weaker answers are the skirts of a strong one. */
const SKIRT_PX = 1.5

/** The worths with all but the peaks along each column set to none. */
function peaksOf(worth: Float32Array, places: number, skirt: number): Float32Array {
  const out = worth.slice()
  for (let from = 0; from < worth.length; from += places)
    for (let d = 1; d <= skirt; d++)
      for (let i = from; i + d < from + places; i++) {
        if (worth[i]! < worth[i + d]!) out[i] = 0
        if (worth[i]! > worth[i + d]!) out[i + d] = 0
      }
  return out
}

/** The best of a place and its neighbours: the two sides may be off by half a px. */
function beside(worth: Float32Array, i: number, places: number): number {
  const k = i % places
  return Math.max(worth[i]!, k > 0 ? worth[i - 1]! : 0, k < places - 1 ? worth[i + 1]! : 0)
}

import { isEdgeless, type Raster } from '../picture/raster'
import { addLight } from '../picture/sample'
import { upperMedian } from '../upper-median'
import { placeAt, type AxisLine } from './axis-line'
import { answered, stepFilter } from './edge-band'
import { crossingAt } from './end-view'

/** The picture about an end of the piece, along lines parallel to the axis, on both sides of it; v grows out of the piece. */
export interface RingColumns {
  blur: number
  /** Half-width of the end, and where the outline reaches along the axis, px. */
  wide: number
  end: number
  /** Columns lie side by side: column c's middle is so far from the axis, px. */
  uOf: (column: number) => number
  /** Of the left and of the right side. */
  sides: readonly (readonly Column[])[]
  /** Columns beside the end, where nothing of the piece is at its level. */
  beside: () => readonly (readonly Column[])[]
  /** The place in a column's samples of a distance along the axis, in steps. */
  indexOf: (v: number) => number
}

export interface Column {
  /** Where the outline that was found crosses it, along the axis, px. */
  way: number
  /** The root of the light, whose noise is even, in each colour. */
  light: readonly Float32Array[]
  /** What a step of the picture's blur answers at each sample, in all three colours, as a share of what noise and grain answer; of both signs. */
  answers: Float32Array
}

export interface ColumnsOptions {
  axis: AxisLine
  blur: number
  /** The end lies down the axis. */
  down: boolean
  wide: number
  end: number
  /** So far into the piece, and out of it, they reach, px. */
  inwards: number
  outwards: number
}

/** Columns across each half of an end. */
export const RING_COLUMNS = 60
/** Columns beside it: the first, and the one after the last. */
export const BESIDE = [65, 81] as const
/** Distance of the samples along them, px. */
export const COLUMN_STEP = 0.5
/** Rows that a column averages lie so far apart, px. */
const ROWS_APART = 1.3
/** The filter's window, px and blurs: short, so that it sees a ring apart from the crease beside it. */
const WINDOW_PX = 1.5
const WINDOW_BLURS = 1.5
/** No noise is less, in the root of linear light: some two-hundredth of a code in the middle tones, so that a made-up picture without any has some. */
const LEAST_NOISE = 2e-5

/** Filters reach so far, px. */
export const windowOf = (blur: number) => Math.ceil(WINDOW_PX + WINDOW_BLURS * blur)

/** @param halves [u v ...] as seen from the end, the left one first */
export function ringColumns(
  raster: Raster,
  halves: readonly Float64Array[],
  { axis, blur, down, wide, end, inwards, outwards }: ColumnsOptions,
): RingColumns {
  const sign = down ? -1 : 1
  const width = wide / RING_COLUMNS
  const uOf = (column: number) => (column + 0.5) * width
  const from = end - inwards
  const places = Math.round((inwards + outwards) / COLUMN_STEP)
  const window = windowOf(blur)
  const margin = Math.round(window / COLUMN_STEP)
  const filter = stepFilter(margin, COLUMN_STEP, blur)
  const samples = places + 2 * margin
  const rows = Math.max(1, Math.round(width / ROWS_APART))
  const [dx, dy] = [sign * axis.up.x * COLUMN_STEP, sign * axis.up.y * COLUMN_STEP]
  const lightAt = (side: number, u: number) => {
    const light = new Float32Array(3 * samples)
    for (let row = 0; row < rows; row++) {
      const aside = ((row + 0.5) / rows - 0.5) * width
      const { x, y } = placeAt(axis, side * (u + aside), sign * (from - margin * COLUMN_STEP))
      addLight(raster, { x, y, dx, dy, count: samples }, light)
    }
    for (let i = 0; i < light.length; i++) light[i] = Math.sqrt(light[i]! / rows)
    return [0, 1, 2].map((colour) => light.subarray(colour * samples, (colour + 1) * samples))
  }
  const isSaidNone = (u: number, place: number) => {
    const { x, y } = placeAt(axis, u, sign * (from + place * COLUMN_STEP))
    return isEdgeless(raster, x, y)
  }
  const read = (first: number, last: number) =>
    halves.map((half, k) =>
      Array.from({ length: last - first }, (_, i): ReadColumn => {
        const u = uOf(first + i)
        const side = k === 0 ? -1 : 1
        const lines = lightAt(side, u)
        const answers = lines.map((line) => {
          const out = new Float32Array(places)
          answered(line, filter, 1, out)
          return raster.edgeless ? out.map((v, n) => (isSaidNone(side * u, n) ? 0 : v)) : out
        })
        return {
          way: crossingAt(half, u),
          light: lines.map((line) => line.subarray(margin, margin + places)),
          answers,
        }
      }),
    )
  const across = read(0, RING_COLUMNS)
  const outside = Math.round((inwards + window) / COLUMN_STEP)
  const noise = [0, 1, 2].map((colour) =>
    noiseOf(across.flat().map(({ answers }) => answers[colour]!.subarray(outside))),
  )
  const toNoise = (sides: ReadColumn[][]) =>
    sides.map((side) => side.map((column) => sharedAnswers(column, noise)))
  return {
    blur,
    wide,
    end,
    uOf,
    sides: toNoise(across),
    beside: () => toNoise(read(...BESIDE)),
    indexOf: (v) => (v - from) / COLUMN_STEP,
  }
}

/** A column with the answers of each colour by themselves. */
interface ReadColumn extends Omit<Column, 'answers'> {
  answers: Float32Array[]
}

function sharedAnswers({ answers: each, ...column }: ReadColumn, noise: readonly number[]): Column {
  const places = each[0]!.length
  const answers = new Float32Array(3 * places)
  each.forEach((line, colour) => {
    for (let k = 0; k < places; k++) answers[3 * k + colour] = line[k]! / noise[colour]!
  })
  return { ...column, answers }
}

/** Of so many answers one tells as much of what is usual. */
const NOISE_STRIDE = 5

/** What answers are usual. */
function noiseOf(answers: readonly Float32Array[]): number {
  const some: number[] = []
  for (const line of answers)
    for (let k = 0; k < line.length; k += NOISE_STRIDE) some.push(Math.abs(line[k]!))
  return Math.max(LEAST_NOISE, 1.4826 * upperMedian(Float32Array.from(some)))
}

/** A value between the samples of a column; null beyond them. */
export function sampleAt(line: Float32Array, index: number): number | null {
  const k = Math.floor(index)
  if (k < 0 || k + 1 >= line.length) return null
  return line[k]! + (index - k) * (line[k + 1]! - line[k]!)
}

import type { PicturePoint } from '../conventions'
import { strongerOf } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import type { AxisLine } from './axis-line'
import { MOST_LEAN } from './symmetry'

const LEAN_STEP = (0.2 * Math.PI) / 180
/** Weaker edges don't vote. */
const LEAST_EDGE = 0.08
/** Nearer than this, px, two places show the same edge. */
const LEAST_APART = 6
/** A row with more edges than this is texture; its strongest ones vote. */
const MOST_A_ROW = 40
/** Candidates nearer to each other than this, px at mid height and at the ends, are one. */
const SAME_PX = 4

/**
 * Lines that the middles between sharp edges of each row fall on: every pair of edges votes for its middle, and the lines
 * through most votes are wanted, over all offsets and leans (Hough 1962). The outline's pairs all vote for the axis;
 * those of texture, floor and reflections for anything.
 * @param up rough direction of the axis in the picture, one of the four
 */
export function edgeMiddleAxes(sharp: Sharpness, up: PicturePoint, most = 3): AxisLine[] {
  const across = { x: -up.y, y: up.x }
  const { width, height } = sharp.x
  const { data } = strongerOf(sharp.x, sharp.y)
  const upright = Math.abs(up.y) > 0.5
  const rows = upright ? height : width
  const columns = upright ? width : height
  // Row and column in the piece's own sense: columns grow along `across`, rows along `up`.
  const at = (row: number, column: number) => {
    const a = up.x + up.y > 0 ? row : rows - 1 - row
    const b = across.x + across.y > 0 ? column : columns - 1 - column
    return upright ? a * width + b : b * width + a
  }
  const votes = new Float32Array(rows * 2 * columns)
  for (let row = 0; row < rows; row++) {
    const line = votes.subarray(row * 2 * columns, (row + 1) * 2 * columns)
    for (const [p, q, weight] of pairsOf(columns, (column) => data[at(row, column)]!)) {
      const middle = p + q
      for (let k = Math.max(0, middle - 2); k <= Math.min(2 * columns - 1, middle + 2); k++)
        line[k] = Math.min(1, line[k]! + weight * (1 - Math.abs(k - middle) / 3))
    }
  }
  const bundles = bundled(votes, rows, 2 * columns)
  const leans: number[] = []
  for (let lean = -MOST_LEAN; lean <= MOST_LEAN; lean += LEAN_STEP) leans.push(Math.tan(lean))
  const found: { score: number; middle: number; slope: number }[] = []
  const scores = leans.map((slope) => scoresOf(bundles, rows, columns, slope))
  for (let n = 0; n < most; n++) {
    let best = { score: 0, middle: 0, slope: 0 }
    scores.forEach((line, i) => {
      for (let k = 0; k < line.length; k++) {
        if (line[k]! <= best.score) continue
        const here = { score: line[k]!, middle: k / 2, slope: leans[i]! }
        if (!found.some((f) => sameLine(f, here, rows))) best = here
      }
    })
    if (best.score === 0) break
    found.push(best)
  }
  return found.map(({ middle, slope }) => {
    const length = Math.hypot(1, slope)
    const column = middle + 0.5 - columns / 2
    return {
      at: { x: width / 2 + column * across.x, y: height / 2 + column * across.y },
      up: { x: (up.x + slope * across.x) / length, y: (up.y + slope * across.y) / length },
    }
  })
}

/** A run of edge px longer than this lies along the row (a foot, a shoulder): its two ends are the places. */
const LONG_RUN = 4

/** Pairs of edges of a row with what they weigh: the weaker one's sharpness. */
function pairsOf(columns: number, edge: (column: number) => number): [number, number, number][] {
  let places: { column: number; value: number }[] = []
  for (let c = 0; c < columns;) {
    if (edge(c) < LEAST_EDGE) {
      c++
      continue
    }
    const from = c
    let peak = c
    while (c < columns && edge(c) >= LEAST_EDGE) {
      if (edge(c) > edge(peak)) peak = c
      c++
    }
    if (c - from <= LONG_RUN) places.push({ column: peak, value: edge(peak) })
    else places.push({ column: from, value: edge(from + 1) }, { column: c - 1, value: edge(c - 2) })
  }
  if (places.length > MOST_A_ROW) {
    places.sort((p, q) => q.value - p.value)
    places = places.slice(0, MOST_A_ROW).sort((p, q) => p.column - q.column)
  }
  const out: [number, number, number][] = []
  for (let i = 0; i < places.length; i++)
    for (let j = i + 1; j < places.length; j++) {
      const [p, q] = [places[i]!, places[j]!]
      if (q.column - p.column >= LEAST_APART) out.push([p.column, q.column, Math.min(p.value, q.value)])
    }
  return out
}

/** So many rows vote as one: no line leans so far that it moves by a place between them. */
const BUNDLE = 3

/** The votes of each bundle of rows. */
function bundled(votes: Float32Array, rows: number, places: number): Float32Array {
  const out = new Float32Array(Math.ceil(rows / BUNDLE) * places)
  for (let row = 0; row < rows; row++) {
    const to = Math.floor(row / BUNDLE) * places
    for (let k = 0; k < places; k++) out[to + k]! += votes[row * places + k]!
  }
  return out
}

/** Votes along all lines of one slope, by their place (half px) at mid height. */
function scoresOf(bundles: Float32Array, rows: number, columns: number, slope: number): Float32Array {
  const out = new Float32Array(2 * columns)
  for (let base = 0, row = (BUNDLE - 1) / 2; base < bundles.length; base += 2 * columns, row += BUNDLE) {
    const shift = Math.round(2 * slope * (row - rows / 2))
    const from = Math.max(0, -shift)
    const to = Math.min(2 * columns, 2 * columns - shift)
    for (let k = from; k < to; k++) out[k]! += bundles[base + shift + k]!
  }
  return out
}

function sameLine(
  a: { middle: number; slope: number },
  b: { middle: number; slope: number },
  rows: number,
): boolean {
  const middle = a.middle - b.middle
  const end = ((a.slope - b.slope) * rows) / 2
  return Math.abs(middle) < SAME_PX && Math.abs(end) < 2 * SAME_PX
}

import type { Plane } from '../picture/raster'
import type { AxisLine } from './axis-line'

/** Lines lean by no more than this, and are told apart by so much. */
const MOST_LEAN = (6 * Math.PI) / 180
const LEAN_STEP = (0.25 * Math.PI) / 180
/** A pixel of a line shows at least so sharp an edge, … */
const LEAST_EDGE = 0.2
/** … and a line shows one over this share of the picture. */
const LONG = 0.35
/** So many lines at most; nearer to each other than this, px at mid height and at the ends, they are one. */
const MOST_LINES = 6
const SAME_PX = 5
const SAME_END_PX = 12
/** A line goes on as far as edges lie within this of it, px. */
const ON_PX = 2

/** A long straight edge in a reduced picture. */
export interface StraightEdge {
  line: AxisLine
  /** Where along the line, from its point on, it begins and ends, px. */
  low: number
  high: number
}

/**
 * Long straight edges, the longest first: the lines through most edge pixels, over all places and leans (Hough 1962).
 * @param plane sharpness of edges, 0..1, along the way that is meant
 * @param upright whether those are meant that run upright in the picture, or the level ones
 */
export function straightEdges(plane: Plane, upright: boolean): StraightEdge[] {
  const [rows, columns] = upright ? [plane.height, plane.width] : [plane.width, plane.height]
  const pixels = edgePixels(plane, upright)
  const found: Line[] = []
  for (let lean = -MOST_LEAN; lean <= MOST_LEAN; lean += LEAN_STEP) {
    const slope = Math.tan(lean)
    const lengths = new Uint16Array(columns)
    for (const { row, column } of pixels) {
      const middle = column - Math.round(slope * (row - rows / 2))
      if (middle >= 0 && middle < columns) lengths[middle]!++
    }
    lengths.forEach((length, middle) => {
      if (length >= LONG * rows) found.push({ middle, slope, length })
    })
  }
  found.sort((p, q) => q.length - p.length)
  const apart: Line[] = []
  for (const p of found) {
    const isSame = (q: Line) =>
      Math.abs(p.middle - q.middle) < SAME_PX && (Math.abs(p.slope - q.slope) * rows) / 2 < SAME_END_PX
    if (apart.length < MOST_LINES && !apart.some(isSame)) apart.push(p)
  }
  return apart.map(({ middle, slope }) => {
    const isOn = ({ row, column }: Cell) => Math.abs(column - middle - slope * (row - rows / 2)) < ON_PX
    const per = Math.hypot(1, slope)
    const along = pixels.filter(isOn).map(({ row }) => (row + 0.5 - rows / 2) * per)
    const [at, up] = upright
      ? [{ x: middle + 0.5, y: rows / 2 }, { x: slope / per, y: 1 / per }] // prettier-ignore
      : [{ x: rows / 2, y: middle + 0.5 }, { x: 1 / per, y: slope / per }] // prettier-ignore
    return { line: { at, up }, low: Math.min(...along), high: Math.max(...along) }
  })
}

/** A line by its column at mid height, and by how many columns it moves over from row to row. */
interface Line {
  middle: number
  slope: number
  /** How many of its px show an edge. */
  length: number
}

/** A place by rows and columns of the picture, or, for level lines, the other way round. */
interface Cell {
  row: number
  column: number
}

function edgePixels({ width, data }: Plane, upright: boolean): Cell[] {
  const out: Cell[] = []
  data.forEach((v, i) => {
    if (v < LEAST_EDGE) return
    const [x, y] = [i % width, Math.floor(i / width)]
    out.push(upright ? { row: y, column: x } : { row: x, column: y })
  })
  return out
}

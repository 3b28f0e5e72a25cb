import type { Plane } from '../picture/raster'
import type { LabPicture } from '../picture/reduce'
import type { Sharpness } from '../picture/sharpness'
import { upperMedian } from '../upper-median'
import { acrossAxis, alongAxis, placeAt, type AxisLine } from './axis-line'
import type { OutlineGuides } from './guides'

/** Everything beyond a line, between two places along it, as far as the picture's border. Reduced px. */
export interface Beside {
  line: AxisLine
  /** The side of the line that isn't meant: 1 for its right, looking up, or -1. */
  inwards: 1 | -1
  /** Along the line from its point on. */
  low: number
  high: number
}

/** How far off a hand aims, px. */
const AIM_PX = 4

/** What a user said of the piece, reduced px. */
interface Said {
  axis: AxisLine | null
  guides: OutlineGuides | null
}

/** Places that were said to be piece, or its edge. */
const placesOf = (guides: OutlineGuides | null) =>
  guides ? [...guides.piece.flatMap(({ points }) => points), ...guides.marks] : []

/** Whether somebody said that the axis or a part of the piece lies beyond. Reduced px. */
export function saysPieceBeyond({ line, inwards, low, high }: Beside, { axis, guides }: Said): boolean {
  const places = placesOf(guides)
  if (axis) places.push(axis.at)
  return places.some((p) => {
    const v = alongAxis(line, p)
    return inwards * acrossAxis(line, p) < -AIM_PX && v >= low && v <= high
  })
}

/** Whether somebody said that the axis or a part of the piece lies within bounds, reduced px. */
export function saysPieceWithin({ x, y }: PixelBounds, { axis, guides }: Said): boolean {
  const isWithin = (value: number, [from, to]: [number, number]) =>
    value >= from - AIM_PX && value <= to + 1 + AIM_PX
  if (axis) {
    // It crosses them where two of their corners lie on either side of it.
    const sides = x.flatMap((px) => y.map((py) => acrossAxis(axis, { x: px, y: py })))
    if (Math.min(...sides) <= 0 && Math.max(...sides) >= 0) return true
  }
  return placesOf(guides).some((p) => isWithin(p.x, x) && isWithin(p.y, y))
}

/** How far the picture's middle lies off a line, to its right, px. */
export const middleAcross = (line: AxisLine, { width, height }: Plane) =>
  acrossAxis(line, { x: width / 2, y: height / 2 })

/** The side of a line, 1 for its right, on which the picture's middle lies. */
export const sideOf = (line: AxisLine, picture: Plane): 1 | -1 => (middleAcross(line, picture) > 0 ? 1 : -1)

/** From the first to the last pixel each way. */
export interface PixelBounds {
  x: [number, number]
  y: [number, number]
}

/** A reduced picture and its sharp edges. */
export interface Scene {
  picture: LabPicture
  sharp: Sharpness
}

/** A scene some of whose pixels are changed, in copies of its three colours and of its edges across x and y. */
export function changedScene(
  { picture, sharp }: Scene,
  change: (colours: [Float32Array, Float32Array, Float32Array], edges: [Float32Array, Float32Array]) => void,
): Scene {
  const [l, a, b] = [picture.l.slice(), picture.a.slice(), picture.b.slice()]
  const [x, y] = [sharp.x.data.slice(), sharp.y.data.slice()]
  change([l, a, b], [x, y])
  return {
    picture: { ...picture, l, a, b },
    sharp: { x: { ...sharp.x, data: x }, y: { ...sharp.y, data: y } },
  }
}

/** The backdrop is looked at over so many px, this far from the line, … */
const LOOK_PX = 4
const AWAY_PX = 2
/** … and over so many beside the opposite border. */
const MARGIN_PX = 8
/** A row whose colour (OKLab) differs from that of the opposite border by this much more or less than others do shows the piece there. */
const OTHER_COLOUR = 0.05

/** The picture with the backdrop led over what stands beside the piece, without any edges there. */
export function withoutBeside(scene: Scene, beside: Beside): Scene {
  const rows = rowsOf(scene.picture, beside).filter(({ inner }) => inner.length >= MARGIN_PX)
  const backdrop = backdropBeside(scene.picture, rows)
  return changedScene(scene, (colours, edges) =>
    rows.forEach(({ beyond }, row) => {
      for (const i of beyond) {
        colours.forEach((plane, c) => (plane[i] = backdrop[c]![row]!))
        for (const plane of edges) plane[i] = 0
      }
    }),
  )
}

/** The pixels of a row square to the line: those beyond it, and those on this side, from it on. */
interface Row {
  beyond: number[]
  inner: number[]
}

/** Half-way rows too, so that no pixel between two rows of a leaning line is left. */
const ROWS_A_PX = 2

function rowsOf({ width, height }: LabPicture, { line, inwards, low, high }: Beside): Row[] {
  const reach = Math.ceil(Math.hypot(width, height))
  const indexAt = (v: number, u: number) => {
    const place = placeAt(line, u, v)
    const [x, y] = [Math.floor(place.x), Math.floor(place.y)]
    return x >= 0 && y >= 0 && x < width && y < height ? y * width + x : -1
  }
  const pixels = (v: number, from: number, step: number) =>
    Array.from({ length: reach / Math.abs(step) }, (_, k) => indexAt(v, from + k * step)).filter(
      (i) => i >= 0,
    )
  return Array.from({ length: Math.ceil(ROWS_A_PX * (high - low)) }, (_, k) => {
    const v = low + k / ROWS_A_PX
    return { beyond: pixels(v, 0, -inwards / 2), inner: pixels(v, inwards * AWAY_PX, inwards) }
  })
}

/** The piece may stand beside most rows, but not beside this share of them, which differ least from the opposite border. */
const FREE_ROWS = 0.3

/**
 * The backdrop's three colours for each row: those just this side of the line; where the piece stands there, those at the opposite
 * border, and by what the two differ elsewhere.
 */
function backdropBeside({ l, a, b }: LabPicture, rows: readonly Row[]): Float32Array[] {
  const planes = [l, a, b]
  const means = (pixels: (row: Row) => number[]) =>
    planes.map((plane) => Float32Array.from(rows, (row) => meanOf(plane, pixels(row))))
  const near = means(({ inner }) => inner.slice(0, LOOK_PX))
  const far = means(({ inner }) => inner.slice(-MARGIN_PX))
  const differences = rows.map((_, row) => planes.map((_, c) => near[c]![row]! - far[c]![row]!))
  const free = differences
    .toSorted((p, q) => Math.hypot(...p) - Math.hypot(...q))
    .slice(0, Math.ceil(FREE_ROWS * rows.length))
  const usual = planes.map((_, c) => upperMedian(Float32Array.from(free, (d) => d[c]!)))
  const isPiece = differences.map((d) => Math.hypot(...d.map((v, c) => v - usual[c]!)) > OTHER_COLOUR)
  return planes.map((_, c) => near[c]!.map((v, row) => (isPiece[row] ? far[c]![row]! + usual[c]! : v)))
}

const meanOf = (plane: Float32Array, pixels: readonly number[]) =>
  pixels.reduce((sum, i) => sum + plane[i]!, 0) / pixels.length

import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import { placeAt } from './axis-line'
import { sideOf, type Beside } from './beside'
import { hasEvenMarks } from './even-marks'
import { straightEdges, type StraightEdge } from './straight-edges'

/** Marks are looked for in columns so far apart, px, up to this share of the picture's shorter side from an edge; so many show them. */
const COLUMN_STEP = 4
const REACH = 0.12
const LEAST_COLUMNS = 3
/** Px about an edge or about marks that they are soft. */
const SOFT_PX = 2
/** Marks that begin nearer to an edge than this, px, begin at it. */
const AT_MARKS_PX = 4

/** What a ruler takes of the picture, for each place where it may begin; one at least. */
export type Ruler = readonly Beside[]

/**
 * The rulers that stand beside the piece or lie before it, told by their marks. Each may begin at the straight edge next to its marks
 * on the side towards the picture's middle, or, if that edge is the piece's, where the marks begin.
 * @param raster the picture itself, `factor` px for one of the reduced one
 * @param sharp edges of the reduced one
 * @param up direction of the piece's axis, one of the four
 */
export function rulersIn(raster: Raster, factor: number, { x, y }: Sharpness, up: PicturePoint): Ruler[] {
  return [straightEdges(x, true), straightEdges(y, false)].flatMap((edges) => {
    const marked = edges.map((edge) => {
      const inwards = sideOf(edge.line, x)
      const outwards = marksBeside(raster, factor, edge).map((u) => (-inwards * u) / factor)
      return { ...edge, inwards, outwards }
    })
    // A thread shows its turns on both sides of the piece.
    const sides = marked.filter(({ outwards }) => outwards.some((u) => Math.abs(u) <= AT_MARKS_PX))
    if (sides.some(({ inwards }) => inwards !== sides[0]!.inwards)) return []
    const possible = marked.flatMap(({ outwards, ...edge }): MarkedEdge[] => {
      const nearest = Math.min(...outwards)
      // Edges on a ruler and beyond it have marks on the side towards the middle, too.
      return nearest >= -SOFT_PX && nearest < Infinity ? [{ ...edge, nearest }] : []
    })
    return possible.length > 0 ? [beginsOf(edgeOfRuler(possible), up)] : []
  })
}

/** A straight edge that marks stand beside. */
interface MarkedEdge extends StraightEdge, Pick<Beside, 'inwards'> {
  /** How far outwards of it the nearest marks begin, px. */
  nearest: number
}

/** The innermost edge that the marks begin at, or the one next to them. */
function edgeOfRuler(edges: readonly MarkedEdge[]): MarkedEdge {
  const atMarks = edges.filter(({ nearest }) => nearest <= AT_MARKS_PX)
  return atMarks.length > 0
    ? atMarks.reduce((p, q) => (q.nearest > p.nearest ? q : p))
    : edges.reduce((p, q) => (q.nearest < p.nearest ? q : p))
}

function beginsOf({ nearest, ...edge }: MarkedEdge, up: PicturePoint): Ruler {
  // A ruler that lies across, close to the foot, leaves its edge to close the piece.
  const isAcross = Math.abs(edge.line.up.x * up.x + edge.line.up.y * up.y) < 0.5
  const begins = nearest > AT_MARKS_PX ? [0, nearest] : [0]
  return begins.map((u) => beyond(edge, isAcross ? u : u - SOFT_PX))
}

/** All that lies more than so many px outwards of an edge. */
function beyond({ line, low, high, inwards }: Omit<MarkedEdge, 'nearest'>, u: number): Beside {
  const at = placeAt(line, -inwards * u, 0)
  return { line: { at, up: line.up }, inwards, low: low - SOFT_PX, high: high + SOFT_PX }
}

/**
 * Where marks stand beside an edge: offsets to its right, px of the picture itself.
 * @param step distance of the columns they are looked for in, px
 */
export function marksBeside(
  raster: Raster,
  factor: number,
  edge: StraightEdge,
  step = COLUMN_STEP,
): number[] {
  const reach = REACH * Math.min(raster.width, raster.height)
  const columns = Array.from({ length: Math.floor((2 * reach) / step) + 1 }, (_, k) => k * step - reach) // prettier-ignore
  const isMarked = (u: number) => hasEvenMarks(columnBeside(raster, factor, edge, u))
  // Of as many as show them one is looked at, first.
  if (!columns.some((u, k) => k % LEAST_COLUMNS === 0 && isMarked(u))) return []
  const found = columns.filter(isMarked)
  return found.length >= LEAST_COLUMNS ? found : []
}

/** Bytes of green along an edge, so many px to its right, as far as it lies in the picture. */
function columnBeside(
  { width, height, data }: Raster,
  factor: number,
  { line: { at, up }, low, high }: StraightEdge,
  u: number,
): Float32Array {
  const upright = Math.abs(up.y) > 0.5
  const [columns, rows, next, down] = upright ? [width, height, 4, 4 * width] : [height, width, 4 * width, 4]
  const values: number[] = []
  for (let v = factor * low; v < factor * high; v++) {
    const x = factor * at.x + v * up.x - u * up.y - 0.5
    const y = factor * at.y + v * up.y + u * up.x - 0.5
    const [across, row] = upright ? [x, Math.round(y)] : [y, Math.round(x)]
    const column = Math.floor(across)
    if (column < 0 || column + 1 >= columns || row < 0 || row >= rows) continue
    // Between two px: an edge that leans against this one would show stairs at even distances.
    const i = row * down + column * next + 1
    values.push(data[i]! + (across - column) * (data[i + next]! - data[i]!))
  }
  return Float32Array.from(values)
}

import { flatten } from '../profile/flatten'
import { backwards, type Segment } from '../profile/segments'
import { curveSteps, line, text, type Mark, type Page, type Spot, type Step } from './drawing'
import type { Paper } from './paper'
import type { SheetPiece } from './section-piece'
import { sidesOf } from '../profile/sides'
import { tiled, type TiledDrawing } from './tiles'

/** Card beyond the curve and above and below it, mm. */
const CARD = 20
const EDGE = 6
/** Between the shapes on the page. */
const BETWEEN = 12
/** Height marks stand this far apart, mm. */
const TICK = 10
/** Shallower recesses need no card of their own, mm. */
const LEAST_DEPTH = 5

/**
 * The 1:1 template for the workbench: the half-profile as a card, and its counter-profile to hold against the work, each with the
 * axis or an edge parallel to it and marks of height every 10 mm; where the piece is hollow, also a card of the inside. Spread over
 * pages where it is larger than one.
 */
export function templateSheets(piece: SheetPiece, paper: Paper): Page[] {
  return tiled(templateDrawing(piece), paper)
}

/** The template on one page as large as it needs: for machines that cut by the file. */
export function templatePage(piece: SheetPiece): Page {
  return templateDrawing(piece)
}

function templateDrawing(piece: SheetPiece): TiledDrawing {
  const { segments } = piece.solids[0]!
  const { under, outer, inside } = sidesOf(segments)
  const hollow = (curve: readonly Segment[]) => curve.length > 0 && depthOf(curve) > LEAST_DEPTH
  const shapes = [
    { title: 'Profile', curve: outer, negative: false },
    { title: 'Counter-profile', curve: outer, negative: true },
    ...(hollow(inside) ? [{ title: 'Inside', curve: backwards(inside), negative: false }] : []),
    ...(hollow(under) ? [{ title: 'Underside', curve: backwards(under), negative: false }] : []),
  ]
  const marks: Mark[] = []
  const box = boundsOf(segments)
  let x = EDGE
  for (const { title, curve, negative } of shapes) {
    const width = negative ? boundsOf(curve).right + CARD : boundsOf(curve).right
    const at = (r: number, z: number): Spot => [x + r, EDGE + 6 + box.high - z]
    marks.push(...shape(curve, at, box, negative, width), text(at(0, box.high + 8), title, { mm: 2.5 }))
    marks.push(...ticks(at, box, width, negative, piece))
    x += width + BETWEEN
  }
  const title = `${piece.name}, template 1:1`
  return { width: x - BETWEEN + EDGE, height: box.high - box.low + 2 * EDGE + 10, marks, title }
}

interface Bounds {
  low: number
  high: number
  right: number
}

function boundsOf(curve: readonly Segment[]): Bounds {
  const { points } = flatten(curve)
  const of = (k: 0 | 1) => points.filter((_, i) => i % 2 === k)
  return { low: Math.min(...of(1)), high: Math.max(...of(1)), right: Math.max(...of(0)) }
}

function depthOf(curve: readonly Segment[]): number {
  const { low, high } = boundsOf(curve)
  return high - low
}

/** The outline to cut along, closed over the axis or, of the counter-profile, over the card's outer edge. */
function shape(
  curve: readonly Segment[],
  at: (r: number, z: number) => Spot,
  { low, high }: Bounds,
  negative: boolean,
  width: number,
): Mark[] {
  const steps = curveSteps(curve, at)
  const { points } = flatten(curve)
  const [first, last] = [points[1]!, points[points.length - 1]!]
  const [r0, r1] = [points[0]!, points[points.length - 2]!]
  const [bottom, top] = [low - EDGE, high + EDGE]
  const close: Step[] = negative
    ? [['L', ...at(r1, top)], ['L', ...at(width, top)], ['L', ...at(width, bottom)], ['L', ...at(r0, bottom)], ['Z']] // prettier-ignore
    : [['L', ...at(0, last)], ['L', ...at(0, first)], ['Z']]
  const marks: Mark[] = [{ kind: 'path', line: 'narrow', steps: [...steps, ...close] }]
  if (!negative) marks.push(line(at(0, bottom), at(0, top), 'chain'))
  return marks
}

/** Marks of height along the straight edge of a card. */
function ticks(
  at: (r: number, z: number) => Spot,
  { low, high }: Bounds,
  width: number,
  negative: boolean,
  { lengthText }: SheetPiece,
): Mark[] {
  const [edge, inwards] = negative ? [width, -1] : [0, 1]
  const marks: Mark[] = []
  for (let z = Math.ceil(low / TICK) * TICK; z <= high; z += TICK) {
    const long = Math.round(z / TICK) % 5 === 0
    marks.push(line(at(edge, z), at(edge + inwards * (long ? 6 : 3), z)))
    if (long) marks.push(text(at(edge + inwards * 7, z - 0.9), lengthText(z), { mm: 2, anchor: negative ? 'end' : 'start' })) // prettier-ignore
  }
  return marks
}

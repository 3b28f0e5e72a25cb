import { outerRadiusAt } from '../profile/at-height'
import { flatten } from '../profile/flatten'
import { endOf, startOf, type Segment } from '../profile/segments'
import { dimensions } from './dimensions'
import {
  curveSteps,
  line,
  rectangle,
  text,
  type Mark,
  type Page,
  type PathMark,
  type Spot,
  type Step,
} from './drawing'
import { hatching } from './hatch'
import { edgesOf } from './levels'
import { seenFromOutside, type SeenOutside } from './outside'
import { PAPERS, scaleThatFits, type DrawingScale, type Paper } from './paper'
import type { SheetPiece, SheetSolid } from './section-piece'
import { sidesOf } from '../profile/sides'
import { TITLE_BLOCK, titleBlock } from './title-block'

/** The drawing's place on the page: the axis, the foot, and how large a millimetre is. */
export interface Place {
  axisX: number
  groundY: number
  scale: DrawingScale
  lowest: number
  highest: number
  maxRadius: number
}

/** Paper around the frame, mm, and what the columns of ⌀ (left) and heights (right) need. */
const MARGIN = 10
const LEFT = 44
const RIGHT = 42
/** Above the view, and below it for the ⌀ of the foot. */
const ABOVE = 16
const BELOW = 16
const NOTE_MM = 2.2
const NOTE_LINE = 4.2
/** Between lines of hatching, mm; neighbours are hatched the other way. */
const HATCH = 1.8

/**
 * A dimensioned half-section on one page: left of the axis the view from the side, right of it the cut, hatched (ISO 128-3), with the
 * dimensions that a workshop asks for (ISO 129-1), a title block (ISO 7200) and at the largest scale of ISO 5455 that fits.
 */
export function halfSectionSheet(piece: SheetPiece, paper: Paper): Page {
  const { width, height } = PAPERS[paper]
  const place = placeOn(piece, width, height)
  const at = (r: number, z: number): Spot => [place.axisX + r * place.scale.factor, place.groundY - (z - place.lowest) * place.scale.factor] // prettier-ignore
  const marks: Mark[] = [rectangle({ x: MARGIN, y: MARGIN, width: width - 2 * MARGIN, height: height - 2 * MARGIN }, 'wide')] // prettier-ignore
  const outsides = piece.solids.map((solid) => seenFromOutside(solid.segments, place.scale.factor))
  piece.solids.forEach((_, k) => {
    const hidden = k > 0 && isWithin(outsides[k]!.outline, piece.solids[0]!.segments)
    if (!hidden) marks.push(...outsideView(outsides[k]!, at))
  })
  // What is beyond the cut first, so that what is cut covers it.
  for (const solid of piece.solids) marks.push(...beyondTheCut(solid, at))
  piece.solids.forEach((solid, k) => marks.push(...cutArea(solid, at, k % 2 === 1)))
  const overshoot = 4
  marks.push(line([place.axisX, at(0, place.highest)[1] - overshoot], [place.axisX, place.groundY + overshoot], 'chain')) // prettier-ignore
  marks.push(...dimensions(piece, place, at))
  piece.notes.forEach((note, k) => {
    const y = height - MARGIN - TITLE_BLOCK.height - 3 - NOTE_LINE * (piece.notes.length - 1 - k)
    marks.push(text([MARGIN + 4, y], note, { mm: NOTE_MM }))
  })
  const { name, unit, timeStamp, material } = piece
  marks.push(...titleBlock({ name, kind: 'Half-section', scale: place.scale.name, unit, date: timeStamp.slice(0, 10), material }, width - MARGIN, height - MARGIN)) // prettier-ignore
  return { width, height, marks }
}

function placeOn({ solids, notes }: SheetPiece, width: number, height: number): Place {
  const chains = solids.map((s) => flatten(s.segments).points)
  const of = (k: 0 | 1) => chains.flatMap((c) => Array.from(c.filter((_, i) => i % 2 === k)))
  const [lowest, highest, maxRadius] = [Math.min(...of(1)), Math.max(...of(1)), Math.max(...of(0))]
  const foot = TITLE_BLOCK.height + 6 + NOTE_LINE * notes.length
  const room = {
    width: width - 2 * MARGIN - LEFT - RIGHT,
    height: height - 2 * MARGIN - ABOVE - BELOW - foot,
  }
  const scale = scaleThatFits(2 * maxRadius, highest - lowest, room.width, room.height)
  const [w, h] = [2 * maxRadius * scale.factor, (highest - lowest) * scale.factor]
  return {
    axisX: MARGIN + LEFT + (room.width - w) / 2 + w / 2,
    groundY: MARGIN + ABOVE + (room.height - h) / 2 + h,
    scale,
    lowest,
    highest,
    maxRadius,
  }
}

/** True when an outline lies inside a solid, which therefore hides it. */
function isWithin(outline: readonly number[][], segments: readonly Segment[]): boolean {
  return outline.every((run) =>
    run.every((r, i) => i % 2 === 1 || r <= (outerRadiusAt(segments, run[i + 1]!) ?? -1) + 1e-6),
  )
}

type At = (r: number, z: number) => Spot

function outsideView({ outline, edges }: SeenOutside, at: At): Mark[] {
  const steps = (run: readonly number[]) => Array.from({ length: run.length / 2 }, (_, i): Step => [i ? 'L' : 'M', ...at(-run[2 * i]!, run[2 * i + 1]!)]) // prettier-ignore
  const shape = outline.slice(0, -2).flat()
  // Covers what stands behind it.
  const cover: PathMark = { kind: 'path', fill: 'paper', steps: closedOnAxis(shape, at) }
  return [
    cover,
    { kind: 'path', line: 'wide', steps: outline.flatMap(steps) },
    ...edges.map(([r, z]) => line(at(-r, z), at(0, z), 'wide')),
  ]
}

function closedOnAxis(run: readonly number[], at: At): Step[] {
  const n = run.length / 2
  const points: [number, number][] = Array.from({ length: n }, (_, i) => [run[2 * i]!, run[2 * i + 1]!])
  const chain = [[0, points[0]?.[1] ?? 0] as const, ...points, [0, points[n - 1]?.[1] ?? 0] as const]
  return [...chain.map(([r, z], i): Step => [i ? 'L' : 'M', ...at(-r, z)]), ['Z']]
}

/** Behind the cut one looks at the inside, and from below into a recess: their edges, and the rims. */
function beyondTheCut({ segments }: SheetSolid, at: At): Mark[] {
  const { under, inside } = sidesOf(segments)
  const rims = [...(under.length ? [endOf(under.at(-1)!)] : []), ...(inside.length ? [startOf(inside[0]!)] : [])] // prettier-ignore
  const circles = [...edgesOf(under), ...edgesOf(inside), ...rims]
  return circles.filter(([r]) => r > 0).map(([r, z]) => line(at(0, z), at(r, z), 'wide'))
}

function cutArea({ segments }: SheetSolid, at: At, falling: boolean): Mark[] {
  const { points } = flatten(segments)
  const chain = new Float64Array(points.length)
  for (let i = 0; i < points.length; i += 2) chain.set(at(points[i]!, points[i + 1]!), i)
  const steps = curveSteps(segments, at)
  return [
    { kind: 'path', fill: 'paper', steps: [...steps, ['Z']] },
    hatching([chain], HATCH, falling),
    { kind: 'path', line: 'wide', steps },
  ]
}

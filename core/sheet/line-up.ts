import type { Segment } from '../profile/segments'
import { arrow, line, rectangle, roughWidth, text, type Mark, type Page, type Step } from './drawing'
import { seenFromOutside } from './outside'
import { PAPERS, scaleThatFits, type Paper } from './paper'
import { TITLE_BLOCK, titleBlock } from './title-block'

/** A piece as the sheet of a set shows it, mm. */
export interface LineUpPiece {
  name: string
  segments: readonly Segment[]
  heightMm: number
  maxDiameterMm: number
  lowestMm: number
  /** The row of the table, as many cells as there are columns. */
  cells: readonly string[]
}

export interface LineUpSheet {
  name: string
  pieces: readonly LineUpPiece[]
  columns: readonly string[]
  lengthText: (mm: number) => string
  unit: string
  /** ISO 8601. */
  timeStamp: string
  notes: readonly string[]
}

const MARGIN = 10
const ROW = 5.6
const FIGURE = 2.5
/** Beside each piece for its height, and between pieces, mm on the page. */
const BESIDE = 12
const BETWEEN = 6
const ABOVE = 10
const BELOW = 18

/** The pieces of a set on one ground line at one scale, with their sizes, and a table below; the paper lies on its long side. */
export function lineUpSheet(sheet: LineUpSheet, paper: Paper): Page {
  const [width, height] = [PAPERS[paper].height, PAPERS[paper].width]
  const { pieces } = sheet
  const table = ROW * (pieces.length + 1)
  const foot = TITLE_BLOCK.height + 4 + 4.2 * sheet.notes.length + table + 6
  const room = {
    width: width - 2 * MARGIN - 16 - pieces.length * BESIDE - (pieces.length - 1) * BETWEEN,
    height: height - 2 * MARGIN - ABOVE - BELOW - foot,
  }
  const breadth = pieces.reduce((sum, p) => sum + p.maxDiameterMm, 0)
  const tallest = Math.max(...pieces.map((p) => p.heightMm))
  const scale = scaleThatFits(breadth, tallest, room.width, Math.max(20, room.height))
  const used = breadth * scale.factor + pieces.length * BESIDE + (pieces.length - 1) * BETWEEN
  const ground = MARGIN + ABOVE + Math.max(20, room.height)
  const marks: Mark[] = [rectangle({ x: MARGIN, y: MARGIN, width: width - 2 * MARGIN, height: height - 2 * MARGIN }, 'wide')] // prettier-ignore
  let x = (width - used) / 2
  marks.push(line([x - 6, ground], [x + used + 6, ground]))
  for (const piece of pieces) {
    const half = (piece.maxDiameterMm / 2) * scale.factor
    marks.push(...standing(piece, x + half, ground, scale.factor, sheet))
    x += 2 * half + BESIDE + BETWEEN
  }
  marks.push(...tableOf(sheet, ground + BELOW, width))
  sheet.notes.forEach((note, k) => {
    marks.push(text([MARGIN + 4, height - MARGIN - TITLE_BLOCK.height - 3 - 4.2 * (sheet.notes.length - 1 - k)], note, { mm: 2.2 })) // prettier-ignore
  })
  marks.push(...titleBlock({ name: sheet.name, kind: 'Line-up', scale: scale.name, unit: sheet.unit, date: sheet.timeStamp.slice(0, 10), material: null }, width - MARGIN, height - MARGIN)) // prettier-ignore
  return { width, height, marks }
}

function standing(
  piece: LineUpPiece,
  axis: number,
  ground: number,
  scale: number,
  { lengthText }: LineUpSheet,
): Mark[] {
  const at = (r: number, z: number) => [axis + r * scale, ground - (z - piece.lowestMm) * scale] as const
  const { outline, edges } = seenFromOutside(piece.segments, scale)
  const runs = outline.flatMap((run) => [1, -1].map((side) => Array.from({ length: run.length / 2 }, (_, i): Step => [i ? 'L' : 'M', ...at(side * run[2 * i]!, run[2 * i + 1]!)]))) // prettier-ignore
  const half = (piece.maxDiameterMm / 2) * scale
  const top = ground - piece.heightMm * scale
  const x = axis + half + 6
  const y = ground + 7
  const name = piece.name.length * roughWidth('0', FIGURE) > 2 * half + BESIDE ? 2 : FIGURE
  return [
    { kind: 'path', line: 'wide', steps: runs.flat() },
    ...edges.map(([r, z]) => line(at(-r, z), at(r, z), 'narrow')),
    line([axis, top - 3], [axis, ground + 3], 'chain'),
    line([axis + 1, top], [x + 1.5, top]),
    line([x, top], [x, ground]),
    arrow([x, top], [0, -1]),
    arrow([x, ground], [0, 1]),
    text([x - 0.9, (top + ground) / 2], lengthText(piece.heightMm), {
      mm: FIGURE,
      anchor: 'middle',
      upwards: true,
    }),
    line([axis - half, y], [axis + half, y]),
    arrow([axis - half, y], [-1, 0]),
    arrow([axis + half, y], [1, 0]),
    text([axis, y - 0.9], `⌀ ${lengthText(piece.maxDiameterMm)}`, { mm: FIGURE, anchor: 'middle' }),
    text([axis, y + 4.6], piece.name, { mm: name, anchor: 'middle', bold: true }),
  ]
}

function tableOf({ pieces, columns }: LineUpSheet, top: number, width: number): Mark[] {
  const left = MARGIN + 10
  const nameWidth = 60
  const rest = (width - 2 * left - nameWidth) / columns.length
  const row = (cells: readonly string[], y: number, bold: boolean): Mark[] => [
    text([left + 1, y + 3.9], cells[0] ?? '', { mm: 2.2, bold }),
    ...cells.slice(1).map((cell, k) => text([left + nameWidth + rest * (k + 1) - 2, y + 3.9], cell, { mm: 2.2, bold, anchor: 'end' })), // prettier-ignore
    line([left, y + ROW], [width - left, y + ROW], bold ? 'narrow' : 'fine'),
  ]
  return [
    ...row(['Piece', ...columns], top, true),
    ...pieces.flatMap((piece, k) => row([piece.name, ...piece.cells], top + ROW * (k + 1), false)),
  ]
}

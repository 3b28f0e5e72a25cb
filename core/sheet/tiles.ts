import {
  LINE_WIDTH,
  line,
  rectangle,
  text,
  type Box,
  type Mark,
  type Page,
  type Spot,
  type Step,
} from './drawing'
import { PAPERS, type Paper } from './paper'

/** Printers leave this much of the paper white, mm. */
export const PRINT_MARGIN = 10
/** Below each tile: the check bar and the words. */
export const FOOT = 14
/** Length of the check bar, mm. */
export const CHECK_BAR = 100
/** Tiles repeat this much of their neighbours, to be glued over. */
const OVERLAP = 8

/** What is to be printed at its real size, and the words below it. */
export interface TiledDrawing {
  width: number
  height: number
  marks: readonly Mark[]
  title: string
}

/**
 * Spreads a drawing over as many pages as it needs at 1:1. Each tile is framed by the line where it meets its neighbour; crosses on
 * these lines, seen on both sides, tell when two pages lie rightly. Every page carries a bar of 100 mm to check the printer by.
 */
export function tiled({ width, height, marks, title }: TiledDrawing, paper: Paper): Page[] {
  const page = PAPERS[paper]
  const upright = tilesFor(width, height, page.width, page.height)
  const lying = tilesFor(width, height, page.height, page.width)
  const { across, down, tile, sheet } =
    lying.across * lying.down < upright.across * upright.down ? lying : upright
  const pages: Page[] = []
  for (let row = 0; row < down; row++) {
    for (let column = 0; column < across; column++) {
      const place = { row, column, across, down, tile, sheet }
      pages.push({ ...sheet, marks: [...tileMarks(marks, place), ...footMarks(title, place)] })
    }
  }
  return pages
}

interface Tiles {
  across: number
  down: number
  tile: { width: number; height: number }
  sheet: { width: number; height: number }
}
interface TilePlace extends Tiles {
  row: number
  column: number
}

function tilesFor(width: number, height: number, pageWidth: number, pageHeight: number): Tiles {
  const free = { width: pageWidth - 2 * PRINT_MARGIN, height: pageHeight - 2 * PRINT_MARGIN - FOOT }
  const one = (need: number, room: number) => need <= room
  const tile = {
    width: one(width, free.width) ? free.width : free.width - OVERLAP,
    height: one(height, free.height) ? free.height : free.height - OVERLAP,
  }
  return {
    across: Math.ceil(width / tile.width),
    down: Math.ceil(height / tile.height),
    tile,
    sheet: { width: pageWidth, height: pageHeight },
  }
}

function tileMarks(marks: readonly Mark[], { row, column, across, down, tile }: TilePlace): Mark[] {
  const right = column + 1 < across
  const below = row + 1 < down
  const seen: Box = {
    x: PRINT_MARGIN,
    y: PRINT_MARGIN,
    width: tile.width + (right ? OVERLAP : 0),
    height: tile.height + (below ? OVERLAP : 0),
  }
  const by: Spot = [PRINT_MARGIN - column * tile.width, PRINT_MARGIN - row * tile.height]
  const out: Mark[] = [{ kind: 'window', box: seen, by, marks }]
  if (across * down === 1) return out
  out.push(rectangle({ ...seen, width: tile.width, height: tile.height }, 'fine'))
  const [x1, y1] = [PRINT_MARGIN + tile.width, PRINT_MARGIN + tile.height]
  const name = (r: number, c: number) => `${String.fromCharCode(65 + c)}${r + 1}`
  const { x, y, width, height } = seen
  // Crosses a quarter and three quarters along the lines where pages meet.
  for (const share of [0.25, 0.75]) {
    const [mx, my] = [x + share * tile.width, y + share * tile.height]
    if (right) out.push(...cross([x1, my]), text([x1 + 1, my - 3], name(row, column + 1), { mm: 2 }))
    if (column > 0) out.push(...cross([x, my]))
    if (below) out.push(...cross([mx, y1]), text([mx + 3, y1 + 3.4], name(row + 1, column), { mm: 2 }))
    if (row > 0) out.push(...cross([mx, y]))
  }
  out.push(text([x + width - 2, y + height - 2], name(row, column), { mm: 5, anchor: 'end', ink: 'soft' }))
  return out
}

function box(x: number, y: number, width: number, height: number): Step[] {
  return [['M', x, y], ['L', x + width, y], ['L', x + width, y + height], ['L', x, y + height], ['Z']]
}

function cross([x, y]: Spot): Mark[] {
  return [line([x - 4, y], [x + 4, y], 'narrow'), line([x, y - 4], [x, y + 4], 'narrow')]
}

function footMarks(title: string, { row, column, across, sheet }: TilePlace): Mark[] {
  const y = sheet.height - PRINT_MARGIN - 3
  const x = PRINT_MARGIN
  // A filled bar, and its last marks drawn inwards, so that it is 100 mm long from edge to edge.
  const bar: Mark[] = [{ kind: 'path', fill: 'ink', steps: box(x, y, CHECK_BAR, 0.6) }]
  const half = LINE_WIDTH.narrow / 2
  for (let mm = 0; mm <= CHECK_BAR; mm += 10) {
    const at = x + Math.min(CHECK_BAR - half, Math.max(half, mm))
    bar.push(line([at, y], [at, y - (mm % 50 === 0 ? 4 : 2)], 'narrow'))
  }
  const number = row * across + column + 1
  return [
    ...bar,
    text([x, y - 5.2], 'This bar is 100 mm long: print at 100 %, and measure it.', { mm: 2 }),
    text([x + CHECK_BAR + 6, y], `${title} · page ${number}`, { mm: 2 }),
  ]
}

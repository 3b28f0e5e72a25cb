import { line, rectangle, roughWidth, text, type Box, type Mark } from './drawing'

/** What stands in the title block; fields after ISO 7200. */
export interface SheetTitle {
  name: string
  /** "Half-section", "Template". */
  kind: string
  /** "1:2". */
  scale: string
  /** Unit of all lengths on the sheet. */
  unit: string
  /** "2026-03-14". */
  date: string
  material: string | null
  /** "2 / 3", on sheets of several pages. */
  page?: string
}

export const TITLE_BLOCK = { width: 180, height: 24 } as const

/** The title block, its lower right corner at a spot of the page. */
export function titleBlock(title: SheetTitle, right: number, bottom: number): Mark[] {
  const box: Box = {
    x: right - TITLE_BLOCK.width,
    y: bottom - TITLE_BLOCK.height,
    width: TITLE_BLOCK.width,
    height: TITLE_BLOCK.height,
  }
  const middle = box.y + box.height / 2
  const marks: Mark[] = [rectangle(box, 'wide'), line([box.x, middle], [right, middle])]
  const field = (x: number, y: number, width: number, label: string, words: string, big = false) => {
    marks.push(text([x + 2, y + 3.4], label, { mm: 1.6, ink: 'soft' }))
    const mm = Math.min(big ? 3.5 : 2.5, (width - 4) / Math.max(1, roughWidth(words, 1)))
    marks.push(text([x + 2, y + 9.2], words, { mm, bold: big }))
    if (x > box.x) marks.push(line([x, y], [x, y + box.height / 2]))
  }
  field(box.x, box.y, 120, 'Title', title.name, true)
  field(box.x + 120, box.y, 60, 'Kind of sheet', title.kind)
  const lower = [
    ['Scale', title.scale, 24],
    ['Unit', title.unit, 22],
    ['Date', title.date, 30],
    ['Material', title.material ?? '–', 52],
    ['Made with', 'Baldacchino', 34],
    ['Sheet', title.page ?? '1 / 1', 18],
  ] as const
  let x = box.x
  for (const [label, words, width] of lower) {
    field(x, middle, width, label, words)
    x += width
  }
  return marks
}

import fontkit from '@pdf-lib/fontkit'
import {
  appendBezierCurve,
  beginText,
  clip,
  closePath,
  concatTransformationMatrix,
  endPath,
  endText,
  fill,
  fillAndStroke,
  lineTo,
  moveTo,
  PDFDocument,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  setDashPattern,
  setFillingGrayscaleColor,
  setFontAndSize,
  setLineCap,
  setLineJoin,
  setLineWidth,
  setTextMatrix,
  showText,
  stroke,
  type PDFFont,
  type PDFOperator,
  type PDFPage,
} from 'pdf-lib'
import { DASHES, LINE_WIDTH, type Ink, type Mark, type Page, type PathMark, type TextMark } from './drawing'
import { CAP_HEIGHT } from './font'

/** The fonts that are embedded, as bytes of TrueType files; only the signs that are used go into the file. */
export interface SheetFonts {
  regular: Uint8Array
  bold: Uint8Array
}

export interface PdfFacts {
  title: string
  /** ISO 8601. */
  timeStamp: string
}

/** PDF's own unit, a seventy-second of an inch, for one mm. */
const POINTS = 72 / 25.4
const GREYS: Record<Ink, number> = { ink: 0, soft: 0.4, paper: 1 }

/** Pages as PDF at their real size, with the fonts embedded. Asynchronous, because the library is. */
export async function writePdf(
  pages: readonly Page[],
  { title, timeStamp }: PdfFacts,
  fonts: SheetFonts,
): Promise<Uint8Array<ArrayBuffer>> {
  const pdf = await PDFDocument.create({ updateMetadata: false })
  pdf.registerFontkit(fontkit)
  const regular = await pdf.embedFont(fonts.regular, { subset: true })
  const bold = await pdf.embedFont(fonts.bold, { subset: true })
  const date = new Date(timeStamp.endsWith('Z') ? timeStamp : `${timeStamp}Z`)
  pdf.setTitle(title)
  pdf.setCreator('Baldacchino')
  pdf.setProducer('Baldacchino')
  pdf.setCreationDate(date)
  pdf.setModificationDate(date)
  for (const { width, height, marks } of pages) {
    const page = pdf.addPage([width * POINTS, height * POINTS])
    const keys = {
      regular: page.node.newFontDictionary('regular', regular.ref),
      bold: page.node.newFontDictionary('bold', bold.ref),
    }
    const fontOf = (isBold = false) => (isBold ? { font: bold, key: keys.bold } : { font: regular, key: keys.regular }) // prettier-ignore
    // From here on in mm from the upper left corner, y down.
    page.pushOperators(
      pushGraphicsState(),
      concatTransformationMatrix(POINTS, 0, 0, -POINTS, 0, height * POINTS),
      setLineJoin(1),
      setLineCap(0),
    )
    for (const mark of marks) draw(page, mark, fontOf)
    page.pushOperators(popGraphicsState())
  }
  return new Uint8Array(await pdf.save({ useObjectStreams: true }))
}

type FontKey = ReturnType<PDFPage['node']['newFontDictionary']>
type FontOf = (bold?: boolean) => { font: PDFFont; key: FontKey }

function draw(page: PDFPage, mark: Mark, fontOf: FontOf): void {
  switch (mark.kind) {
    case 'path':
      return page.pushOperators(...pathOperators(mark))
    case 'text':
      return page.pushOperators(...textOperators(mark, fontOf))
    case 'window': {
      const { x, y, width, height } = mark.box
      page.pushOperators(
        pushGraphicsState(),
        rectangle(x, y, width, height),
        clip(),
        endPath(),
        concatTransformationMatrix(1, 0, 0, 1, ...mark.by),
      )
      for (const inner of mark.marks) draw(page, inner, fontOf)
      return page.pushOperators(popGraphicsState())
    }
  }
}

function pathOperators({ steps, line, fill: ink }: PathMark): PDFOperator[] {
  const way = steps.map((step) => {
    switch (step[0]) {
      case 'M':
        return moveTo(step[1], step[2])
      case 'L':
        return lineTo(step[1], step[2])
      case 'C':
        return appendBezierCurve(step[1], step[2], step[3], step[4], step[5], step[6])
      case 'Z':
        return closePath()
    }
  })
  const end = line && ink ? fillAndStroke() : line ? stroke() : fill()
  return [
    ...(line ? [setLineWidth(LINE_WIDTH[line]), setDashPattern([...(DASHES[line] ?? [])], 0)] : []),
    ...(ink ? [setFillingGrayscaleColor(GREYS[ink])] : []),
    ...way,
    end,
  ]
}

function textOperators(
  { at: [x, y], text, mm, anchor, upwards, bold, ink = 'ink' }: TextMark,
  fontOf: FontOf,
): PDFOperator[] {
  const { font, key } = fontOf(bold)
  const size = mm / CAP_HEIGHT
  const back = { start: 0, middle: 0.5, end: 1 }[anchor] * font.widthOfTextAtSize(text, size)
  // The page's y runs down, letters stand up.
  const matrix = upwards ? setTextMatrix(0, -1, -1, 0, x, y + back) : setTextMatrix(1, 0, 0, -1, x - back, y)
  return [
    beginText(),
    setFillingGrayscaleColor(GREYS[ink]),
    setFontAndSize(key, size),
    matrix,
    showText(font.encodeText(text)),
    endText(),
  ]
}

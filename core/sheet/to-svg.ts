import { encodeText } from '../formats/text'
import { escapeXml } from '../formats/xml'
import { DASHES, LINE_WIDTH, type Ink, type Mark, type Page, type PathMark, type TextMark } from './drawing'
import { CAP_HEIGHT } from './font'

const INKS: Record<Ink, string> = { ink: '#000', soft: '#666', paper: '#fff' }

/** A page as SVG in real millimetres: 1 user unit is 1 mm. Text stays text. */
export function writeSheetSvg({ width, height, marks }: Page, title: string): Uint8Array<ArrayBuffer> {
  let windows = 0
  const drawn = (mark: Mark): string => {
    switch (mark.kind) {
      case 'path':
        return pathElement(mark)
      case 'text':
        return textElement(mark)
      case 'window': {
        const { x, y, width: w, height: h } = mark.box
        const id = `window-${++windows}`
        const inner = mark.marks.map(drawn).join('\n')
        return `<clipPath id="${id}"><rect x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}"/></clipPath>\n<g clip-path="url(#${id})"><g transform="translate(${n(mark.by[0])} ${n(mark.by[1])})">\n${inner}\n</g></g>`
      }
    }
  }
  return encodeText(`<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}">
<title>${escapeXml(title)}</title>
<rect width="${n(width)}" height="${n(height)}" fill="#fff"/>
<g fill="none" stroke-linejoin="round" font-family="DejaVu Sans Condensed, DejaVu Sans, Arial, sans-serif">
${marks.map(drawn).join('\n')}
</g>
</svg>
`)
}

function pathElement({ steps, line, fill }: PathMark): string {
  const d = steps.map(([to, ...at]) => to + at.map(n).join(' ')).join('')
  const dash = line && DASHES[line]
  const stroke = line ? ` stroke="#000" stroke-width="${LINE_WIDTH[line]}"` : ''
  return `<path d="${d}"${stroke}${dash ? ` stroke-dasharray="${dash.join(' ')}"` : ''}${fill ? ` fill="${INKS[fill]}"` : ''}/>`
}

function textElement({ at: [x, y], text, mm, anchor, upwards, bold, ink = 'ink' }: TextMark): string {
  const place = upwards ? `transform="translate(${n(x)} ${n(y)}) rotate(-90)"` : `x="${n(x)}" y="${n(y)}"`
  const how = `${anchor === 'start' ? '' : ` text-anchor="${anchor}"`}${bold ? ' font-weight="bold"' : ''}`
  return `<text ${place} font-size="${n(mm / CAP_HEIGHT)}"${how} fill="${INKS[ink]}">${escapeXml(text)}</text>`
}

/** A tenth of a micrometre. */
const n = (value: number) => String(Number(value.toFixed(4)) + 0)

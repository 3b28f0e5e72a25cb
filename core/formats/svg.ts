import { boxPoints } from '../profile/flatten'
import { startOf, type ArcSegment, type Segment } from '../profile/segments'
import { encodeText } from './text'
import { escapeXml } from './xml'

export const svg = {
  name: 'Half-profile SVG',
  extension: 'svg',
  mediaType: 'image/svg+xml',
  toBytes: writeProfileSvg,
} as const

/** Paper around the drawing, mm. */
const MARGIN = 5

/**
 * The exact half-profile as SVG in real millimetres: 1 user unit is 1 mm, width and height are given in mm.
 * x is the radius (axis at x = 0), y the height turned down (foot at y = 0, top at negative y); lines, arcs and cubics as they are, not flattened.
 */
export function writeProfileSvg(
  segments: readonly Segment[],
  title = 'Half-profile',
): Uint8Array<ArrayBuffer> {
  const box = bounds(segments)
  const x = -MARGIN
  const y = -box.high - MARGIN
  const width = box.right + 2 * MARGIN
  const height = box.high - box.low + 2 * MARGIN
  const text = `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="${n(x)} ${n(y)} ${n(width)} ${n(height)}">
  <title>${escapeXml(title)}</title>
  <desc>Half-profile in millimetres. x: radius, axis at x = 0. y: height turned down, foot at y = 0.</desc>
  <g id="axis" fill="none" stroke="#777" stroke-width="0.18" stroke-dasharray="6 1.5 1 1.5">
    <path d="M0 ${n(-box.low + MARGIN / 2)}V${n(-box.high - MARGIN / 2)}"/>
  </g>
  <g id="half-profile" fill="none" stroke="#000" stroke-width="0.35" stroke-linejoin="round">
    <path d="${pathData(segments)}"/>
  </g>
</svg>
`
  return encodeText(text)
}

/** SVG path data of the curve with y turned down, mm. */
export function pathData(segments: readonly Segment[]): string {
  let d = ''
  segments.forEach((segment, i) => {
    if (i === 0) d += `M${n(startOf(segment)[0])} ${n(-startOf(segment)[1])}`
    if (segment.kind === 'arc') {
      d += arcData(segment)
      return
    }
    const { kind, cubic: c } = segment
    d +=
      kind === 'line'
        ? `L${n(c[6])} ${n(-c[7])}`
        : `C${n(c[2])} ${n(-c[3])} ${n(c[4])} ${n(-c[5])} ${n(c[6])} ${n(-c[7])}`
  })
  return d
}

/** An arc to the left runs clockwise on the page, where heights are turned down: sweep flag 0. */
function arcData({ arc: { radius, sweep }, ends }: ArcSegment): string {
  const large = Math.abs(sweep) > Math.PI ? 1 : 0
  return `A${n(radius)} ${n(radius)} 0 ${large} ${sweep > 0 ? 0 : 1} ${n(ends[2])} ${n(-ends[3])}`
}

/** A tenth of a micrometre: far finer than any workshop needs, and short to read. */
function n(value: number): string {
  return String(Number(value.toFixed(4)) + 0)
}

function bounds(segments: readonly Segment[]) {
  let low = Infinity
  let high = -Infinity
  let right = 0
  for (const segment of segments) {
    for (const [r, z] of boxPoints(segment)) {
      right = Math.max(right, r)
      low = Math.min(low, z)
      high = Math.max(high, z)
    }
  }
  return segments.length ? { low, high, right } : { low: 0, high: 0, right: 0 }
}

import { CoreError } from '../errors'
import { outerRadiusAt } from '../profile/at-height'
import { flatten } from '../profile/flatten'
import type { Segment } from '../profile/segments'
import { plainMm } from '../units/format-length'
import { encodeText } from './text'
import { escapeXml } from './xml'

/** A band of the surface laid flat: a rectangle of a cylinder, a ring's sector of a cone. Lengths in mm. */
export interface Unrolled {
  /** Around at the lower and at the upper edge, and along the surface between them. */
  lowerMm: number
  upperMm: number
  heightMm: number
  /** How far the surface lies off the straight cone at most. */
  bulgeMm: number
  /** SVG path, its box beginning at 0 0. */
  path: string
  widthMm: number
  boxHeightMm: number
}

/** Paper bears this much bulge of its height without a wrinkle to speak of (common practice, no source). */
const BEARS = 0.01
/** A cone of less taper than this, radians, is laid flat as a rectangle. */
const CYLINDER = 1e-4

/**
 * The band between two heights, as paper would lie about it.
 * @param outside from the foot up
 * @throws CoreError `unrolled` where the surface isn't there, or bulges too much to be laid flat
 */
export function unrolledBand(outside: readonly Segment[], fromMm: number, toMm: number): Unrolled {
  const [lower, upper] = [outerRadiusAt(outside, fromMm), outerRadiusAt(outside, toMm)]
  const fault = (message: string) => new CoreError({ code: 'unrolled', message })
  if (lower === null || upper === null || !(toMm > fromMm))
    throw fault('The surface doesn’t reach from one of its levels to the other. Move them.')
  const heightMm = Math.hypot(toMm - fromMm, upper - lower)
  const bulgeMm = bulgeOf(outside, [lower, fromMm], [upper, toMm])
  if (bulgeMm > BEARS * heightMm)
    throw fault(
      `It bulges by ${plainMm(bulgeMm)} mm over ${plainMm(heightMm)} mm: no flat paper lies on it. Make it lower, or lay it on a straighter stretch.`,
    )
  const around = { lowerMm: 2 * Math.PI * lower, upperMm: 2 * Math.PI * upper, heightMm, bulgeMm }
  const taper = (upper - lower) / heightMm
  return { ...around, ...(Math.abs(taper) < CYLINDER ? rectangle(2 * Math.PI * lower, heightMm) : sector(lower, upper, heightMm)) } // prettier-ignore
}

function bulgeOf(
  outside: readonly Segment[],
  a: readonly [number, number],
  b: readonly [number, number],
): number {
  const { points } = flatten(outside)
  const length = Math.hypot(b[0] - a[0], b[1] - a[1])
  let most = 0
  for (let i = 0; i < points.length; i += 2) {
    const [r, z] = [points[i]!, points[i + 1]!]
    if (z > a[1] && z < b[1])
      most = Math.max(most, Math.abs((r - a[0]) * (b[1] - a[1]) - (z - a[1]) * (b[0] - a[0])) / length)
  }
  return most
}

function rectangle(width: number, height: number) {
  return { path: `M0 0H${n(width)}V${n(height)}H0Z`, widthMm: width, boxHeightMm: height }
}

/** The sector of a ring about the cone's tip; its middle stands upright on the page. */
function sector(lower: number, upper: number, height: number) {
  const slope = height / Math.abs(upper - lower)
  const [inner, outer] = [Math.min(lower, upper) * slope, Math.max(lower, upper) * slope]
  const half = Math.PI / slope
  const widens = upper > lower
  // A cone that widens upwards has its tip below: the broad edge lies on top.
  const at = (radius: number, angle: number): [number, number] => [radius * Math.sin(angle), (widens ? -1 : 1) * radius * Math.cos(angle)] // prettier-ignore
  const corners = [at(outer, -half), at(outer, half), at(inner, half), at(inner, -half)]
  const xs = [...corners.map((c) => c[0]), ...(half > Math.PI / 2 ? [-outer, outer] : [])]
  const ys = [...corners.map((c) => c[1]), at(outer, 0)[1], at(inner, 0)[1], ...(half > Math.PI ? [at(outer, Math.PI)[1]] : [])] // prettier-ignore
  const [x0, y0] = [Math.min(...xs), Math.min(...ys)]
  const put = ([x, y]: readonly [number, number]) => `${n(x - x0)} ${n(y - y0)}`
  const large = half > Math.PI / 2 ? 1 : 0
  const [way, back] = widens ? [1, 0] : [0, 1]
  const path = `M${put(corners[0]!)}A${n(outer)} ${n(outer)} 0 ${large} ${way} ${put(corners[1]!)}L${put(corners[2]!)}A${n(inner)} ${n(inner)} 0 ${large} ${back} ${put(corners[3]!)}Z`
  return { path, widthMm: Math.max(...xs) - x0, boxHeightMm: Math.max(...ys) - y0 }
}

/** Paper around it, mm. */
const MARGIN = 5

/** The band as SVG in real millimetres, for the artwork of a label; its edges meet behind. */
export function writeUnrolled(band: Unrolled, title: string): Uint8Array<ArrayBuffer> {
  const [width, height] = [band.widthMm + 2 * MARGIN, band.boxHeightMm + 2 * MARGIN]
  return encodeText(`<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="${-MARGIN} ${-MARGIN} ${n(width)} ${n(height)}">
  <title>${escapeXml(title)}</title>
  <desc>Unrolled in millimetres: ${n(band.lowerMm)} around below, ${n(band.upperMm)} above, ${n(band.heightMm)} high.</desc>
  <path d="${band.path}" fill="none" stroke="#000" stroke-width="0.25"/>
</svg>
`)
}

const n = (value: number) => String(Number(value.toFixed(3)) + 0)

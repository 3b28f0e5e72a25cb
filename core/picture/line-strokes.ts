import { boundsOf, highOf, wideOf } from './bounds'
import { ASIDE } from './drawn-lines'
import { colourAt, dot, meanOf, minus, sizeOf, type Ink } from './inks'
import type { Raster } from './raster'
import { eachRegion } from './regions'
import { awayFrom } from './small-marks'

/** Strokes differ from their ground by so much of what the ink does, about in the same way, by so many codes at least; it is alike on both sides to this share of it. */
const BLEND = 0.25
const BLEND_WAY = 0.8
const LEAST_OFF = 20
const ALIKE = 0.35
/** Strokes go on from a line, or cross one, to so many px. */
const TOUCHES = 8
/** Along a stroke it is as strong, to this share, over that share of its length. */
const STROKE_SPREAD = 0.3
const STROKE_EVEN = 0.8

/** Adds level and upright strokes of the ink, blended with any ground that is alike on both sides of them. */
export function addStrokes(picture: Raster, ink: Ink, drawn: Uint8Array): void {
  const { width, height, data } = picture
  const strokes = new Uint8Array(width * height)
  const isStroke = (i: number, across: number) => {
    // Most px differ from neither side.
    const [before, after] = [i - ASIDE * across, i + ASIDE * across]
    if (offFrom(data, i, before, after) < LEAST_OFF) return false
    const [p, q] = [colourAt(data, before), colourAt(data, after)]
    const ground = meanOf([p, q])
    const off = minus(colourAt(data, i), ground)
    const whole = minus(ink.colour, ground)
    const size = sizeOf(off)
    return (
      size >= BLEND * sizeOf(whole) &&
      size >= LEAST_OFF &&
      sizeOf(minus(p, q)) <= ALIKE * size &&
      dot(off, whole) >= BLEND_WAY * size * sizeOf(whole)
    )
  }
  // Upright ones and level ones for themselves, since they cross.
  for (const across of [1, width]) {
    strokes.fill(0)
    for (let y = ASIDE; y < height - ASIDE; y++)
      for (let x = ASIDE; x < width - ASIDE; x++)
        if (isStroke(y * width + x, across)) strokes[y * width + x] = 1
    eachRegion(strokes, width, 1, (places) => {
      const bounds = boundsOf(places, width)
      const [w, h] = [wideOf(bounds), highOf(bounds)]
      const [wide, long] = across === 1 ? [w, h] : [h, w]
      if (wide > 2 * ASIDE || long < 3 * ASIDE || !isEvenStroke(picture, places, across)) return
      // A piece's own dark lines, under its foot, stand apart.
      if (ink.lines.some((line) => awayFrom(line, bounds) <= TOUCHES)) for (const i of places) drawn[i] = 1
    })
  }
}

/** By how many codes, of red and green together, a px differs from the nearer of two others in colour; quick to see. */
function offFrom(data: Raster['data'], i: number, p: number, q: number): number {
  const differ = (j: number) =>
    Math.abs(data[4 * i + 1]! - data[4 * j + 1]!) + Math.abs(data[4 * i]! - data[4 * j]!)
  return Math.min(differ(p), differ(q))
}

/** Whether a stroke is about as strong all along: how much its strongest px differs from what lies to its sides. */
function isEvenStroke({ width, data }: Raster, places: Int32Array, across: number): boolean {
  const strongest = new Map<number, number>()
  for (const i of places) {
    const along = across === 1 ? Math.floor(i / width) : i % width
    const off = offFrom(data, i, i - ASIDE * across, i + ASIDE * across)
    strongest.set(along, Math.max(off, strongest.get(along) ?? 0))
  }
  const offs = [...strongest.values()].sort((p, q) => p - q)
  const middle = offs[offs.length >> 1]!
  return (
    offs.filter((off) => Math.abs(off - middle) <= STROKE_SPREAD * middle).length >= STROKE_EVEN * offs.length
  )
}

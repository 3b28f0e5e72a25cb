import type { PicturePoint } from '../conventions'
import type { Plane } from '../picture/raster'
import type { PixelBounds } from './beside'

/** Connected pixels, and their bounds along the axis' rough direction (v, rows) and across it (u); from the first to the last. */
export interface Thing {
  pixels: number[]
  u: [number, number]
  v: [number, number]
}

export const areaOfThing = ({ pixels }: Thing) => pixels.length

export const lengthOf = ([from, to]: [number, number]) => to - from + 1

/** Rows square to an axis' rough direction, and places across it, of pixels; both from 0 on. */
export interface Frame {
  width: number
  height: number
  /** Whether rows are the picture's. */
  isUpright: boolean
  /** How many places a row has. */
  across: number
  rowOf: (i: number) => number
  acrossOf: (i: number) => number
  /** The pixel there. */
  at: (row: number, across: number) => number
  boundsOf: (thing: Thing) => PixelBounds
}

/** The frame whose rows are the picture's rows or columns, whichever an axis of this direction crosses. */
export function frameOf({ width, height }: Plane, { x, y }: PicturePoint): Frame {
  const isUpright = Math.abs(y) >= Math.abs(x)
  const row = (i: number) => (i / width) | 0
  const column = (i: number) => i % width
  return {
    width,
    height,
    isUpright,
    across: isUpright ? width : height,
    rowOf: isUpright ? row : column,
    acrossOf: isUpright ? column : row,
    at: isUpright ? (v, u) => v * width + u : (v, u) => u * width + v,
    boundsOf: ({ u, v }) => (isUpright ? { x: u, y: v } : { x: v, y: u }),
  }
}

/** A mask's pixels all of whose neighbours within a square of this reach are set too; beyond the picture all are. */
export function eroded(mask: Uint8Array, { width, height }: Pick<Frame, 'width' | 'height'>, reach: number) {
  const pass = (from: Uint8Array, lines: number, length: number, line: number, step: number) => {
    const to = new Uint8Array(from.length)
    for (let n = 0; n < lines; n++) {
      let unset = -reach - 1
      for (let k = 0; k < length + reach; k++) {
        if (k < length && !from[n * line + k * step]) unset = k
        const at = k - reach
        if (at >= 0 && unset < at - reach) to[n * line + at * step] = 1
      }
    }
    return to
  }
  return pass(pass(mask, height, width, width, 1), width, height, 1, width)
}

/** A mask's pixels and all within a square of this reach about them. */
export function dilated(mask: Uint8Array, size: Pick<Frame, 'width' | 'height'>, reach: number): Uint8Array {
  const inverse = (of: Uint8Array) => of.map((value) => 1 - value)
  return inverse(eroded(inverse(mask), size, reach))
}

/** The connected things of a mask that are so many px long each way at least. */
export function thingsIn(mask: Uint8Array, { width, rowOf, acrossOf }: Frame, leastPx: number): Thing[] {
  const left = mask.slice()
  const out: Thing[] = []
  for (let start = 0; start < left.length; start++) {
    if (!left[start]) continue
    const pixels = [start]
    left[start] = 0
    const u: [number, number] = [Infinity, -Infinity]
    const v: [number, number] = [Infinity, -Infinity]
    for (let n = 0; n < pixels.length; n++) {
      const i = pixels[n]!
      const row = rowOf(i)
      const across = acrossOf(i)
      if (across < u[0]) u[0] = across
      if (across > u[1]) u[1] = across
      if (row < v[0]) v[0] = row
      if (row > v[1]) v[1] = row
      const x = i % width
      for (let side = 0; side < 4; side++) {
        // Left, right, above, below; beyond the picture nothing is.
        const k = side === 0 ? i - 1 : side === 1 ? i + 1 : side === 2 ? i - width : i + width
        if ((side === 0 && x === 0) || (side === 1 && x === width - 1) || !left[k]) continue
        left[k] = 0
        pixels.push(k)
      }
    }
    if (lengthOf(u) >= leastPx && lengthOf(v) >= leastPx) out.push({ pixels, u, v })
  }
  return out
}

import type { ShownBuild } from '../../workers/protocol'

/** Colours along a scale, linear red, green, blue: from one end over its middle to the other. */
const STOPS = [
  [0.42, 0.07, 0.03],
  [0.75, 0.42, 0.16],
  [0.72, 0.68, 0.55],
  [0.12, 0.33, 0.34],
  [0.02, 0.12, 0.19],
] as const
/** Where there is no figure. */
const NONE = [0.3, 0.29, 0.27] as const

/** Its ends, mm. */
export interface PaintScale {
  least: number
  most: number
}

/** The range of what is painted; deviations are laid evenly about zero. Null when nothing is. */
export function paintScale(built: ShownBuild | null, even: boolean): PaintScale | null {
  const values = built?.solids[0]?.values
  if (!values) return null
  let [least, most] = [Infinity, -Infinity]
  for (const v of values) {
    if (Number.isNaN(v)) continue
    least = Math.min(least, v)
    most = Math.max(most, v)
  }
  if (least > most) return null
  const half = Math.max(-least, most)
  return even ? { least: -half, most: half } : { least, most }
}

/** Colours of the vertices, [r g b ...]. */
export function paintColours(values: Float32Array, { least, most }: PaintScale): Float32Array {
  const out = new Float32Array(3 * values.length)
  for (let v = 0; v < values.length; v++) {
    const value = values[v]!
    out.set(Number.isNaN(value) ? NONE : colourAt((value - least) / (most - least || 1)), 3 * v)
  }
  return out
}

function colourAt(share: number): [number, number, number] {
  const at = Math.min(1, Math.max(0, share)) * (STOPS.length - 1)
  const k = Math.min(STOPS.length - 2, Math.floor(at))
  const t = at - k
  return [0, 1, 2].map((i) => STOPS[k]![i]! + (STOPS[k + 1]![i]! - STOPS[k]![i]!) * t) as [
    number,
    number,
    number,
  ]
}

/** The scale as a gradient of the page. */
export const PAINT_GRADIENT = `linear-gradient(to right, ${STOPS.map(
  (rgb) => `rgb(${rgb.map((v) => Math.round(255 * v ** (1 / 2.2))).join(' ')})`,
).join(', ')})`

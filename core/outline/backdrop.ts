import type { Plane } from '../picture/raster'
import type { LabPicture } from '../picture/reduce'
import { fitLight, lightAt, type BackdropLight } from './backdrop-light'
import { withoutThingsAcross } from './border-things'

/** No backdrop is known better than this, OKLab units: about one step of an 8-bit picture after JPEG. */
const LEAST_SPREAD = 0.006
/** … and no hue better than this: JPEG keeps hues coarsely. */
const LEAST_HUE_SPREAD = 0.0035
/** So many times the spread along the borders makes a colour another one. */
const SPREADS = 4.5

/** A plain backdrop as its colours along two opposite borders foretell it. */
export interface Backdrop {
  /** Px of the picture that the borders were read in. */
  factor: number
  /** Lines run across (or down) from one border to the other. */
  down: boolean
  /** So many px, of those. */
  length: number
  /** OKLab of each line at its two ends. */
  ends: readonly [Float32Array, Float32Array]
  /** From this distance on a colour isn't the backdrop's, each line. */
  limits: Float32Array
  /** … and from this distance on its hue isn't (the colour axes alone): light wavers, and textures do, but hardly their hue. */
  hueLimits: Float32Array
  /** How much lighter it is between the borders than they foretell; null where they foretell it well. */
  light: BackdropLight | null
}

/** What looks like the backdrop dimmed may be a shadow: it speaks for the piece only this much. Darker than so, none is. */
const SHADOW_DOUBT = 0.2
const DEEPEST_SHADOW = 0.4

/** A backdrop and what it says of each pixel. */
export interface LineModel {
  evidence: Plane
  /** The same by the limits that a backdrop has whose light isn't known: what is seen through a clear piece is less like it. */
  loose: Plane
  unshadowed: Plane
  /** Distance between foretold and real colour on the two borders that the model wasn't made of. */
  unseen: number
  /** The same for the distance as a share of what makes a colour, or a hue, another one. */
  misfit: number
  backdrop: Backdrop
}

/** What the two ends of a line make expect at the k-th of the places between them, OKLab. */
function foretold(
  { ends, length, down, light }: Omit<Backdrop, 'limits' | 'hueLimits'>,
  line: number,
  k: number,
): [number, number, number] {
  const [first, last] = ends
  const t = k / (length - 1)
  const i = 3 * line
  const q = light ? lightAt(light, down ? line : k, down ? k : line) : 1
  return [
    q * ((1 - t) * first[i]! + t * last[i]!),
    q * ((1 - t) * first[i + 1]! + t * last[i + 1]!),
    q * ((1 - t) * first[i + 2]! + t * last[i + 2]!),
  ]
}

/** The colour (OKLab) that a plain backdrop has at a pixel of the picture that its borders were read in. */
export function backdropAt(backdrop: Backdrop, x: number, y: number): [number, number, number] {
  return foretold(backdrop, backdrop.down ? x : y, backdrop.down ? y : x)
}

/** A shadow dims all light alike, which scales all three coordinates of OKLab alike. */
function mayBeShadow(
  l: number,
  a: number,
  b: number,
  l0: number,
  a0: number,
  b0: number,
  limit: number,
  deepest: number,
): boolean {
  const dim = l / Math.max(l0, 1e-3)
  const hue = Math.sqrt((a - dim * a0) ** 2 + (b - dim * b0) ** 2)
  return dim < 1 && dim > deepest && hue < limit / 2
}

/**
 * How much a colour of the picture speaks for the piece rather than for a plain backdrop and its shadows, -1 to 1.
 * @param x full-resolution px, as y
 * @param l OKLab, as a and b
 */
export function speaksForPiece(
  backdrop: Backdrop,
  x: number,
  y: number,
  l: number,
  a: number,
  b: number,
): number {
  const { factor, down, length, limits } = backdrop
  const line = Math.max(0, Math.min(limits.length - 1, Math.round((down ? x : y) / factor - 0.5)))
  const k = Math.max(0, Math.min(length - 1, (down ? y : x) / factor - 0.5))
  const [l0, a0, b0] = foretold(backdrop, line, k)
  const limit = limits[line]!
  const evidence = Math.min(1, Math.sqrt((l - l0) ** 2 + (a - a0) ** 2 + (b - b0) ** 2) / limit - 1)
  return evidence > 0 && mayBeShadow(l, a, b, l0, a0, b0, limit, 0) ? 0 : evidence
}

/** Backdrop read across each row between its two ends (or down each column). */
export function lineModel(picture: LabPicture, margin: number, down: boolean): LineModel {
  const { width, height, l, a, b } = picture
  const lines = down ? width : height
  const length = down ? height : width
  const at = (line: number, k: number) => (down ? k * width + line : line * width + k)
  const ends = [new Float32Array(lines * 3), new Float32Array(lines * 3)] as const
  const limits = new Float32Array(lines)
  const hueLimits = new Float32Array(lines)
  const values = new Float32Array(margin)
  for (let line = 0; line < lines; line++) {
    let deviation = 0
    let hueDeviation = 0
    ends.forEach((end, side) => {
      const from = side === 0 ? 0 : length - margin
      ;[l, a, b].forEach((channel, c) => {
        for (let k = 0; k < margin; k++) values[k] = channel[at(line, from + k)]!
        values.sort()
        end[3 * line + c] = values[values.length >> 1]!
      })
      for (let k = 0; k < margin; k++) {
        const i = at(line, from + k)
        const [dl, da, db] = [l[i]! - end[3 * line]!, a[i]! - end[3 * line + 1]!, b[i]! - end[3 * line + 2]!]
        deviation += Math.sqrt(dl * dl + da * da + db * db) / margin
        hueDeviation += Math.sqrt(da * da + db * db) / margin
      }
    })
    limits[line] = SPREADS * Math.max(LEAST_SPREAD, deviation / 2)
    hueLimits[line] = SPREADS * Math.max(LEAST_HUE_SPREAD, hueDeviation / 2)
  }
  withoutThingsAcross({ ends, limits, hueLimits })
  const { factor } = picture
  return judged(picture, margin, { factor, down, length, ends, limits, hueLimits, light: null })
}

/** With its light known a backdrop is known better: less makes a colour another one, by this share. */
const LIT_LIMITS = 0.6

/** The model with the light between the borders as well, where they don't foretell it; `eager` as in `fitLight`. */
export function lit(picture: LabPicture, margin: number, model: LineModel, eager: boolean): LineModel {
  const light = lightBetween(picture, model.backdrop, eager)
  if (!light) return model
  const less = (list: Float32Array) => list.map((limit) => LIT_LIMITS * limit)
  const [limits, hueLimits] = [less(model.backdrop.limits), less(model.backdrop.hueLimits)]
  const { evidence: loose } = judged(picture, margin, { ...model.backdrop, light })
  return { ...judged(picture, margin, { ...model.backdrop, light, limits, hueLimits }), loose }
}

/** What a backdrop says of each pixel, and how well it foretells the borders it wasn't made of. */
function judged({ width, height, l, a, b }: LabPicture, margin: number, backdrop: Backdrop): LineModel {
  const { down, length, limits, hueLimits } = backdrop
  const lines = limits.length
  const data = new Float32Array(width * height)
  const unshadowed = new Float32Array(width * height)
  const unseen: number[] = []
  const misfits: number[] = []
  for (let line = 0; line < lines; line++) {
    const limit = limits[line]!
    const hueLimit = hueLimits[line]!
    for (let k = 0; k < length; k++) {
      const i = down ? k * width + line : line * width + k
      const [l0, a0, b0] = foretold(backdrop, line, k)
      const [dl, hue] = [l[i]! - l0, Math.sqrt((a[i]! - a0) ** 2 + (b[i]! - b0) ** 2)]
      const d = Math.sqrt(dl * dl + hue * hue)
      const misfit = Math.max(d / limit, hue / hueLimit)
      data[i] = Math.min(1, misfit - 1)
      const shadow = data[i]! > 0 && mayBeShadow(l[i]!, a[i]!, b[i]!, l0, a0, b0, limit, DEEPEST_SHADOW)
      unshadowed[i] = shadow ? SHADOW_DOUBT * data[i]! : data[i]!
      if (line < margin || line >= lines - margin) {
        unseen.push(d)
        misfits.push(misfit)
      }
    }
  }
  const nearWorst = (list: readonly number[]) =>
    Float32Array.from(list).sort()[Math.floor(0.8 * list.length)]!
  const evidence = { width, height, data }
  return {
    evidence,
    loose: evidence,
    unshadowed: { width, height, data: unshadowed },
    unseen: nearWorst(unseen),
    misfit: nearWorst(misfits),
    backdrop,
  }
}

/** How the light between the borders differs from what they foretell. */
function lightBetween(
  { width, height, l, a, b }: LabPicture,
  backdrop: Backdrop,
  eager: boolean,
): BackdropLight | null {
  const { down, limits } = backdrop
  const place = (x: number, y: number) => (down ? ([x, y] as const) : ([y, x] as const))
  const ratioAt = (x: number, y: number) => {
    const [line, k] = place(x, y)
    const [l0, a0, b0] = foretold(backdrop, line, k)
    const i = y * width + x
    const q = l[i]! / Math.max(l0, 1e-3)
    return Math.hypot(a[i]! - q * a0, b[i]! - q * b0) < limits[line]! ? q : NaN
  }
  const limitAt = (x: number, y: number) => {
    const [line, k] = place(x, y)
    return limits[line]! / Math.max(foretold(backdrop, line, k)[0], 1e-3)
  }
  return fitLight(width, height, ratioAt, limitAt, eager)
}

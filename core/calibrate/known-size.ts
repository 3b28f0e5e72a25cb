import type { PicturePoint } from '../conventions'
import type { Problem } from '../errors'
import { acrossOf } from './frame'

/** `height` is measured along the axis, `diameter` across it, `length` straight from mark to mark. */
export const KNOWN_SIZE_KINDS = ['height', 'diameter', 'length'] as const

export type KnownSizeKind = (typeof KNOWN_SIZE_KINDS)[number]

/** A real size, typed, against two marks in the picture. */
export interface KnownSize {
  id: string
  kind: KnownSizeKind
  a: PicturePoint
  b: PicturePoint
  /** Real size, mm; null until it is typed. */
  mm: number | null
  /** What was typed, kept as typed. */
  text: string
}

/** Length of a known size in the picture, px. `up` is the direction of the axis in the picture. */
export function pixelsOf(size: Pick<KnownSize, 'kind' | 'a' | 'b'>, up: PicturePoint): number {
  const dx = size.b.x - size.a.x
  const dy = size.b.y - size.a.y
  const across = acrossOf({ up })
  if (size.kind === 'height') return Math.abs(dx * up.x + dy * up.y)
  if (size.kind === 'diameter') return Math.abs(dx * across.x + dy * across.y)
  return Math.hypot(dx, dy)
}

/**
 * Marks closer than this, px, can't carry a scale: a mark is set to about half a pixel,
 * so that two of them 10 px apart already leave 5 to 10 % of doubt.
 */
export const LEAST_MARK_DISTANCE_PX = 10

/** Scale from one known size: mm per pixel, or the reason why there is none. */
export function scaleFromKnownSize(
  size: KnownSize,
  up: PicturePoint,
): { ok: true; mmPerPx: number; pixels: number } | { ok: false; problem: Problem } {
  const pixels = pixelsOf(size, up)
  if (size.mm === null) {
    return {
      ok: false,
      problem: {
        code: 'size-untyped',
        message: 'Type the real size of the marked distance.',
        where: size.id,
      },
    }
  }
  if (!(size.mm > 0) || !Number.isFinite(size.mm)) {
    return {
      ok: false,
      problem: {
        code: 'size-not-positive',
        message: 'The real size must be above zero.',
        where: size.id,
        received: String(size.mm),
      },
    }
  }
  if (!(pixels >= LEAST_MARK_DISTANCE_PX)) {
    const along =
      size.kind === 'height' ? ' along the axis' : size.kind === 'diameter' ? ' across the axis' : ''
    return {
      ok: false,
      problem: {
        code: 'marks-coincide',
        message: `The two marks are only ${pixels.toFixed(1)} px apart${along}; move them to the ends of the size you know.`,
        where: size.id,
        expected: `at least ${LEAST_MARK_DISTANCE_PX} px`,
        received: `${pixels.toFixed(1)} px`,
      },
    }
  }
  return { ok: true, mmPerPx: size.mm / pixels, pixels }
}

import type { PicturePoint } from '../conventions'
import type { Problem } from '../errors'
import { toPlane, toUprightPlane, type View } from '../camera/view'

/**
 * What a size measures. `overall` and `height` go along the axis (the whole piece, or between two levels), `diameter`
 * across it, `length` straight from mark to mark.
 */
export const KNOWN_SIZE_KINDS = ['overall', 'height', 'diameter', 'length'] as const
export type KnownSizeKind = (typeof KNOWN_SIZE_KINDS)[number]

/**
 * Where the marked thing lies: in the plane through the axis square to the view; on the side of the piece, where the
 * outline is; on its near surface, or any typed distance before (positive) or behind the axis. A near camera sees
 * these at different scales.
 */
export const PLACES = ['axis', 'side', 'near', 'off'] as const
export type Place = (typeof PLACES)[number]

/** How well the real size is known. `typed` brings its own figure. */
export const SOURCES = ['caliper', 'ruler', 'nominal', 'rough', 'typed'] as const
export type Source = (typeof SOURCES)[number]

/** A real size, typed, against two marks in the picture. */
export interface KnownSize {
  id: string
  kind: KnownSizeKind
  a: PicturePoint
  b: PicturePoint
  /** Real size from mark to mark, mm (a diameter, never a radius); null until it is typed. */
  mm: number | null
  /** What was typed, kept as typed. */
  text: string
  /** True when a radius was typed: the size is twice that. */
  radius: boolean
  lies: Place
  /** How far before the axis it lies, mm, for `near` and `off`. */
  beforeMm: number
  source: Source
  /** Standard error of the real size, mm, for the source `typed`. */
  toleranceMm: number
  /** Sizes that are switched off are shown but don't count. */
  on: boolean
}

/** A size as it is when only marks and length are said. */
export function newKnownSize(
  size: Pick<KnownSize, 'id' | 'kind' | 'a' | 'b'> & Partial<KnownSize>,
): KnownSize {
  return {
    mm: null,
    text: '',
    radius: false,
    lies: size.kind === 'diameter' ? 'side' : 'axis',
    beforeMm: 0,
    source: 'ruler',
    toleranceMm: 0.5,
    on: true,
    ...size,
  }
}

/**
 * Standard error of the real size, mm. Caliper 0.1 mm and ruler 0.5 mm are common practice, no source; a nominal size
 * is taken to be right to 1 %, a rough one (a hand's width) to 8 %.
 */
export function toleranceOf({ source, toleranceMm, mm }: KnownSize): number {
  switch (source) {
    case 'caliper':
      return 0.1
    case 'ruler':
      return 0.5
    case 'nominal':
      return 0.01 * (mm ?? 0)
    case 'rough':
      return 0.08 * (mm ?? 0)
    case 'typed':
      return toleranceMm
  }
}

/** A mark is set by hand to about this, px (common practice, no source); two of them make a length. */
export const MARK_SD_PX = 0.6

/**
 * Length between the marks as a view sees it, in the view's own unit (mm, or px, or camera distances while there is
 * no scale).
 * @param before how far before the axis the size lies, in that unit
 */
export function seenLength(
  size: Pick<KnownSize, 'kind' | 'a' | 'b' | 'lies'>,
  view: View,
  before: number,
): number {
  const read = (p: PicturePoint) =>
    size.lies === 'side' ? toPlane(view, p) : toUprightPlane(view, p, size.lies === 'axis' ? 0 : -before)
  const a = read(size.a)
  const b = read(size.b)
  if (size.kind === 'diameter') return Math.abs(a.x - b.x)
  if (size.kind === 'length') return Math.hypot(a.x - b.x, a.z - b.z)
  return Math.abs(a.z - b.z)
}

/** Length between the marks along what the kind measures, px. */
export function pixelsOf(size: Pick<KnownSize, 'kind' | 'a' | 'b'>, up: PicturePoint): number {
  const dx = size.b.x - size.a.x
  const dy = size.b.y - size.a.y
  if (size.kind === 'length') return Math.hypot(dx, dy)
  return Math.abs(size.kind === 'diameter' ? -dx * up.y + dy * up.x : dx * up.x + dy * up.y)
}

/**
 * Marks closer than this, px, can't carry a scale: a mark is set to about half a pixel,
 * so that two of them 10 px apart already leave 5 to 10 % of doubt.
 */
export const LEAST_MARK_DISTANCE_PX = 10

/** Why a size can't take part, or null. */
export function sizeProblem(size: KnownSize, up: PicturePoint): Problem | null {
  if (size.mm === null) {
    return { code: 'size-untyped', message: 'Type the real size of the marked distance.', where: size.id }
  }
  if (!(size.mm > 0) || !Number.isFinite(size.mm)) {
    return {
      code: 'size-not-positive',
      message: 'The real size must be above zero.',
      where: size.id,
      received: String(size.mm),
    }
  }
  const pixels = pixelsOf(size, up)
  if (!(pixels >= LEAST_MARK_DISTANCE_PX)) {
    const along =
      size.kind === 'length' ? '' : size.kind === 'diameter' ? ' across the axis' : ' along the axis'
    return {
      code: 'marks-coincide',
      message: `The two marks are only ${pixels.toFixed(1)} px apart${along}; move them to the ends of the size you know.`,
      where: size.id,
      expected: `at least ${LEAST_MARK_DISTANCE_PX} px`,
      received: `${pixels.toFixed(1)} px`,
    }
  }
  return null
}

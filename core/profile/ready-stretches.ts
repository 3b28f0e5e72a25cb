import { CoreError } from '../errors'
import { replaceBetween, type PartNode } from './between-levels'
import { LINE, type NodeSegment } from './node-segment'
import type { HalfProfile } from './profile'
import { plainMm } from '../units/format-length'

/** The turner's vocabulary. */
export const STRETCHES = ['bead', 'cove', 'torus', 'ogee', 'listel', 'V-groove', 'taper', 'ball'] as const
export type StretchKind = (typeof STRETCHES)[number]

export interface ReadyStretch {
  kind: StretchKind
  /** Heights between which it stands, mm. */
  low: number
  high: number
  /**
   * Mm: how far a bead, ogee or listel stands out, how deep a cove or groove goes in, the ⌀ of a ball, the ⌀ with which a
   * taper ends below. A torus is a half-round and needs none.
   */
  size: number
  /** The ⌀ with which a taper ends above, mm. */
  upper?: number
}

/** What `size` means, in words. */
export const SIZE_WORDS: Record<StretchKind, string> = {
  bead: 'Stands out by',
  cove: 'Goes in by',
  torus: '',
  ogee: 'Stands out by',
  listel: 'Stands out by',
  'V-groove': 'Goes in by',
  taper: '⌀ below',
  ball: '⌀',
}

/** Tangent of a sixteenth of a turn: the bulge of a quarter circle. */
const QUARTER = Math.tan(Math.PI / 8)

/**
 * Puts a ready stretch between two heights of the outside: bead (convex arc), cove (concave arc), torus (half-round), ogee
 * (a hollow quarter and a round one), listel (the flat), V-groove, taper, ball (about the axis).
 * @throws CoreError `stretch-impossible` with what to change, and what `replaceBetween` throws
 */
export function insertStretch(profile: HalfProfile, stretch: ReadyStretch, newId: () => string): HalfProfile {
  const { kind, low, high, size } = stretch
  if (!(high > low)) fail('Its upper height must lie above its lower one.')
  if (kind !== 'torus' && !(size > 0)) fail('Its size must be above 0.')
  return replaceBetween(profile, [low, high], (rLow, rHigh) => partOf(stretch, rLow, rHigh), newId)
}

function fail(message: string): never {
  throw new CoreError({ code: 'stretch-impossible', message, where: 'stretch' })
}

function partOf({ kind, low, high, size, upper }: ReadyStretch, rLow: number, rHigh: number): PartNode[] {
  const corner = (r: number, z: number, segment: NodeSegment = LINE): PartNode => ({
    r,
    z,
    joint: 'corner',
    segment,
  })
  const tall = high - low
  const start = (segment: NodeSegment) => corner(rLow, low, segment)
  const end = corner(rHigh, high)
  const chord = Math.hypot(tall, rHigh - rLow)
  // Upwards along the outside an arc to the left stands out.
  const arc = (bulge: number): NodeSegment => ({ next: 'arc', bulge })
  const inwards = (depth: number) => {
    if (depth >= Math.min(rLow, rHigh)) fail(`At ⌀ ${plainMm(2 * Math.min(rLow, rHigh))} mm nothing can go in by ${plainMm(depth)} mm; make it shallower.`) // prettier-ignore
    return depth
  }
  switch (kind) {
    case 'bead':
      return [start(arc((2 * size) / chord)), end]
    case 'torus':
      return [start(arc(1)), end]
    case 'cove':
      return [start(arc((-2 * inwards(size)) / chord)), end]
    case 'ogee': {
      const out = Math.max(rLow, rHigh) + size
      const middle: PartNode = { r: (rLow + out) / 2, z: (low + high) / 2, joint: 'smooth', segment: arc(QUARTER) } // prettier-ignore
      return [start(arc(-QUARTER)), middle, corner(out, high), end]
    }
    case 'listel': {
      const out = Math.max(rLow, rHigh) + size
      return [start({ ...LINE, way: 'level' }), corner(out, low, { ...LINE, way: 'upright' }), corner(out, high, { ...LINE, way: 'level' }), end] // prettier-ignore
    }
    case 'V-groove':
      return [start(LINE), corner((rLow + rHigh) / 2 - inwards(size), (low + high) / 2), end]
    case 'taper': {
      const [a, b] = [size / 2, (upper ?? size) / 2]
      if (!(b > 0)) fail('Its upper ⌀ must be above 0.')
      return [start(LINE), corner(a, low), corner(b, high), end]
    }
    case 'ball': {
      const radius = size / 2
      if (2 * radius < tall) fail(`A ball of ⌀ ${plainMm(size)} mm isn’t ${plainMm(tall)} mm tall; bring the heights nearer or make it larger.`) // prettier-ignore
      const r = Math.sqrt(Math.max(1e-6, radius ** 2 - (tall / 2) ** 2))
      return [start(LINE), corner(r, low, arc(Math.tan(Math.asin(tall / 2 / radius) / 2))), corner(r, high), end] // prettier-ignore
    }
  }
}

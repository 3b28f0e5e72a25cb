import type { OneSideReason } from '../camera/half-outline'
import type { ReadProfile } from '../calibrate/read-profile'
import { formatLength } from '../units/format-length'
import type { DisplayUnit } from '../units/units'

/** A stretch of the half-profile that both edges don't vouch for. */
export interface UnsureStretch {
  /** Heights, mm. */
  from: number
  to: number
  state: 'left' | 'right' | 'bridged' | 'hand' | 'assumed'
  /** One sentence: what is there and where it was taken from. */
  sentence: string
  /** Why, and what can be done about it. */
  why: string
}

/** Stretches shorter than this share of the height aren't worth a line. */
export const LEAST_SHARE = 0.008
/** Gaps of this share between stretches of one kind are closed. */
const GAP_SHARE = 0.006

const WHY = {
  unseen: (other: string) =>
    `The ${other} edge fades into what lies behind it: a shadow, a highlight, or a backdrop of the same brightness.`,
  differs: (other: string) =>
    `Left and right differ by more than their noise. The ${other} edge lies farther out, as a handle, a shadow or a reflection does; choose the other side if it is the true one.`,
  chosen: () => 'Chosen by hand.',
} as const

/**
 * The stretches that both edges don't vouch for, from foot to top.
 * @param unit as the sentences say it; px where there is no scale
 */
export function unsureStretches(read: ReadProfile, unit: DisplayUnit | 'px'): UnsureStretch[] {
  const tall = read.top - read.foot
  const runs: { from: number; to: number; state: string; reason: OneSideReason | null }[] = []
  read.points.forEach(([r, z], i) => {
    const state = read.states[i]!
    if (state === 'both' || r === 0) return
    const last = runs[runs.length - 1]
    if (last && last.state === state && z - last.to <= GAP_SHARE * tall) {
      last.to = Math.max(last.to, z)
      last.reason ??= read.reasons[i] ?? null
    } else runs.push({ from: z, to: z, state, reason: read.reasons[i] ?? null })
  })
  return runs
    .filter(({ from, to }) => to - from >= LEAST_SHARE * tall)
    .map(({ from, to, state, reason }) => {
      const s = state as UnsureStretch['state']
      const between =
        unit === 'px'
          ? `between ${from.toFixed(0)} and ${to.toFixed(0)} px`
          : `between ${formatLength(from, { unit, withUnit: false })} and ${formatLength(to, { unit })}`
      return { from, to, state: s, ...wordsFor(s, reason, between) }
    })
}

function wordsFor(
  state: UnsureStretch['state'],
  reason: OneSideReason | null,
  between: string,
): { sentence: string; why: string } {
  if (state === 'bridged')
    return {
      sentence: `No edge ${between}; bridged from its neighbours.`,
      why: 'On neither side could an edge be placed there: it doesn’t stand out from what lies behind it, or the outline turns within a few px. Draw it with the edge pen.',
    }
  if (state === 'assumed')
    return {
      sentence: `Hidden ${between}; assumed.`,
      why: 'The camera can’t see into this: an undercut, a foot recess or the face of an end. The largest shape that fits the outline is taken.',
    }
  if (state === 'hand') return { sentence: `Drawn by hand ${between}.`, why: 'Edge pen.' }
  const other = state === 'left' ? 'right' : 'left'
  const name = other[0]!.toUpperCase() + other.slice(1)
  const sentence =
    reason === 'chosen'
      ? `${state === 'left' ? 'Left' : 'Right'} side chosen ${between}.`
      : `${name} edge ${between} ${reason === 'differs' ? 'lies apart' : 'isn’t seen'}; taken from the ${state}.`
  return { sentence, why: WHY[reason ?? 'unseen'](other) }
}

/** Share of the height that at least one edge vouches for. */
export const seenShare = (read: ReadProfile): number =>
  shareOf(read, (state) => state !== 'bridged' && state !== 'assumed')

/** Share of the height that both edges vouch for alike. */
export const agreeShare = (read: ReadProfile): number => shareOf(read, (state) => state === 'both')

function shareOf(read: ReadProfile, counts: (state: ReadProfile['states'][number]) => boolean): number {
  let counted = 0
  let all = 0
  for (let i = 1; i < read.points.length; i++) {
    const rise = Math.max(0, read.points[i]![1] - read.points[i - 1]![1])
    all += rise
    if (counts(read.states[i]!)) counted += rise
  }
  return all > 0 ? counted / all : 0
}

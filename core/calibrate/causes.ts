import { MM_PER_UNIT, typedUnit, type DisplayUnit } from '../units/units'
import { parseLength } from '../units/parse-length'
import type { KnownSize } from './known-size'

/** A likely reason why a typed size doesn't fit the others, with what would be right then. */
export interface Cause {
  /** What would have to be typed instead, and its length. */
  text: string
  mm: number
  /** In words, for "was it …?". */
  words: string
  /** Remaining disagreement with the others if this is it, as a share. */
  remaining: number
}

/** A cause must bring the size to within this share of what the others say, or three of the standard errors. */
const EXPLAINED = 0.015

/**
 * Reasons why a size may be wrong, likeliest first: slips of the fingers (a repeated, swapped, dropped or mistaken
 * digit), a radius for a diameter, one unit for another. Only those that make it agree with the others are offered.
 * @param expectedMm what the other sizes make of its marks
 * @param relativeSd standard error of the comparison as a share
 */
export function likelyCauses(
  size: Pick<KnownSize, 'text' | 'mm' | 'kind' | 'radius'>,
  expectedMm: number,
  unit: DisplayUnit,
  relativeSd = 0,
): Cause[] {
  const limit = Math.max(EXPLAINED, 3 * relativeSd)
  const out: (Cause & { rank: number })[] = []
  const offer = (text: string, mm: number, words: string, rank: number) => {
    const remaining = Math.abs(mm / expectedMm - 1)
    if (!(remaining <= limit) || out.some((c) => Math.abs(c.mm / mm - 1) < 1e-9)) return
    out.push({ text, mm, words, remaining, rank })
  }
  const { mm } = size
  if (mm === null) return []
  const typed = size.text.trim()
  for (const { text, words, rank } of slips(typed)) {
    const read = parseLength(text, { defaultUnit: typedUnit(unit) })
    if (read.ok) offer(text, size.radius ? 2 * read.mm : read.mm, words, rank)
  }
  const unitless = /^[\d\s.,/]+$/.test(typed)
  if (unitless) {
    for (const other of ['mm', 'cm', 'in'] as const) {
      if (other === typedUnit(unit)) continue
      const as = (mm / MM_PER_UNIT[typedUnit(unit)]) * MM_PER_UNIT[other]
      offer(`${typed} ${other}`, as, `${typed} ${other}, with the unit left out`, 2)
    }
  }
  if (size.kind === 'diameter') {
    offer(`${round(2 * mm)} mm`, 2 * mm, 'a radius, where the diameter belongs', 1)
    offer(`${round(mm / 2)} mm`, mm / 2, 'a diameter, where the radius was meant', 1)
  }
  offer(`${round(mm * 25.4)} mm`, mm * 25.4, 'inches, typed as millimetres', 3)
  offer(`${round(mm / 25.4)} mm`, mm / 25.4, 'millimetres, typed as inches', 3)
  offer(`${round(mm * 10)} mm`, mm * 10, 'centimetres, typed as millimetres', 3)
  offer(`${round(mm / 10)} mm`, mm / 10, 'millimetres, typed as centimetres', 3)
  return out
    .sort((p, q) => p.rank - q.rank || p.remaining - q.remaining)
    .map(({ text, mm: value, words, remaining }) => ({ text, mm: value, words, remaining }))
}

function round(mm: number): string {
  return String(Math.round(mm * 100) / 100)
}

/** The texts that a slip of the fingers could have turned into this one. */
function* slips(text: string): Generator<{ text: string; words: string; rank: number }> {
  const digits = [...text].flatMap((c, i) => (/\d/.test(c) ? [i] : []))
  const put = (i: number, to: string, count = 1) => text.slice(0, i) + to + text.slice(i + count)
  for (const i of digits) {
    const c = text[i]!
    const next = text[i + 1]
    // 30 for 33: the same key should have been struck again.
    for (const j of [i - 1, i + 1]) {
      const neighbour = text[j]
      if (neighbour && /\d/.test(neighbour) && neighbour !== c)
        yield { text: put(i, neighbour), words: `${put(i, neighbour)}, with a digit repeated`, rank: 0 }
    }
    if (next && /\d/.test(next) && next !== c)
      yield { text: put(i, next + c, 2), words: `${put(i, next + c, 2)}, with two digits swapped`, rank: 0 }
    yield { text: put(i, c + c), words: `${put(i, c + c)}, with a repeated digit dropped`, rank: 1 }
    if (digits.length > 1 && next === c)
      yield { text: put(i, ''), words: `${put(i, '')}, with a digit struck twice`, rank: 1 }
  }
  for (const i of digits) {
    for (let d = 0; d <= 9; d++) {
      const other = String(d)
      if (other !== text[i])
        yield { text: put(i, other), words: `${put(i, other)}, with one wrong digit`, rank: 4 }
      yield { text: put(i, other, 0), words: `${put(i, other, 0)}, with a digit dropped`, rank: 5 }
    }
    if (digits.length > 1) yield { text: put(i, ''), words: `${put(i, '')}, with a digit too many`, rank: 5 }
  }
}

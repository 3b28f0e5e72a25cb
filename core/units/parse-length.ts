import type { Problem } from '../errors'
import { MM_PER_UNIT, type LengthUnit } from './units'

export interface ParseLengthOptions {
  /** Unit of a number typed without one. Default mm. */
  defaultUnit?: LengthUnit
  /** Smallest accepted length, mm. Default: anything above zero. */
  minMm?: number
  /** Largest accepted length, mm. Default 100 m, larger than any piece. */
  maxMm?: number
}

export type ParsedLength = { ok: true; mm: number } | { ok: false; problem: Problem }

const UNIT_WORDS: Record<string, LengthUnit> = {
  mm: 'mm',
  millimetre: 'mm',
  millimetres: 'mm',
  millimeter: 'mm',
  millimeters: 'mm',
  cm: 'cm',
  centimetre: 'cm',
  centimetres: 'cm',
  centimeter: 'cm',
  centimeters: 'cm',
  m: 'm',
  metre: 'm',
  metres: 'm',
  meter: 'm',
  meters: 'm',
  in: 'in',
  inch: 'in',
  inches: 'in',
  '"': 'in',
  ft: 'ft',
  foot: 'ft',
  feet: 'ft',
  "'": 'ft',
}

const VULGAR: Record<string, string> = {
  '¼': '1/4',
  '½': '1/2',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
}

/** Whole and fraction ("5 7/16"), fraction ("7/16"), or decimal with point or comma; then a unit or nothing. */
const TERM =
  /^\s*(?:(?<whole>\d+)[\s-]+(?=\d+\s*\/))?(?:(?<num>\d+)\s*\/\s*(?<den>\d+)|(?<decimal>\d+(?:[.,]\d+)?|[.,]\d+))\s*(?<unit>[a-z]+|"|')?/

/**
 * Reads a length as people type it: "138", "138 mm", "13,8 cm", "1.2 m", "5 7/16 in", "5 7/16\"", "1 ft 3 1/2 in".
 * Several terms add up when each but the last names its unit and the units get smaller.
 * @returns the length in mm, or the problem in words. Never throws.
 */
export function parseLength(text: string, options: ParseLengthOptions = {}): ParsedLength {
  const { defaultUnit = 'mm', minMm, maxMm = 100_000 } = options
  const refuse = (code: string, message: string): ParsedLength => ({
    ok: false,
    problem: {
      code,
      message,
      where: 'length',
      expected: 'a length such as 138 mm or 5 7/16 in',
      received: text,
    },
  })
  let rest = tidy(text)
  if (rest === '') return refuse('length-empty', 'Type a length, for example 138 mm or 5 7/16 in.')
  const sign = rest.startsWith('-') ? -1 : 1
  if (sign < 0) rest = rest.slice(1).trim()
  let mm = 0
  let lastUnit: LengthUnit | undefined
  while (rest !== '') {
    const match = TERM.exec(rest)
    const parts = match?.groups
    if (!match || !parts)
      return refuse(
        'length-unreadable',
        `“${text.trim()}” is not a length; write it like 138 mm or 5 7/16 in.`,
      )
    if (parts.decimal && /^\d{1,3},\d{3}$/.test(parts.decimal)) {
      const [a, b] = parts.decimal.split(',')
      return refuse(
        'length-ambiguous',
        `“${parts.decimal}” can be read in two ways; write ${a}${b} or ${a}.${b}.`,
      )
    }
    const unit = parts.unit === undefined ? defaultUnit : UNIT_WORDS[parts.unit]
    if (!unit)
      return refuse('length-unit', `“${parts.unit}” is not a unit known here; use mm, cm, m, in or ft.`)
    rest = rest.slice(match[0].length).trim()
    if (parts.unit === undefined && (rest !== '' || lastUnit)) {
      return refuse('length-unit-missing', `“${text.trim()}”: each part needs its unit, as in 1 ft 3 in.`)
    }
    if (lastUnit && MM_PER_UNIT[unit] >= MM_PER_UNIT[lastUnit]) {
      return refuse('length-order', `“${text.trim()}”: write the larger unit first, as in 1 ft 3 in.`)
    }
    const value = termValue(parts)
    if (value === undefined) return refuse('length-fraction', `“${text.trim()}” divides by zero.`)
    mm += value * MM_PER_UNIT[unit]
    lastUnit = unit
  }
  mm *= sign
  if (minMm === undefined ? mm <= 0 : mm < minMm) {
    const least = minMm === undefined ? 'above zero' : `at least ${minMm} mm`
    return refuse('length-too-small', `${text.trim()} is too small; the length must be ${least}.`)
  }
  if (mm > maxMm)
    return refuse('length-too-large', `${text.trim()} is larger than ${maxMm / 1000} m; check the unit.`)
  return { ok: true, mm }
}

function tidy(text: string): string {
  return text
    .replace(/[¼½¾⅛⅜⅝⅞]/g, (c) => ` ${VULGAR[c]}`)
    .replace(/\u2044/g, '/')
    .replace(/[\u2033\u201c\u201d]|''/g, '"')
    .replace(/[\u2032\u2019]/g, "'")
    .replace(/\u2212/g, '-')
    .replace(/\u00a0/g, ' ')
    .trim()
    .toLowerCase()
}

function termValue(parts: Record<string, string | undefined>): number | undefined {
  if (parts.decimal !== undefined) return Number(parts.decimal.replace(',', '.'))
  const den = Number(parts.den)
  return den === 0 ? undefined : Number(parts.whole ?? 0) + Number(parts.num) / den
}

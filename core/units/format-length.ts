import { MM_PER_UNIT, typedUnit, type DisplayUnit } from './units'

export interface FormatLengthOptions {
  unit: DisplayUnit
  /** Write the unit behind the number. Default true. */
  withUnit?: boolean
  /** Decimal places; ignored for fractions. Default: about 0.01 mm in every unit. */
  decimals?: number
  /** For deviations: a digit more, and no fractions. */
  fine?: boolean
}

const DECIMALS: Record<DisplayUnit, number> = { mm: 2, cm: 3, m: 5, in: 3, 'in-16': 0, 'in-32': 0 }

const FINE_DECIMALS: Record<DisplayUnit, number> = { mm: 3, cm: 4, m: 6, in: 4, 'in-16': 4, 'in-32': 4 }

/** Writes a length for people: "138.00 mm", "5.433 in", "5 7/16 in". Fractions are rounded to the nearest. */
export function formatLength(mm: number, options: FormatLengthOptions): string {
  const { unit, withUnit = true, fine = false } = options
  const { decimals = fine ? FINE_DECIMALS[unit] : DECIMALS[unit] } = options
  if (!Number.isFinite(mm)) return '–'
  const base = typedUnit(unit)
  const value = mm / MM_PER_UNIT[base]
  const number =
    !fine && (unit === 'in-16' || unit === 'in-32')
      ? inFractions(value, unit === 'in-16' ? 16 : 32)
      : (Math.abs(value) < 0.5 * 10 ** -decimals ? 0 : value).toFixed(decimals)
  return withUnit ? `${number} ${base}` : number
}

/** Millimetres for sentences of the core, where no display unit is known: up to three digits behind the point. */
export function plainMm(mm: number): string {
  return String(Number(mm.toFixed(3)))
}

function inFractions(value: number, denominator: number): string {
  const parts = Math.round(Math.abs(value) * denominator)
  const sign = value < 0 && parts > 0 ? '-' : ''
  const whole = Math.floor(parts / denominator)
  let num = parts % denominator
  let den = denominator
  while (num > 0 && num % 2 === 0) {
    num /= 2
    den /= 2
  }
  if (num === 0) return `${sign}${whole}`
  return whole === 0 ? `${sign}${num}/${den}` : `${sign}${whole} ${num}/${den}`
}

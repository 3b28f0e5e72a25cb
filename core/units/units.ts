/**
 * Units of length people type and read. 1 in = 25.4 mm exactly and 1 ft = 12 in
 * (international yard and pound agreement, 1959).
 */
export const MM_PER_UNIT = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 } as const

export type LengthUnit = keyof typeof MM_PER_UNIT

/** How lengths of a piece are shown. `in-16` and `in-32` are inches in fractions. */
export const DISPLAY_UNITS = ['mm', 'cm', 'm', 'in', 'in-16', 'in-32'] as const

export type DisplayUnit = (typeof DISPLAY_UNITS)[number]

/** The same unit in decimals, for differences too small for fractions. */
export function decimalUnit(display: DisplayUnit): DisplayUnit {
  return typedUnit(display) === 'in' ? 'in' : display
}

/** The unit that a bare number means when lengths are shown in `display`. */
export function typedUnit(display: DisplayUnit): LengthUnit {
  return display === 'in-16' || display === 'in-32' ? 'in' : display
}

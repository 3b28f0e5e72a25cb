import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatLength } from './format-length'
import { parseLength } from './parse-length'
import { DISPLAY_UNITS, typedUnit } from './units'

const mm = (text: string, options = {}) => {
  const result = parseLength(text, options)
  return result.ok ? result.mm : result.problem.code
}

describe('parseLength', () => {
  // 1 in = 25.4 mm: international yard and pound agreement, 1959.
  it.each([
    ['138', 138],
    ['138 mm', 138],
    ['138mm', 138],
    ['13.8 cm', 138],
    ['13,8 cm', 138],
    ['1.2 m', 1200],
    ['.5 m', 500],
    ['1 in', 25.4],
    ['5 7/16 in', 138.1125],
    ['5-7/16 in', 138.1125],
    ['5 7/16"', 138.1125],
    ['5 7/16″', 138.1125],
    ['2 ⅛ in', 53.975],
    ['7/16 inches', 11.1125],
    ['1 ft 3 1/2 in', 393.7],
    ['5\' 2"', 1574.8],
    ['1 m 20 cm', 1200],
    ['  33 Millimetres ', 33],
  ])('reads %s', (text, expected) => expect(mm(text)).toBeCloseTo(expected, 9))

  it('takes the given unit for a bare number', () => {
    expect(mm('2 1/8', { defaultUnit: 'in' })).toBeCloseTo(53.975, 9)
    expect(mm('5', { defaultUnit: 'cm' })).toBe(50)
  })

  it.each([
    ['', 'length-empty'],
    ['abc', 'length-unreadable'],
    ['12 parsec', 'length-unit'],
    ['0', 'length-too-small'],
    ['-3 mm', 'length-too-small'],
    ['1/0 in', 'length-fraction'],
    ['1,200', 'length-ambiguous'],
    ['3 in 1 ft', 'length-order'],
    ['3 in 4', 'length-unit-missing'],
    ['5 mm 3 mm', 'length-order'],
    ['200 km', 'length-unit'],
    ['500 m', 'length-too-large'],
    ['1e3', 'length-unit'],
    ['NaN', 'length-unreadable'],
  ])('refuses %j with %s', (text, code) => expect(mm(text)).toBe(code))

  it('reads coordinates below zero when they are allowed', () => {
    expect(mm('-3 mm', { minMm: -100 })).toBe(-3)
    expect(mm('−0.5', { minMm: -100 })).toBe(-0.5)
    expect(mm('0', { minMm: 0 })).toBe(0)
  })

  it('never throws and never returns a number that is not finite (property)', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.stringMatching(/^[0-9 /.,'"a-z-]{0,20}$/)), (text) => {
        const result = parseLength(text)
        if (result.ok) expect(Number.isFinite(result.mm) && result.mm > 0).toBe(true)
        else expect(result.problem.message.length).toBeGreaterThan(10)
      }),
    )
  })
})

describe('formatLength', () => {
  it.each([
    [138, 'mm', '138.00 mm'],
    [138.1125, 'in', '5.438 in'],
    [138.1125, 'in-16', '5 7/16 in'],
    [138, 'in-32', '5 7/16 in'],
    [12.7, 'in-16', '1/2 in'],
    [25.3, 'in-16', '1 in'],
    [-12.7, 'in-16', '-1/2 in'],
    [0.2, 'in-16', '0 in'],
    [-0.001, 'mm', '0.00 mm'],
    [NaN, 'mm', '–'],
  ] as const)('writes %d in %s as %s', (value, unit, text) =>
    expect(formatLength(value, { unit })).toBe(text),
  )

  it('is read back by the parser within its own rounding, in every unit (property)', () => {
    const half = { mm: 0.005, cm: 0.005, m: 0.005, in: 0.0127, 'in-16': 25.4 / 32, 'in-32': 25.4 / 64 }
    fc.assert(
      fc.property(
        fc.constantFrom(...DISPLAY_UNITS),
        fc.double({ min: 1, max: 20_000, noNaN: true }),
        (unit, value) => {
          for (const withUnit of [true, false]) {
            const read = parseLength(formatLength(value, { unit, withUnit }), {
              defaultUnit: typedUnit(unit),
            })
            expect(read.ok && Math.abs(read.mm - value)).toBeLessThanOrEqual(half[unit] + 1e-9)
          }
        },
      ),
    )
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { likelyCauses } from './causes'
import { chiSquareTail, erfc } from './chi-square'
import { solveScale, type ScaleInput } from './scale'
import { STANDARD_SIZES } from './standards'

const input = (id: string, mm: number, seen: number, sdMm = 0.5, sdSeen = 0.7): ScaleInput => ({
  id,
  mm,
  sdMm,
  seen,
  sdSeen,
})

describe('chi-square tail', () => {
  // Abramowitz & Stegun table 26.8: upper 5 % and 1 % points.
  it.each([
    [3.84146, 1, 0.05],
    [5.99147, 2, 0.05],
    [7.81473, 3, 0.05],
    [6.6349, 1, 0.01],
    [11.3449, 3, 0.01],
    [13.2767, 4, 0.01],
    [15.0863, 5, 0.01],
  ])('P(chi² > %f, %d) = %f', (x, n, p) => expect(chiSquareTail(x, n)).toBeCloseTo(p, 5))

  it('erfc agrees with published values', () => {
    // Abramowitz & Stegun table 7.1: erf(0.5), erf(1); erfc(2), erfc(3).
    expect(erfc(0.5)).toBeCloseTo(1 - 0.5204998778, 9)
    expect(erfc(1)).toBeCloseTo(1 - 0.8427007929, 9)
    expect(erfc(2)).toBeCloseTo(0.0046777349, 9)
    expect(erfc(3)).toBeCloseTo(0.0000220905, 9)
  })
})

describe('scale over several sizes', () => {
  const truth = 0.1333
  const sizes = (wrong: Record<string, number> = {}) =>
    [['height', 200], ['rim', 90], ['neck', 74]].map(([id, mm]) => input(id as string, (mm as number) * (wrong[id as string] ?? 1), (mm as number) / truth)) // prettier-ignore

  it('finds the scale and its error when all agree', () => {
    const s = solveScale(sizes())
    expect(s.scale).toBeCloseTo(truth, 9)
    expect(s.relativeSe).toBeGreaterThan(0.001)
    expect(s.relativeSe).toBeLessThan(0.004)
    expect([s.outlier, s.disagree, s.agreement > 0.9]).toEqual([null, false, true])
  })

  it.each(['height', 'rim', 'neck'])(
    'blames %s when it is 4 %% too large, though others have larger residuals',
    (id) => {
      const s = solveScale(sizes({ [id]: 1.04 }))
      expect(s.outlier).toBe(id)
    },
  )

  it('two that disagree are both doubted, none is blamed; one alone nothing checks', () => {
    const two = solveScale(sizes({ rim: 1.1 }).slice(0, 2))
    expect([two.outlier, two.disagree]).toEqual([null, true])
    const one = solveScale(sizes().slice(0, 1))
    expect([one.disagree, one.agreement, one.sizes[0]!.othersMm]).toEqual([false, 1, null])
  })

  it('small false alarms: about one in a hundred right triples is doubted', () => {
    let alarms = 0
    let seed = 1
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    const gauss = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random())
    for (let i = 0; i < 2000; i++) {
      const s = solveScale(
        sizes().map((x) => ({ ...x, mm: x.mm + 0.5 * gauss(), seen: x.seen + 0.7 * gauss() })),
      )
      if (s.outlier || s.disagree) alarms++
    }
    expect(alarms / 2000).toBeLessThan(0.02)
    expect(alarms).toBeGreaterThan(0)
  })

  it('does not depend on the unit (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-3, max: 1e3, noNaN: true }), (k) => {
        const a = solveScale(sizes({ rim: 1.03 }))
        const b = solveScale(sizes({ rim: 1.03 }).map((x) => ({ ...x, mm: x.mm * k, sdMm: x.sdMm * k })))
        expect(b.scale / a.scale / k).toBeCloseTo(1, 9)
        expect(b.outlier).toBe(a.outlier)
      }),
    )
  })
})

describe('likely causes', () => {
  // Common practice, no source: 30 typed for 33 beside a right 25.07 was noticed only at the end.
  const typed30 = { text: '30', mm: 30, kind: 'diameter' as const, radius: false }

  it('30 typed for 33 beside a right 25.07: both are doubted, and 33 is among the first causes offered', () => {
    const scale = 0.254
    const s = solveScale([input('wrong', 30, 33 / scale), input('right', 25.07, 25.07 / scale)])
    expect(s.disagree).toBe(true)
    const causes = likelyCauses(typed30, s.sizes[0]!.othersMm!, 'mm')
    expect(causes.slice(0, 2).map((c) => c.mm)).toContain(33)
  })

  it('with a third right size it is named', () => {
    const s = solveScale([
      input('wrong', 30, 33 / 0.254),
      input('right', 25.07, 25.07 / 0.254),
      input('third', 112, 112 / 0.254),
    ])
    expect(s.outlier).toBe('wrong')
  })

  it.each([
    ['a radius for a diameter', { ...typed30, text: '40 mm', mm: 40 }, 80, 80],
    ['swapped digits', { ...typed30, text: '54', mm: 54 }, 45.1, 45],
    ['a dropped digit', { ...typed30, text: '12', mm: 12 }, 112.3, 112],
    ['inches typed as millimetres', { ...typed30, text: '2', mm: 2, kind: 'length' as const }, 50.7, 50.8],
    ['a digit struck twice', { ...typed30, text: '445', mm: 445 }, 45, 45],
  ])('recognises %s', (_what, size, expected, mm) => {
    expect(likelyCauses(size, expected, 'mm').map((c) => c.mm)).toContain(mm)
  })

  it('offers nothing that doesn’t explain the disagreement', () => {
    for (const cause of likelyCauses(typed30, 61.7, 'mm'))
      expect(Math.abs(cause.mm / 61.7 - 1)).toBeLessThan(0.016)
  })
})

describe('standard sizes', () => {
  it('are those of the standards', () => {
    // ISO/IEC 7810 ID-1: 85.60 x 53.98 mm; ISO 216 A4: 210 x 297 mm.
    const of = (id: string) => STANDARD_SIZES.find((s) => s.id === id)!.mm
    expect([of('card-long'), of('card-short'), of('a4-short'), of('a4-long')]).toEqual([
      85.6, 53.98, 210, 297,
    ])
    expect(of('a4-long') / of('a4-short')).toBeCloseTo(Math.SQRT2, 2)
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { leastSquares, solveBanded, solvePositive } from './least-squares'

describe('least squares', () => {
  // Misra1a of NIST's Statistical Reference Datasets (nonlinear regression, "lower" difficulty): certified values.
  const y = [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78]
  const x = [77.6, 114.9, 141.1, 190.8, 239.9, 289, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760]
  const misra = ([b1, b2]: readonly number[], out: Float64Array) =>
    x.forEach((v, i) => (out[i] = b1! * (1 - Math.exp(-b2! * v)) - y[i]!))

  it.each([
    [500, 1e-4],
    [250, 5e-4],
  ])('finds NIST’s certified values of Misra1a from its start %d, %d', (b1, b2) => {
    const fit = leastSquares([b1, b2], x.length, misra, { steps: [1e-4, 1e-10], rounds: 200 })
    expect(fit.converged).toBe(true)
    expect(fit.parameters[0]! / 2.3894212918e2).toBeCloseTo(1, 6)
    expect(fit.parameters[1]! / 5.5015643181e-4).toBeCloseTo(1, 6)
    // Residual sum of squares 1.2455138894e-01; the cost is half of it.
    expect(2 * fit.cost).toBeCloseTo(1.2455138894e-1, 8)
    // Certified standard deviations, from the covariance for unit variance and the residual variance.
    const variance = (2 * fit.cost) / (x.length - 2)
    expect(Math.sqrt(variance * fit.covariance![0]!) / 2.7070075241).toBeCloseTo(1, 3)
    expect(Math.sqrt(variance * fit.covariance![3]!) / 7.2668688436e-6).toBeCloseTo(1, 3)
  })

  it('comes to the same by slopes that are known as by difference quotients', () => {
    const slopesOf = ([b1, b2]: readonly number[], jacobian: Float64Array) =>
      x.forEach((v, i) => jacobian.set([1 - Math.exp(-b2! * v), b1! * v * Math.exp(-b2! * v)], 2 * i))
    let asked = 0
    const counted = (p: readonly number[], out: Float64Array) => (asked++, misra(p, out))
    const steps = [1e-4, 1e-10]
    const plain = leastSquares([250, 5e-4], x.length, counted, { steps })
    const byQuotients = asked
    asked = 0
    const known = leastSquares([250, 5e-4], x.length, counted, { steps, slopesOf })
    known.parameters.forEach((v, i) => expect(v / plain.parameters[i]!).toBeCloseTo(1, 6))
    expect(asked).toBeLessThan(byQuotients / 2)
  })

  it('with Huber’s bound a few wild points hardly bend a line', () => {
    const points = Array.from({ length: 40 }, (_, i) => ({ u: i, v: 3 + 0.5 * i + 0.1 * Math.sin(7 * i) + (i % 10 === 3 ? 30 : 0) })) // prettier-ignore
    const line = ([a, b]: readonly number[], out: Float64Array) =>
      points.forEach(({ u, v }, i) => (out[i] = (a! + b! * u - v) / 0.1))
    const options = { steps: [1e-6, 1e-6], rounds: 200 }
    const robust = leastSquares([0, 0], points.length, line, { ...options, huber: 2 }).parameters
    expect(Math.abs(robust[0]! - 3)).toBeLessThan(0.1)
    expect(Math.abs(robust[1]! - 0.5)).toBeLessThan(0.004)
    const plain = leastSquares([0, 0], points.length, line, options).parameters
    expect(Math.abs(plain[0]! - 3)).toBeGreaterThan(1)
  })

  it('says that it can’t start from nonsense', () => {
    const bad = (_: readonly number[], out: Float64Array) => out.fill(NaN)
    expect(() => leastSquares([1], 3, bad, { steps: [1e-6] })).toThrow(/can’t start/)
  })

  it('knows no covariance where a parameter says nothing', () => {
    const line = ([a]: readonly number[], out: Float64Array) => out.fill(a! - 2)
    expect(leastSquares([0, 5], 4, line, { steps: [1e-6, 1e-6] }).covariance).toBeNull()
  })
})

describe('equations with a positive matrix', () => {
  const entries = (n: number) =>
    fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: n, maxLength: n })

  it('are solved: the matrix times the solution is the right-hand side (property)', () => {
    fc.assert(
      fc.property(entries(16), entries(4), (m, b) => {
        // M Mᵀ + 1 is positive, whatever M.
        const a = new Float64Array(16)
        for (let i = 0; i < 4; i++)
          for (let j = 0; j < 4; j++) {
            a[4 * i + j] = i === j ? 1 : 0
            for (let k = 0; k < 4; k++) a[4 * i + j]! += m[4 * i + k]! * m[4 * j + k]!
          }
        const solved = solvePositive(a, b, 4)!
        for (let i = 0; i < 4; i++) {
          let sum = 0
          for (let j = 0; j < 4; j++) sum += a[4 * i + j]! * solved[j]!
          expect(sum).toBeCloseTo(b[i]!, 8)
        }
      }),
    )
  })

  it('that isn’t positive aren’t', () => {
    expect(solvePositive(Float64Array.of(1, 2, 2, 1), [1, 1], 2)).toBeNull()
    expect(solvePositive(Float64Array.of(0, 0, 0, 0), [1, 1], 2)).toBeNull()
  })

  it('by its few diagonals come to the same as in full (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 12 }).chain((n) => fc.tuple(fc.constant(n), entries(2 * n), entries(n))),
        ([n, aside, right]) => {
          const w = 2
          const band = new Float64Array(n * (w + 1))
          const full = new Float64Array(n * n)
          for (let i = 0; i < n; i++)
            for (let d = 0; d <= w && d <= i; d++) {
              // Rows dominated by their diagonals are positive.
              const v = d === 0 ? 15 : aside[2 * i + d - 1]!
              band[i * (w + 1) + d] = v
              full[i * n + (i - d)] = v
              full[(i - d) * n + i] = v
            }
          const x = Float64Array.from(right)
          expect(solveBanded(band, w, [x])).toBe(true)
          solvePositive(full, right, n)!.forEach((v, i) => expect(x[i]).toBeCloseTo(v, 9))
        },
      ),
    )
    expect(solveBanded(Float64Array.of(-1, 0, 1, 0), 1, [new Float64Array(2)])).toBe(false)
  })
})

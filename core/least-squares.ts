import { CoreError } from './errors'

export interface LeastSquaresOptions {
  /** Steps for the difference quotients, one a parameter, in its unit; the fit has settled when it moves by less than a thousandth. */
  steps: readonly number[]
  /** Writes how the residuals change with the parameters, row by row, where that is known without difference quotients. */
  slopesOf?: (parameters: readonly number[], jacobian: Float64Array) => void
  /** Tries at most. Default 60. */
  rounds?: number
  /** Residuals beyond this count less and less (Huber 1964), in their own unit. Default: none do. */
  huber?: number
}

export interface LeastSquaresFit {
  parameters: number[]
  residuals: Float64Array
  /** Half the sum of squares at the end. */
  cost: number
  /** Covariance of the parameters for residuals of unit variance, row by row; null when they aren't determined. */
  covariance: Float64Array | null
  converged: boolean
}

/**
 * Levenberg-Marquardt for a few parameters (Marquardt 1963), Jacobian by central differences unless it is given. Residuals come in units
 * of their standard deviation, so that the covariance is that of the parameters.
 * @param residualsOf writes the residuals for the parameters into `out`; must be finite near the solution
 * @throws CoreError `fit-not-finite` when it isn't at the start
 */
export function leastSquares(
  start: readonly number[],
  count: number,
  residualsOf: (parameters: readonly number[], out: Float64Array) => void,
  options: LeastSquaresOptions,
): LeastSquaresFit {
  const { steps, slopesOf, rounds = 60, huber = Infinity } = options
  const n = start.length
  let x = [...start]
  let r = new Float64Array(count)
  residualsOf(x, r)
  let cost = costOf(r, huber)
  if (!Number.isFinite(cost)) {
    throw new CoreError({
      code: 'fit-not-finite',
      message: 'The fit can’t start: its first guess is no good.',
    })
  }
  let plus = new Float64Array(count)
  const minus = new Float64Array(count)
  const jacobian = new Float64Array(count * n)
  const normal = new Float64Array(n * n)
  const damped = new Float64Array(n * n)
  const gradient = new Float64Array(n)
  let lambda = 1e-3
  let converged = false
  for (let round = 0; round < rounds && !converged; round++) {
    normal.fill(0)
    gradient.fill(0)
    if (slopesOf) slopesOf(x, jacobian)
    else for (let j = 0; j < n; j++) quotients(x, j, steps[j]!, residualsOf, [plus, minus], jacobian)
    for (let i = 0; i < count; i++) {
      const off = r[i]!
      const size = Math.abs(off)
      const w = size <= huber ? 1 : huber / size
      const row = i * n
      for (let j = 0; j < n; j++) {
        const wj = w * jacobian[row + j]!
        gradient[j]! += wj * off
        for (let k = 0; k <= j; k++) normal[j * n + k]! += wj * jacobian[row + k]!
      }
    }
    for (let j = 0; j < n; j++) for (let k = 0; k < j; k++) normal[k * n + j] = normal[j * n + k]!
    let accepted = false
    while (!accepted && lambda < 1e12) {
      damped.set(normal)
      for (let j = 0; j < n; j++) damped[j * n + j]! *= 1 + lambda
      const step = solvePositive(damped, gradient, n)
      if (step) {
        const next = x.map((v, j) => v - step[j]!)
        residualsOf(next, plus)
        const nextCost = costOf(plus, huber)
        if (nextCost <= cost) {
          converged = cost - nextCost <= 1e-8 * cost || step.every((s, j) => Math.abs(s) < 1e-3 * steps[j]!)
          x = next
          ;[r, plus] = [plus, r]
          cost = nextCost
          lambda = Math.max(1e-12, lambda / 8)
          accepted = true
          continue
        }
      }
      lambda *= 6
    }
    // No step helps any more: as low as it gets.
    if (!accepted) converged = true
  }
  return { parameters: x, residuals: r, cost, covariance: inversePositive(normal, n), converged }
}

/**
 * Central differences of all residuals in one parameter, over a step each way, into its column of the Jacobian.
 * @param scratch room for the residuals on either side
 */
export function quotients(
  x: readonly number[],
  j: number,
  step: number,
  residualsOf: (parameters: readonly number[], out: Float64Array) => void,
  [plus, minus]: readonly [Float64Array, Float64Array],
  jacobian: Float64Array,
): void {
  const y = [...x]
  y[j] = x[j]! + step
  residualsOf(y, plus)
  y[j] = x[j]! - step
  residualsOf(y, minus)
  for (let i = 0; i < plus.length; i++) jacobian[i * x.length + j] = (plus[i]! - minus[i]!) / (2 * step)
}

function costOf(r: Float64Array, huber: number): number {
  let sum = 0
  for (const v of r) {
    const a = Math.abs(v)
    sum += a <= huber ? 0.5 * v * v : huber * (a - 0.5 * huber)
  }
  return sum
}

/** Room for the factors of small matrices, which thousands of fits a picture ask for. */
const FACTOR = new Float64Array(12 ** 2)

/**
 * Cholesky factor of a symmetric positive matrix, its lower half only, or null; that of a small one stays until the next is asked for.
 * A pivot below 1e-13 of its diagonal is rounding.
 */
function cholesky(a: Float64Array, n: number): Float64Array | null {
  const l = n * n <= FACTOR.length ? FACTOR : new Float64Array(n * n)
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = a[i * n + j]!
      for (let k = 0; k < j; k++) sum -= l[i * n + k]! * l[j * n + k]!
      if (i === j) {
        if (!(sum > 1e-13 * a[i * n + i]!)) return null
        l[i * n + i] = Math.sqrt(sum)
      } else l[i * n + j] = sum / l[j * n + j]!
    }
  }
  return l
}

/** Solves a x = b for a symmetric positive matrix; null when it isn't. */
export function solvePositive(a: Float64Array, b: ArrayLike<number>, n: number): Float64Array | null {
  const l = cholesky(a, n)
  if (!l) return null
  const x = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    let sum = b[i]!
    for (let k = 0; k < i; k++) sum -= l[i * n + k]! * x[k]!
    x[i] = sum / l[i * n + i]!
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = x[i]!
    for (let k = i + 1; k < n; k++) sum -= l[k * n + i]! * x[k]!
    x[i] = sum / l[i * n + i]!
  }
  return x
}

/**
 * Solves a x = b for a symmetric positive matrix with few diagonals, by Cholesky's way within the band; null when it isn't
 * positive. Right-hand sides become the solutions.
 * @param band lower diagonals row by row: band[i (w + 1) + d] is a[i, i - d], w diagonals beside the main one
 */
export function solveBanded(band: Float64Array, w: number, right: readonly Float64Array[]): boolean {
  const n = band.length / (w + 1)
  const at = (i: number, j: number) => i * (w + 1) + (i - j)
  for (let i = 0; i < n; i++)
    for (let j = Math.max(0, i - w); j <= i; j++) {
      let sum = band[at(i, j)]!
      for (let k = Math.max(0, i - w); k < j; k++) sum -= band[at(i, k)]! * band[at(j, k)]!
      if (i > j) band[at(i, j)] = sum / band[at(j, j)]!
      else if (sum > 0) band[at(i, i)] = Math.sqrt(sum)
      else return false
    }
  for (const x of right) {
    for (let i = 0; i < n; i++) {
      for (let k = Math.max(0, i - w); k < i; k++) x[i]! -= band[at(i, k)]! * x[k]!
      x[i]! /= band[at(i, i)]!
    }
    for (let i = n - 1; i >= 0; i--) {
      for (let k = i + 1; k <= Math.min(n - 1, i + w); k++) x[i]! -= band[at(k, i)]! * x[k]!
      x[i]! /= band[at(i, i)]!
    }
  }
  return true
}

function inversePositive(a: Float64Array, n: number): Float64Array | null {
  const out = new Float64Array(n * n)
  for (let j = 0; j < n; j++) {
    const e = new Float64Array(n)
    e[j] = 1
    const column = solvePositive(a, e, n)
    if (!column) return null
    for (let i = 0; i < n; i++) out[i * n + j] = column[i]!
  }
  return out
}

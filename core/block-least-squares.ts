import { solvePositive } from './least-squares'

/** Residuals that depend on a few parameters only. */
export interface Block {
  count: number
  parameters: number[]
  residuals: (x: ArrayLike<number>, out: Float64Array) => void
  /** Called with the parameters that were accepted. */
  accept?: (x: ArrayLike<number>) => void
}

const MOST_ROUNDS = 7
/** A round that lowers the cost by less than this share is the last. */
const SETTLED = 1e-3

/**
 * Levenberg-Marquardt (Marquardt 1963) for many parameters of which every residual knows only a few: each block is asked
 * for its own parameters' derivatives alone, by forward differences, where `leastSquares` asks every residual for every
 * parameter's. For a curve of twenty runs that is a tenth of the work.
 * @param steps for the difference quotients, one a parameter, in its unit
 * @returns the parameters after a few rounds
 */
export function leastSquaresInBlocks(
  start: readonly number[],
  blocks: readonly Block[],
  steps: readonly number[],
): Float64Array {
  const n = start.length
  let x = Float64Array.from(start)
  const values = blocks.map((b) => new Float64Array(b.count))
  const moved = blocks.map((b) => new Float64Array(b.count))
  const slopes = blocks.map((b) => new Float64Array(b.count * b.parameters.length))
  const costOf = (at: Float64Array, out: Float64Array[]) => {
    let sum = 0
    blocks.forEach((block, k) => {
      block.residuals(at, out[k]!)
      for (const v of out[k]!) sum += v * v
    })
    return sum
  }
  blocks.forEach((b) => b.accept?.(x))
  let cost = costOf(x, values)
  let lambda = 1e-3
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const normal = new Float64Array(n * n)
    const gradient = new Float64Array(n)
    const y = x.slice()
    blocks.forEach(({ parameters, count, residuals }, k) => {
      const [now, other, slope] = [values[k]!, moved[k]!, slopes[k]!]
      parameters.forEach((j, a) => {
        y[j] = x[j]! + steps[j]!
        residuals(y, other)
        y[j] = x[j]!
        const scale = 1 / steps[j]!
        const at = a * count
        let down = 0
        for (let i = 0; i < count; i++) {
          const v = (other[i]! - now[i]!) * scale
          slope[at + i] = v
          down += v * now[i]!
        }
        gradient[j]! += down
        for (let b = 0; b <= a; b++) {
          let sum = 0
          for (let i = 0; i < count; i++) sum += slope[at + i]! * slope[b * count + i]!
          normal[j * n + parameters[b]!]! += sum
          if (b < a) normal[parameters[b]! * n + j]! += sum
        }
      })
    })
    // Parameters that nothing depends on stay where they are.
    for (let j = 0; j < n; j++) if (normal[j * n + j] === 0) normal[j * n + j] = 1
    let done = true
    while (lambda < 1e9) {
      const damped = normal.slice()
      for (let j = 0; j < n; j++) damped[j * n + j]! *= 1 + lambda
      const step = solvePositive(damped, gradient, n)
      const next = step && x.map((v, j) => v - step[j]!)
      const nextCost = next ? costOf(next, moved) : Infinity
      if (nextCost < cost) {
        done = cost - nextCost < SETTLED * cost
        x = next!
        lambda = Math.max(1e-9, lambda / 10)
        blocks.forEach((b) => b.accept?.(x))
        cost = costOf(x, values)
        break
      }
      lambda *= 10
    }
    if (done) break
  }
  return x
}

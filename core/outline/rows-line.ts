import type { Run } from './silhouette'

/** A straight line through values a row apart. */
export interface RowsLine {
  mean: number
  /** How much it grows each row. */
  slope: number
  at: (row: number) => number
}

/** The line through the values of some rows, by least squares. */
export function lineThroughRows(values: Float32Array, { from, to }: Run): RowsLine {
  const within = values.subarray(from, to)
  const mean = within.reduce((sum, v) => sum + v, 0) / within.length
  const middle = (from + to - 1) / 2
  let [xy, xx] = [0, 0]
  within.forEach((v, i) => {
    const x = from + i - middle
    xy += x * (v - mean)
    xx += x * x
  })
  const slope = xy / xx
  return { mean, slope, at: (row) => mean + slope * (row - middle) }
}

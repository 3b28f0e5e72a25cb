/** Marks stand from so many places apart, to so many, … */
const LEAST_APART = 3
const MOST_APART = 30
/** … and there are so many at least. */
const LEAST_MARKS = 14
/** What changes more slowly than over so many places on either side is none; larger changes than this, 8-bit codes, count as this. */
const SMOOTH = 15
const MOST_CODES = 60
/** Values with marks change by this many codes (rms), are so like themselves one mark on, and unlike themselves half-way there. */
const LEAST_CODES = 3
const LIKE_ITSELF = 0.75
const HALF_WAY = 0.1

/**
 * Whether values, one a place, show marks at even distances, as along a ruler: their autocorrelation has a peak at the marks' distance
 * (every fifth or tenth may be longer), and none half-way.
 * @param values 8-bit codes
 */
export function hasEvenMarks(values: Float32Array): boolean {
  const n = values.length
  const most = Math.min(MOST_APART, Math.floor(n / LEAST_MARKS))
  if (most < LEAST_APART) return false
  const changes = withoutSlow(values)
  const power = changes.reduce((sum, v) => sum + v * v, 0)
  if (Math.sqrt(power / n) < LEAST_CODES) return false
  const likeness = Array.from({ length: most + 2 }, (_, lag) => {
    let sum = 0
    for (let i = 0; i + lag < n; i++) sum += changes[i]! * changes[i + lag]!
    return sum / power
  })
  return likeness.some(
    (v, lag) =>
      lag >= LEAST_APART &&
      lag <= most &&
      v >= LIKE_ITSELF &&
      v >= likeness[lag - 1]! &&
      v >= likeness[lag + 1]! &&
      likeness[Math.round(lag / 2)]! <= HALF_WAY &&
      isThroughout(changes, lag, power / n),
  )
}

/** Marks stand in this share of the parts that values are cut into, each of so many marks. */
const MOST_PARTS = 0.5
const MARKS_A_PART = 3
/** … whose power is this share of the usual one at least. */
const LEAST_POWER = 0.2

/** Whether changes are marks so many places apart all along, not only in a stretch: a few rings of a piece. */
function isThroughout(changes: Float32Array, apart: number, meanPower: number): boolean {
  const length = MARKS_A_PART * apart
  const parts = Array.from({ length: Math.floor((changes.length - apart) / length) }, (_, k) => k * length)
  const marked = parts.filter((from) => {
    let [power, like] = [0, 0]
    for (let i = from; i < from + length; i++) {
      power += changes[i]! ** 2
      like += changes[i]! * changes[i + apart]!
    }
    return power >= LEAST_POWER * meanPower * length && like >= (LIKE_ITSELF / 2) * power
  })
  return marked.length >= MOST_PARTS * parts.length
}

function withoutSlow(values: Float32Array): Float32Array {
  const n = values.length
  const sums = new Float64Array(n + 1)
  values.forEach((v, i) => (sums[i + 1] = sums[i]! + v))
  return values.map((v, i) => {
    const [from, to] = [Math.max(0, i - SMOOTH), Math.min(n, i + SMOOTH + 1)]
    return Math.max(-MOST_CODES, Math.min(MOST_CODES, v - (sums[to]! - sums[from]!) / (to - from)))
  })
}

/**
 * Probability that a sum of squares of `n` standard normal values exceeds `x`: the regularised upper incomplete gamma
 * function Q(n/2, x/2), by its finite sum for the few degrees of freedom that sizes have (Abramowitz & Stegun 26.4.4-5).
 */
export function chiSquareTail(x: number, n: number): number {
  if (!(x > 0) || n < 1) return 1
  const h = x / 2
  if (n % 2 === 0) {
    let term = 1
    let sum = 1
    for (let k = 1; k < n / 2; k++) {
      term *= h / k
      sum += term
    }
    return Math.min(1, Math.exp(-h) * sum)
  }
  const root = Math.sqrt(x)
  let term = root
  let sum = n > 1 ? root : 0
  for (let k = 3; k <= n - 2; k += 2) {
    term *= x / k
    sum += term
  }
  return Math.min(1, erfc(root / Math.SQRT2) + Math.sqrt(2 / Math.PI) * Math.exp(-h) * sum)
}

/** Complementary error function by its continued fraction and series, relative error below 1e-10. */
export function erfc(z: number): number {
  if (z < 2) {
    let term = z
    let sum = z
    for (let k = 1; k < 60; k++) {
      term *= (-z * z) / k
      sum += term / (2 * k + 1)
    }
    return 1 - (2 / Math.sqrt(Math.PI)) * sum
  }
  let fraction = 0
  for (let k = 60; k > 0; k--) fraction = k / 2 / (z + fraction)
  return Math.exp(-z * z) / Math.sqrt(Math.PI) / (z + fraction)
}

/** Seeded random numbers (mulberry32) and value noise; the same seed always gives the same picture. */
export function random(seed: number): () => number {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = a
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** Two independent normal deviates (Box-Muller). */
export function gaussPair(next: () => number): [number, number] {
  const r = Math.sqrt(-2 * Math.log(1 - next()))
  const a = 2 * Math.PI * next()
  return [r * Math.cos(a), r * Math.sin(a)]
}

/** Hash of whole coordinates to 0..1. */
export function hash(x: number, y: number, z: number, seed: number): number {
  let h =
    Math.imul(x | 0, 0x27d4eb2d) ^
    Math.imul(y | 0, 0x165667b1) ^
    Math.imul(z | 0, 0x9e3779b1) ^
    Math.imul(seed | 0, 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d)
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39)
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296
}

/** Smooth value noise in three dimensions, 0..1. */
export function noise(x: number, y: number, z: number, seed: number): number {
  const xi = Math.floor(x)
  const yi = Math.floor(y)
  const zi = Math.floor(z)
  const fade = (t: number) => t * t * (3 - 2 * t)
  const u = fade(x - xi)
  const v = fade(y - yi)
  const w = fade(z - zi)
  let sum = 0
  for (let k = 0; k < 8; k++) {
    const [dx, dy, dz] = [k & 1, (k >> 1) & 1, k >> 2]
    sum += hash(xi + dx, yi + dy, zi + dz, seed) * (dx ? u : 1 - u) * (dy ? v : 1 - v) * (dz ? w : 1 - w)
  }
  return sum
}

/** Several octaves of noise, 0..1. */
export function fractal(x: number, y: number, z: number, seed: number, octaves = 4): number {
  let sum = 0
  let total = 0
  let amplitude = 1
  for (let o = 0; o < octaves; o++) {
    sum += amplitude * noise(x, y, z, seed + o)
    total += amplitude
    amplitude /= 2
    x *= 2.03
    y *= 2.03
    z *= 2.03
  }
  return sum / total
}

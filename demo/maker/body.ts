import type { Chain } from './shape'
import type { Vec } from './vector'

/** What a ray meets first. */
export interface Hit {
  t: number
  normal: Vec
  material: number
}

const BUCKETS = 96
/** Rays start this far from the surface they leave, mm. */
const CLEAR = 1e-6

/** A surface of revolution that rays can be shot at: one cone frustum a chord, sorted into slices by height. */
export class Body {
  readonly radius: number
  readonly low: number
  readonly high: number
  /** Of the disc that it stands on. */
  readonly footRadius: number
  private buckets: Int32Array[]
  private lastT = 0
  private lastChord = -1

  constructor(readonly chain: Chain) {
    const { r, z } = chain
    this.radius = Math.max(...r)
    this.low = Math.min(...z)
    this.high = Math.max(...z)
    const low = this.low + 1e-9
    this.footRadius = r.reduce((widest, value, i) => (z[i]! <= low ? Math.max(widest, value) : widest), 0)
    const lists: number[][] = Array.from({ length: BUCKETS }, () => [])
    for (let k = 0; k + 1 < r.length; k++) {
      const a = this.bucket(Math.min(z[k]!, z[k + 1]!))
      const b = this.bucket(Math.max(z[k]!, z[k + 1]!))
      for (let i = a; i <= b; i++) lists[i]!.push(k)
    }
    this.buckets = lists.map((l) => Int32Array.from(l))
  }

  private bucket(z: number): number {
    const i = Math.floor(((z - this.low) / (this.high - this.low)) * BUCKETS)
    return Math.min(BUCKETS - 1, Math.max(0, i))
  }

  /** Parameter of the first hit along unit direction d, or Infinity. */
  distance(o: Vec, d: Vec): number {
    this.find(o, d)
    return this.lastT
  }

  /** The first hit with its normal (towards the outside of the material), or null. */
  hit(o: Vec, d: Vec): Hit | null {
    this.find(o, d)
    const k = this.lastChord
    if (k < 0) return null
    const t = this.lastT
    const x = o[0] + t * d[0]
    const y = o[1] + t * d[1]
    const z = o[2] + t * d[2]
    const { r: R, z: Z, startNormal: a, endNormal: b, material } = this.chain
    const dr = R[k + 1]! - R[k]!
    const dz = Z[k + 1]! - Z[k]!
    const rho = Math.hypot(x, y)
    const s = Math.min(1, Math.max(0, ((rho - R[k]!) * dr + (z - Z[k]!) * dz) / (dr * dr + dz * dz)))
    let nr = a[2 * k]! + s * (b[2 * k]! - a[2 * k]!)
    let nz = a[2 * k + 1]! + s * (b[2 * k + 1]! - a[2 * k + 1]!)
    const l = Math.hypot(nr, nz)
    nr /= l
    nz /= l
    const inv = rho > 0 ? 1 / rho : 0
    return { t, normal: [nr * x * inv, nr * y * inv, nz], material: material[k]! }
  }

  private find(o: Vec, d: Vec): void {
    this.lastT = Infinity
    this.lastChord = -1
    const A = d[0] * d[0] + d[1] * d[1]
    const B = o[0] * d[0] + o[1] * d[1]
    const C = o[0] * o[0] + o[1] * o[1] - this.radius * this.radius
    let t0 = CLEAR
    let t1 = Infinity
    if (A > 0) {
      const disc = B * B - A * C
      if (disc < 0) return
      const q = Math.sqrt(disc)
      t0 = Math.max(t0, (-B - q) / A)
      t1 = (-B + q) / A
    } else if (C > 0) return
    if (d[2] !== 0) {
      const a = (this.low - o[2]) / d[2]
      const b = (this.high - o[2]) / d[2]
      t0 = Math.max(t0, Math.min(a, b) - CLEAR)
      t1 = Math.min(t1, Math.max(a, b) + CLEAR)
    } else if (o[2] < this.low || o[2] > this.high) return
    if (t1 < t0) return
    const za = this.bucket(o[2] + t0 * d[2])
    const zb = this.bucket(o[2] + t1 * d[2])
    // In the direction of travel, so that the first slice with a hit inside it ends the search.
    const step = zb >= za ? 1 : -1
    for (let i = za; ; i += step) {
      const list = this.buckets[i]!
      for (let j = 0; j < list.length; j++) this.tryChord(list[j]!, o, d)
      if (i === zb) return
      if (this.lastChord >= 0 && this.bucket(o[2] + this.lastT * d[2]) * step <= i * step) return
    }
  }

  private tryChord(k: number, o: Vec, d: Vec): void {
    const { r: R, z: Z } = this.chain
    const z0 = Z[k]!
    const z1 = Z[k + 1]!
    const r0 = R[k]!
    const r1 = R[k + 1]!
    if (z0 === z1) {
      if (d[2] === 0) return
      const t = (z0 - o[2]) / d[2]
      if (t <= CLEAR || t >= this.lastT) return
      const x = o[0] + t * d[0]
      const y = o[1] + t * d[1]
      const rho2 = x * x + y * y
      const lo = Math.min(r0, r1)
      const hi = Math.max(r0, r1)
      if (rho2 >= lo * lo && rho2 <= hi * hi) this.take(t, k)
      return
    }
    // Cone r = p + q z through both ends: x² + y² = (p + q z)².
    const q = (r1 - r0) / (z1 - z0)
    const g = r0 + q * (o[2] - z0)
    const a = d[0] * d[0] + d[1] * d[1] - q * q * d[2] * d[2]
    const b = o[0] * d[0] + o[1] * d[1] - q * d[2] * g
    const c = o[0] * o[0] + o[1] * o[1] - g * g
    const disc = b * b - a * c
    if (disc < 0) return
    const w = b < 0 ? -b + Math.sqrt(disc) : -b - Math.sqrt(disc)
    const lo = Math.min(z0, z1)
    const hi = Math.max(z0, z1)
    for (let i = 0; i < 2; i++) {
      const t = i === 0 ? w / a : c / w
      if (!(t > CLEAR && t < this.lastT)) continue
      const z = o[2] + t * d[2]
      if (z < lo || z > hi || g + q * t * d[2] < 0) continue
      this.take(t, k)
    }
  }

  private take(t: number, k: number): void {
    this.lastT = t
    this.lastChord = k
  }
}

import { CoreError } from '../errors'
import type { ShadingBuffers } from './shading'

/** A body pressed out of round between two heights, mm. */
export interface Squeeze {
  fromMm: number
  toMm: number
  /** Over this much height, above and below, it goes over into the round. */
  blendMm: number
  /** Its width along +x and along +y, as shares of its ⌀. */
  across: number
  deep: number
  /** How square it is: 0 is round, 1 nearly a square whose sides touch the circle. */
  square: number
}

/** Exponent of the superellipse of the squarest: 2 is a circle, infinity a square. */
const SQUAREST = 12

/** Levels at which a profile needs rows, so that the squeeze has something to move. */
export function squeezeLevels({ fromMm, toMm, blendMm }: Squeeze): number[] {
  const between = (a: number, b: number, steps: number) => Array.from({ length: steps + 1 }, (_, k) => a + ((b - a) * k) / steps) // prettier-ignore
  return [
    ...(blendMm > 0 ? between(fromMm - blendMm, fromMm, ROWS) : []),
    fromMm,
    toMm,
    ...(blendMm > 0 ? between(toMm, toMm + blendMm, ROWS) : []),
  ]
}
const ROWS = 12

/** @throws CoreError `squeeze` for heights and shares that make no sense */
export function requireSqueeze({ fromMm, toMm, blendMm, across, deep, square }: Squeeze): void {
  if (!(toMm >= fromMm)) throw fault('Its upper height must not lie below its lower one.')
  if (!(blendMm >= 0)) throw fault('It goes over into the round within 0 mm or more.')
  if (!(across > 0 && deep > 0)) throw fault('Its widths must be more than 0.')
  if (!(square >= 0 && square <= 1)) throw fault('How square it is lies between 0 and 1.')
}
const fault = (message: string) => new CoreError({ code: 'squeeze', message })

/** How much of the squeeze acts at a height: all of it between its levels, smoothly less beyond. */
function weightAt({ fromMm, toMm, blendMm }: Squeeze, z: number): number {
  const beyond = Math.max(fromMm - z, z - toMm, 0)
  if (beyond === 0) return 1
  if (beyond >= blendMm) return 0
  const t = 1 - beyond / blendMm
  return t * t * (3 - 2 * t)
}

/** Where a point of the round body goes. */
export function squeezePoint(s: Squeeze, x: number, y: number, z: number): [number, number, number] {
  const w = weightAt(s, z)
  if (w === 0) return [x, y, z]
  const r = Math.hypot(x, y)
  let out = 1
  if (s.square > 0 && r > 0) {
    const n = 2 + (SQUAREST - 2) * s.square * w
    out = (Math.abs(x / r) ** n + Math.abs(y / r) ** n) ** (-1 / n)
  }
  return [x * out * (1 + w * (s.across - 1)), y * out * (1 + w * (s.deep - 1)), z]
}

/** Area of a section of the squeezed body over that of the round one, at full weight: 4 Γ(1+1/n)² / Γ(1+2/n) / π for superellipses. */
export function squeezeArea({ across, deep, square }: Squeeze): number {
  const n = 2 + (SQUAREST - 2) * square
  return (across * deep * superellipseArea(n)) / Math.PI
}

/** Levels of the table of shares, and corners of the curve that each is reckoned from. */
const SHARE_LEVELS = 1024
const SHARE_CORNERS = 256

/**
 * Area of the sections of a squeezed body over those of the round one, by height, whatever squeezes act one after the other: a section is
 * squeezed alike at all radii, so the unit circle tells for inside and outside. From a table, linear between its levels.
 */
export function squeezeShare(squeezes: readonly Squeeze[]): (z: number) => number {
  if (squeezes.length === 0) return () => 1
  const low = Math.min(...squeezes.map((s) => s.fromMm - s.blendMm))
  const high = Math.max(...squeezes.map((s) => s.toMm + s.blendMm))
  const step = (high - low) / SHARE_LEVELS || 1
  const table = Float64Array.from({ length: SHARE_LEVELS + 1 }, (_, k) => shareAt(squeezes, low + k * step))
  return (z) => {
    if (z < low || z > high) return 1
    const at = (z - low) / step
    const k = Math.min(SHARE_LEVELS - 1, Math.floor(at))
    return table[k]! + (at - k) * (table[k + 1]! - table[k]!)
  }
}

function shareAt(squeezes: readonly Squeeze[], z: number): number {
  const corner = (k: number) => {
    const a = (2 * Math.PI * k) / SHARE_CORNERS
    return squeezes.reduce(([x, y], s) => squeezePoint(s, x, y, z), [Math.cos(a), Math.sin(a), z] as [
      number,
      number,
      number,
    ])
  }
  let twice = 0
  for (let k = 0; k < SHARE_CORNERS; k++) {
    const [[a, b], [c, d]] = [corner(k), corner(k + 1)]
    twice += a * d - c * b
  }
  // Against the circle with as many corners, so that what both lack cancels.
  return twice / (SHARE_CORNERS * Math.sin((2 * Math.PI) / SHARE_CORNERS))
}

const AREA_STEPS = 4096
function superellipseArea(n: number): number {
  let sum = 0
  for (let k = 0; k < AREA_STEPS; k++) {
    const a = ((k + 0.5) / AREA_STEPS) * (Math.PI / 2)
    sum += (Math.cos(a) ** n + Math.sin(a) ** n) ** (-2 / n) / 2
  }
  return (4 * sum * (Math.PI / 2)) / AREA_STEPS
}

/** Steps for slopes, mm: well above float32's grain, well below any detail. */
const STEP = 1e-2

/** A round body's buffers squeezed; normals follow by the slopes of the move (the inverse transpose of its Jacobian). */
export function squeezed(buffers: ShadingBuffers, squeezes: readonly Squeeze[]): ShadingBuffers {
  const move = (x: number, y: number, z: number) =>
    squeezes.reduce<[number, number, number]>((p, s) => squeezePoint(s, ...p), [x, y, z])
  const positions = new Float32Array(buffers.positions.length)
  const normals = new Float32Array(buffers.normals.length)
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [buffers.positions[i]!, buffers.positions[i + 1]!, buffers.positions[i + 2]!]
    positions.set(move(x, y, z), i)
    const n = [buffers.normals[i]!, buffers.normals[i + 1]!, buffers.normals[i + 2]!] as const
    const columns = [
      slope(move(x + STEP, y, z), move(x - STEP, y, z)),
      slope(move(x, y + STEP, z), move(x, y - STEP, z)),
      slope(move(x, y, z + STEP), move(x, y, z - STEP)),
    ] as const
    // The cofactors of J take a normal along; its length is made 1 again.
    const [a, b, c] = columns
    const moved = [cross(b, c), cross(c, a), cross(a, b)] as const
    const out = [0, 1, 2].map((k) => n[0] * moved[0][k]! + n[1] * moved[1][k]! + n[2] * moved[2][k]!)
    const size = Math.hypot(...out) || 1
    normals.set(out.map((v) => v / size), i) // prettier-ignore
  }
  return { ...buffers, positions, normals }
}

type Vec = [number, number, number]
const slope = (p: Vec, q: Vec): Vec => [p[0] - q[0], p[1] - q[1], p[2] - q[2]]
const cross = (u: Vec, v: Vec): Vec => [
  u[1] * v[2] - u[2] * v[1],
  u[2] * v[0] - u[0] * v[2],
  u[0] * v[1] - u[1] * v[0],
]

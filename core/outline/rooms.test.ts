import { describe, expect, it } from 'vitest'
import { findOutline } from './find-outline'
import { misses, paint } from './test-pictures'

const [WIDTH, HEIGHT, MIDDLE, TOP, FOOT, HALF] = [600, 800, 300, 180, 640, 110]
const HORIZON = 480
/** A tumbler. */
const half = (y: number) => HALF - 0.08 * (y - TOP)
const distance = (x: number, y: number) => Math.max(Math.abs(x - MIDDLE) - half(y), TOP - y, y - FOOT)

/** Striped paper about even with the piece's middle, whose lines are as clear as its edges. */
const paper = (x: number) => (((x - MIDDLE + 1000) / 22) & 1 ? [0.45, 0.38, 0.2] : [0.28, 0.28, 0.33])
/** A ruled floor, whose lines run away from the camera. */
function ruled(x: number, y: number) {
  const depth = (y - HORIZON + 160) / 160
  const across = (x - MIDDLE) / (34 * depth)
  return Math.abs(across - Math.round(across)) < 0.05 ? [0.5, 0.55, 0.4] : [0.02, 0.12, 0.1]
}
const room = (inside: (x: number, y: number) => number[]) =>
  paint(WIDTH, HEIGHT, distance, { inside, outside: (x, y) => (y < HORIZON ? paper(x) : ruled(x, y)), grain: 2 }) // prettier-ignore

describe('a piece in a room whose lines lie evenly about it', () => {
  it.each([
    ['of one colour', () => [0.4, 0.1, 0.06]],
    ['checked', (x: number, y: number) => (((x >> 5) + (y >> 5)) & 1 ? [0.4, 0.05, 0.04] : [0.1, 0.2, 0.5])],
  ] as const)('is found: %s', (_, inside) => {
    const { left, right } = findOutline(room(inside as (x: number, y: number) => number[]))
    const off = misses([left, right], distance)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
    // A stripe's edge that crosses the outline at a sharp angle still leads it away by some px.
    expect(off[Math.floor(0.75 * off.length)]).toBeLessThan(0.4)
    const ys = [left, right].flatMap(({ points }) => [...points].filter((_, i) => i % 2 === 1))
    expect(Math.min(...ys)).toBeCloseTo(TOP, -1)
    expect(Math.max(...ys)).toBeCloseTo(FOOT, -1)
  })
})

/** A tiled wall, whose joints lie evenly about a skittle: a stem that widens, and a ball on it. */
describe('a piece before a plain wall with joints', () => {
  const [AXIS, CROWN, SOLE, TABLE] = [330, 140, 720, 660]
  const JOINT = 5
  const tiled = (pitch: number, level: number) => (x: number, y: number) => {
    const isJoint = (v: number) => Math.abs(v - pitch * Math.round(v / pitch)) < JOINT / 2
    if (y >= TABLE) return [0.08, 0.1, 0.05]
    return isJoint(x - AXIS + pitch / 2 - 0.005 * y) || isJoint(y - level) ? [0.5, 0.48, 0.44] : [0.15, 0.18, 0.22] // prettier-ignore
  }
  const stem = (y: number) => 30 + 95 * Math.max(0, (y - 260) / (SOLE - 260)) ** 2
  const skittle = (x: number, y: number) =>
    Math.min(
      Math.hypot(x - AXIS, y - CROWN - 75) - 75,
      Math.max(Math.abs(x - AXIS) - stem(y), CROWN + 75 - y, y - SOLE),
    )
  const banded = (_: number, y: number) =>
    Math.floor((y - CROWN) / 90) & 1 ? [0.4, 0.05, 0.04] : [0.55, 0.32, 0.22]

  it.each([
    ['where they close about it', tiled(118, CROWN + 39)],
    ['where they lead to the picture’s border', tiled(128, CROWN + 43)],
  ])('isn’t led away by them, though they are as clear as its edges: %s', (_, outside) => {
    const { left, right } = findOutline(paint(WIDTH, HEIGHT, skittle, { inside: banded, outside, grain: 2 }))
    const off = misses([left, right], skittle)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
    // Where a joint crosses the ball’s edge nearly along it, it leads it away by some px.
    expect(off[Math.floor(0.75 * off.length)]).toBeLessThan(0.4)
  })
})

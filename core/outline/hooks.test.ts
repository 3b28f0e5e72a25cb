import { describe, expect, it } from 'vitest'
import type { ColourTable } from './colour-evidence'
import { withoutHooks } from './hooks'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

/** A jar that widens upwards, on a cloth whose checks run away from the camera. */
const [WIDTH, HEIGHT, MIDDLE, TOP, FOOT] = [400, 600, 200, 60, 560]
const half = (y: number) => 90 + 12 * Math.sin(((FOOT - y) / (FOOT - TOP)) * 2)
const jar = (x: number, y: number) => Math.max(Math.abs(x - MIDDLE) - half(y), TOP - y, y - FOOT)
const ROW = 18
/** Where the line between two columns of checks lies on the right: it runs off from the jar downwards. */
const lineAt = (y: number) => MIDDLE + half(300) + 0.3 * (y - 300)
const checks = (x: number, y: number) => {
  const column = (x > lineAt(y) ? 1 : 0) ^ (x < 2 * MIDDLE - lineAt(y) ? 1 : 0)
  const isDark = [column, Math.floor(y / ROW) & 1]
  const light = [0.62, 0.4, 0.2][isDark[0]! + isDark[1]!]!
  return [light, 0.95 * light, light]
}
const blue = () => [0.03, 0.05, 0.2]
const photo = paint(WIDTH, HEIGHT, jar, { inside: blue, outside: checks, grain: 1 })
/** Blue speaks for the piece, grey against it. */
const colours: ColourTable = (_, __, b) => (b < -0.05 ? 0.8 : -0.6)
const options = { blur: 0.7, step: 2, colours }

/** A line of the cloth that the way follows down from where it leaves the jar, and the row along which it comes back. */
const [LEAVES, BACK] = [330, 378]
type Hook = { isSeen?: boolean; out?: (y: number) => number }
function rightSide({ isSeen = false, out = lineAt }: Hook): OutlineSide {
  const [points, sd]: number[][] = [[], []]
  const push = (x: number, y: number, isEdge: boolean) => {
    points!.push(x, y)
    sd!.push(isEdge ? 0.05 : Infinity)
  }
  const edge = (y: number) => MIDDLE + half(y)
  for (let y = FOOT; y > BACK; y -= 2) push(edge(y), y, true)
  const tip = out(BACK)
  for (let x = edge(BACK); x < tip; x += 2) push(x, BACK, isSeen || tip - x > 7)
  for (let y = BACK; y > LEAVES; y -= 2) push(Math.max(edge(y), out(y)), y, true)
  for (let y = LEAVES; y >= TOP; y -= 2) push(edge(y), y, true)
  return { points: Float64Array.from(points!), sd: Float64Array.from(sd!), blur: 0.7 }
}
/** Both sides alike. */
function hooked(hook: Hook = {}): [OutlineSide, OutlineSide] {
  const right = rightSide(hook)
  return [{ ...right, points: right.points.map((v, i) => (i % 2 ? v : 2 * MIDDLE - v)) }, right]
}
const farthest = (sides: readonly OutlineSide[]) =>
  Math.max(...sides.flatMap(({ points }) => Array.from({ length: points.length / 2 }, (_, i) => Math.abs(jar(points[2 * i]!, points[2 * i + 1]!))))) // prettier-ignore

describe('a hook along the checks of a cloth', () => {
  it('goes: the side’s own edge leads on past it', () => {
    const found = hooked()
    expect(farthest(found)).toBeGreaterThan(15)
    const out = withoutHooks(photo, found, options)
    expect(farthest(out)).toBeLessThan(1)
    // The edge is found there; what lies apart from the hook is as it was.
    out.forEach(({ points, sd }, k) => {
      expect(sd.filter((v) => !Number.isFinite(v)).length).toBeLessThan(0.2 * sd.length)
      expect([...points.subarray(0, 60)]).toEqual([...found[k]!.points.subarray(0, 60)])
      expect([...points.slice(-60)]).toEqual([...found[k]!.points.slice(-60)])
    })
  })

  it('stays where colours don’t say that it encloses backdrop, or say no less of the piece within', () => {
    const found = hooked()
    for (const says of [() => 0, () => -0.6, () => 0.8])
      expect(withoutHooks(photo, found, { ...options, colours: says })).toBe(found)
  })

  it('stays where all of it shows an edge, and where it hardly leads out', () => {
    const seen = hooked({ isSeen: true })
    expect(withoutHooks(photo, seen, options)).toBe(seen)
    const slight = hooked({ out: (y) => MIDDLE + half(y) + 2 })
    expect(withoutHooks(photo, slight, options)).toBe(slight)
  })

  it('stays where the side shows no edge past it', () => {
    const plain = (blur: number) =>
      paint(WIDTH, HEIGHT, jar, { inside: blue, outside: () => [0.6, 0.6, 0.6], grain: 1, blur })
    const light: ColourTable = (l) => (l < 0.68 ? 0.8 : -0.6)
    const found = hooked()
    expect(farthest(withoutHooks(plain(0.7), found, { ...options, colours: light }))).toBeLessThan(1)
    expect(withoutHooks(plain(14), found, { ...options, colours: light })).toBe(found)
  })
})

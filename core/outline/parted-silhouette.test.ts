import { describe, expect, it } from 'vitest'
import type { Plane } from '../picture/raster'
import { wholeSilhouette, withPartsBeyond } from './parted-silhouette'
import { findSilhouette, mirrored, rowsOf, silhouetteOf, type Strip } from './silhouette'

const [WIDTH, HEIGHT, RADII] = [200, 240, 99]
const axis = { at: { x: 100, y: 0 }, up: { x: 0, y: -1 } }

/** What a picture of WIDTH by HEIGHT says, about its middle: half-widths by row, what speaks for the piece there, and how sharp its edge is. */
function scene(
  half: (row: number) => number,
  { speaks, sharp }: { speaks: (row: number) => number; sharp: (row: number) => number },
): { strip: Strip; plane: Plane } {
  const n = RADII + 1
  const weaker = new Float32Array(HEIGHT * n)
  const data = new Float32Array(WIDTH * HEIGHT)
  for (let row = 0; row < HEIGHT; row++) {
    const r = half(row)
    // Row 0 of the strip is the topmost of the picture, y from 0 to 1.
    for (let x = 0; x < WIDTH; x++) data[row * WIDTH + x] = Math.abs(x + 0.5 - 100) < r ? speaks(row) : -0.2
    if (r > 0) weaker[row * n + r] = sharp(row)
  }
  const strip: Strip = {
    axis,
    top: -0.5,
    rows: HEIGHT,
    radii: RADII,
    both: weaker.map((v) => 2 * v),
    weaker,
    level: new Float32Array(HEIGHT * n),
  }
  return { strip, plane: { width: WIDTH, height: HEIGHT, data } }
}

/** A ball of 40 px on a stem of 15, with a foot. */
const figure = (row: number) =>
  row < 20 || row >= 220 ? 0 : row < 96 ? Math.round(Math.sqrt(Math.max(0, 40 ** 2 - (row - 60) ** 2))) : row < 200 ? 15 : 45 // prettier-ignore
/** Between these rows the ball looks like what is behind it and shows no edge. */
const lost = (row: number) => row >= 66 && row < 96

describe('parts of one piece about one axis', () => {
  const find = ({ strip, plane }: ReturnType<typeof scene>) => ({
    first: findSilhouette(strip, mirrored(strip, plane)),
    whole: wholeSilhouette(strip, mirrored(strip, plane), plane).silhouette,
  })

  it('hang together over rows that show nothing of it', () => {
    const { first, whole } = find(scene(figure, { speaks: (row) => (lost(row) ? -0.1 : 0.8), sharp: (row) => (lost(row) ? 0 : 0.9) })) // prettier-ignore
    expect(rowsOf(first)[0]).toBeGreaterThan(90)
    expect(rowsOf(whole)[0]).toBeLessThan(25)
    expect(rowsOf(whole)[1]).toBe(219)
    for (const row of [30, 45, 60, 100, 150, 210]) expect(Math.abs(whole.half[row]! - figure(row))).toBeLessThan(2)
  }) // prettier-ignore

  it('hang together one after another, where more than one stretch of it is lost', () => {
    const isLost = (row: number) => lost(row) || (row >= 165 && row < 185)
    const { first, whole } = find(scene(figure, { speaks: (row) => (isLost(row) ? -0.1 : 0.8), sharp: (row) => (isLost(row) ? 0 : 0.9) })) // prettier-ignore
    expect(rowsOf(first)[1] - rowsOf(first)[0]).toBeLessThan(75)
    expect(rowsOf(whole)[0]).toBeLessThan(25)
    expect(rowsOf(whole)[1]).toBe(219)
    for (const row of [30, 45, 60, 100, 140, 210]) expect(Math.abs(whole.half[row]! - figure(row))).toBeLessThan(2)
  }) // prettier-ignore

  it('hang together where colours say nothing, but as clear edges as the others’ stand about the same axis', () => {
    const { first, whole } = find(scene(figure, { speaks: (row) => (row < 66 ? 0.05 : lost(row) ? -0.1 : 0.8), sharp: (row) => (lost(row) ? 0 : 0.9) })) // prettier-ignore
    expect(rowsOf(first)[0]).toBeGreaterThan(60)
    expect(rowsOf(whole)[0]).toBeLessThan(25)
    for (const row of [30, 45, 60, 100, 150, 210]) expect(Math.abs(whole.half[row]! - figure(row))).toBeLessThan(2)
  }) // prettier-ignore

  it('stay parted by clear backdrop: what hangs above a piece is none of it', () => {
    const air = (row: number) => (lost(row) ? 0 : figure(row))
    const { first, whole } = find(scene(air, { speaks: () => 0.8, sharp: () => 0.9 }))
    const { strip, plane } = scene(air, { speaks: () => 0.8, sharp: () => 0.9 })
    for (let i = 0; i < plane.data.length; i++) if (plane.data[i]! < 0) plane.data[i] = -1
    expect(wholeSilhouette(strip, mirrored(strip, plane), plane).silhouette.half).toEqual(first.half)
    expect(rowsOf(whole)[1]).toBe(219)
  })

  it('aren’t joined by what doesn’t look like piece, or shows hardly an edge', () => {
    for (const [speaks, sharp] of [
      [-0.3, 0.9],
      [0.05, 0.6],
      [0.8, 0.2],
    ] as const) {
      const { first, whole } = find(
        scene(figure, {
          speaks: (row) => (row < 66 ? speaks : lost(row) ? -0.1 : 0.8),
          sharp: (row) => (row < 66 ? sharp : lost(row) ? 0 : 0.9),
        }),
      )
      expect(rowsOf(whole)[0]).toBe(rowsOf(first)[0])
      expect(rowsOf(whole)[0]).toBeGreaterThan(60)
    }
  })
})

describe('what follows after an end', () => {
  /** A flange of 60 px, and a stub of 25 beyond it, whose edge one side alone shows. */
  const wheel = (row: number) => (row < 60 || row >= 200 ? 0 : row < 160 ? 60 : 25)
  const after = (speaks: number, one: number, gap = 0) => {
    const made = scene((row) => (row >= 160 && row < 160 + gap ? 0 : wheel(row)), {
      speaks: (row) => (row < 160 ? 0.8 : speaks),
      sharp: (row) => (row < 160 ? 0.9 : 0),
    })
    const n = RADII + 1
    for (let row = 160 + gap; row < 200; row++) made.strip.both[row * n + 25] = one
    const flange = silhouetteOf(made.strip, Float32Array.from({ length: HEIGHT }, (_, row) => (row < 160 ? wheel(row) : 0))) // prettier-ignore
    return withPartsBeyond(made.strip, flange, mirrored(made.strip, made.plane), made.plane)
  }

  it('hangs together with the piece where it looks like it and one side shows its edge, over a few rows', () => {
    for (const gap of [5, 8]) {
      const whole = after(0.8, 0.9, gap)
      expect(rowsOf(whole)[1]).toBe(199)
      for (const row of [80, 120, 175, 195]) expect(Math.abs(whole.half[row]! - wheel(row))).toBeLessThan(2)
    }
  })

  it('doesn’t where it shows no edge, looks little like it, or begins far off', () => {
    expect(rowsOf(after(0.8, 0.2))[1]).toBe(159)
    expect(rowsOf(after(0.3, 0.9))[1]).toBe(159)
    expect(rowsOf(after(0.8, 0.9, 20))[1]).toBe(159)
  })

  it('what a piece was led into is followed to its own end, a cap that is wider than the neck', () => {
    /** A neck of 20 px led up from the body, and beyond it a cap of 34. */
    const bottle = (row: number) => (row < 60 || row >= 240 ? 0 : row < 90 ? 34 : row < 140 ? 20 : 60)
    const made = scene(bottle, { speaks: () => 0.8, sharp: () => 0.9 })
    const whole = (led: (row: number) => number) => {
      const half = Float32Array.from({ length: HEIGHT }, (_, row) => (row < 90 ? 0 : led(row)))
      const found = silhouetteOf(made.strip, half)
      return withPartsBeyond(made.strip, found, mirrored(made.strip, made.plane), made.plane)
    }
    const cutAt = made.strip.weaker.slice()
    // The shoulder shows nothing, so that neck and cap hang together only with what was led there.
    const n = RADII + 1
    for (let row = 134; row < 150; row++) {
      made.strip.weaker.fill(0, row * n, (row + 1) * n)
      made.strip.both.fill(0, row * n, (row + 1) * n)
      for (let x = 0; x < made.plane.width; x++) made.plane.data[row * made.plane.width + x] = -1
    }
    expect(cutAt).not.toEqual(made.strip.weaker)
    const joined = whole(bottle)
    expect(rowsOf(joined)[0]).toBe(60)
    expect(Math.abs(joined.half[70]! - 34)).toBeLessThan(2)
    // A way that only crosses it was led elsewhere.
    expect(rowsOf(whole((row) => (row < 140 ? 8 : bottle(row))))[0]).toBe(90)
  })
})

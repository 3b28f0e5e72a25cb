import { describe, expect, it } from 'vitest'
import { bestSilhouette, snapped } from './best-silhouette'
import type { Plane } from '../picture/raster'
import type { Evidence } from './evidence'
import { RADII, silhouetteOf, stripOf } from './test-strips'

/** What speaks for a piece before a plain backdrop on which there may be no shadow. */
const beforePlain = (plane: Plane): Evidence => ({
  kind: 'plain',
  plane,
  loose: plane,
  unshadowed: null,
  bare: plane,
  firm: null,
  backdrop: null,
})

const n = RADII + 1
const TOP = 20
const MIDDLE = 100
/** 20 rows of air, 120 of an egg, 20 of air. */
const egg = Array.from({ length: 160 }, (_, row) =>
  row < 20 || row >= 140 ? 0 : Math.round(60 * Math.sqrt(1 - ((row - 79.5) / 61) ** 2)),
)
/** What is found of an egg that shows its edges, and maybe one across its top, below rows that look like piece out to a half-width. */
function below(looksLikePiece: (row: number) => number, closed: boolean) {
  const strip = stripOf(egg, () => 0.8)
  for (const row of closed ? [TOP - 1, TOP, TOP + 1] : [])
    strip.level.fill(0.8, row * n, row * n + egg[TOP]! + 1)
  const [width, height] = [2 * MIDDLE, egg.length]
  const data = Float32Array.from({ length: width * height }, (_, i) => {
    const [x, row] = [(i % width) + 0.5, Math.floor(i / width)]
    return Math.abs(x - MIDDLE) < Math.max(egg[row]!, looksLikePiece(row)) ? 1 : -1
  })
  const plane = { width, height, data }
  const axis = { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } }
  const found = silhouetteOf(
    { ...strip, axis },
    egg.map((half, row) => Math.max(half, looksLikePiece(row))),
  )
  return snapped({ ...strip, axis }, beforePlain(plane), found)
}
const firstOf = ({ half }: { half: Float32Array }) => half.findIndex((r) => r > 0)

describe('rows beyond an end that show no edge', () => {
  it('are none of the piece where an edge closes it and they are wider: a mortar joint above a dome', () => {
    const joint = (row: number) => (row >= TOP - 12 && row < TOP ? 30 : 0)
    expect(Math.abs(firstOf(below(joint, true)) - TOP)).toBeLessThan(6)
    expect(firstOf(below(joint, false))).toBe(TOP - 12)
  })

  it('stay where they narrow and look like piece: a dome in front of its own colour', () => {
    const dome = (row: number) => (row >= TOP - 12 && row < TOP ? Math.round(Math.sqrt(egg[TOP]! ** 2 * (1 - ((TOP - row) / 13) ** 2))) : 0) // prettier-ignore
    expect(firstOf(below(dome, false))).toBeLessThan(TOP - 9)
  })
})

describe('a cap almost as light as the wall', () => {
  const [CAP, BODY, FOOT] = [20, 60, 140]
  const capped = Array.from({ length: 160 }, (_, row) =>
    row < CAP || row >= FOOT ? 0 : row < BODY ? 30 : 50,
  )
  const [width, height] = [2 * MIDDLE, capped.length]
  const grey = new Float32Array(width * height).fill(0.5)
  /** What speaks for the bottle, whose cap does so much on either side. */
  const speaking = (left: number, right: number) => {
    const data = grey.map((_, i) => {
      const [x, row] = [(i % width) + 0.5, Math.floor(i / width)]
      if (Math.abs(x - MIDDLE) > capped[row]!) return -1
      return row >= BODY ? 1 : x < MIDDLE ? left : right
    })
    return { width, height, data }
  }
  /** Where the bottle begins whose cap shows so much of an edge on its fainter side, and on its other one, and an edge across, maybe. */
  function firstBy(evidence: Evidence, fainter: number, clearer: number, closed: boolean) {
    const strip = stripOf(capped, (row) => (row < BODY ? fainter : 0.9))
    for (let row = CAP; row < BODY; row++) strip.both[row * n + 30] = fainter + clearer
    for (const row of closed ? [CAP - 1, CAP, CAP + 1] : []) strip.level.fill(0.8, row * n, row * n + 31)
    const hue = new Float32Array(width * height)
    const axis = { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } }
    const picture = { factor: 4, width, height, l: grey, a: hue, b: hue, alpha: null }
    return firstOf(bestSilhouette({ ...strip, axis }, picture, evidence, (p) => p))
  }
  /** Its cap is darker than the wall over one half of its width, about as light over the other. */
  function bottle(fainter: number, closed: boolean) {
    const plane = speaking(0.5, -0.45)
    return firstBy(beforePlain(plane), fainter, 0.9, closed)
  }
  /** Its cap is as dark as a shadow might be, and shows hardly an edge on its sides. */
  function shaded(closed: boolean, likeness = 0.6) {
    const plane = speaking(likeness, likeness)
    const unshadowed = speaking(0.1, 0.1)
    const data = plane.data.map((v, i) => (v > 0 && unshadowed.data[i]! < v ? -0.25 : v))
    return firstBy({ ...beforePlain(plane), unshadowed, bare: { ...plane, data } }, 0.02, 0.05, closed)
  }

  it('belongs to the bottle where one side shows it all along, the other in part, and an edge closes it', () => {
    expect(Math.abs(bottle(0.35, true) - CAP)).toBeLessThan(3)
  })

  it('belongs to it where it may be a shadow by its colour, but ends at an edge across', () => {
    expect(Math.abs(shaded(true) - CAP)).toBeLessThan(3)
    expect(Math.abs(shaded(false) - BODY)).toBeLessThan(6)
    expect(Math.abs(shaded(true, 0.05) - BODY)).toBeLessThan(6)
  })

  it('is none where nothing closes it, or one side alone shows it', () => {
    expect(Math.abs(bottle(0.35, false) - BODY)).toBeLessThan(3)
    expect(Math.abs(bottle(0.1, true) - BODY)).toBeLessThan(3)
  })
})

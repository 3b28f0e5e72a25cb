import { hash, noise } from '../../maker/random'
import { metal, opal, stoneware, wood, type Material } from '../../maker/surface'
import { mix, smoothstep, type Vec } from '../../maker/vector'
import type { Dice } from '../dice'
import { flat } from '../random-photo'

/** What a piece in a room is like: painted, printed, labelled, or of one material. */
export const SKINS = [
  'label',
  'bands',
  'flutes',
  'checks',
  'spots',
  'drip',
  'brass',
  'chrome',
  'white',
  'terracotta',
  'black',
  'wood',
  'stoneware',
  'blue',
] as const
export type Skin = (typeof SKINS)[number]

const COLOURS: readonly Vec[] = [
  [0.7, 0.68, 0.62],
  [0.05, 0.08, 0.2],
  [0.4, 0.05, 0.04],
  [0.03, 0.15, 0.08],
  [0.6, 0.4, 0.1],
  [0.1, 0.25, 0.35],
  [0.03, 0.03, 0.03],
  [0.5, 0.3, 0.2],
]
/** Two colours on a piece differ by this in all three lights together. */
const APART = 0.2
const around = (p: Vec) => Math.atan2(p[0], -p[1])

/** A piece's material; `h` is its height, mm. */
export function skinOf(kind: Skin, h: number, { between, pick }: Dice, seed: number): Material {
  const one = pick(COLOURS)
  const other = pick(COLOURS.filter((c) => c.reduce((sum, v, k) => sum + Math.abs(v - one[k]!), 0) >= APART))
  const [low, high, times] = [h * between(0.1, 0.35), h * between(0.5, 0.8), Math.round(between(5, 14))]
  const [twist, gloss, roughness] = [between(-0.05, 0.05), between(0.03, 0.06), between(0.05, 0.45)]
  const painted = (colourAt: (p: Vec) => Vec): Material => ({
    kind: 'opaque',
    look: (p) => ({ colour: colourAt(p), gloss, metal: false, roughness }),
  })
  const level = (p: Vec) => Math.floor((p[2] / h) * times)
  const made: Record<Skin, () => Material> = {
    label: () => painted((p) => labelAt(p, { low, high, seed }) ?? one),
    bands: () => painted((p) => (level(p) % 2 ? one : other)),
    flutes: () =>
      painted((p) => mix(one, other, smoothstep(-0.2, 0.2, Math.sin(times * around(p) + twist * p[2])))),
    checks: () => painted((p) => ((level(p) + Math.floor((around(p) / Math.PI) * times)) & 1 ? one : other)),
    spots: () =>
      painted((p) => {
        const [u, v] = [4 * around(p), (p[2] / h) * times]
        const [i, j] = [Math.round(u), Math.round(v)]
        return Math.hypot(u - i, v - j) < 0.15 + 0.25 * hash(i, j, 0, seed) ? other : one
      }),
    drip: () =>
      painted((p) => {
        const line = h * (0.5 + 0.5 * (noise(4 * around(p), 0, 0, seed) - 0.5))
        return mix(one, other, smoothstep(line - 1, line + 1, p[2]))
      }),
    brass: () => metal([0.62, 0.42, 0.14], [0.3, 0.18, 0.06], 0.2, seed),
    chrome: () => metal([0.7, 0.7, 0.72], [0.6, 0.6, 0.6], 0.04, seed),
    white: () => opal(seed),
    terracotta: () => flat([0.42, 0.16, 0.08], 0, 0.6),
    black: () => flat([0.025, 0.025, 0.03], 0.045, 0.08),
    wood: () => wood([0.5, 0.3, 0.14], [0.2, 0.1, 0.05], seed),
    stoneware: () => stoneware(0.6 * h, seed),
    blue: () => flat([0.03, 0.09, 0.3], 0.05, 0.15),
  }
  return made[kind]()
}

/** A label glued about the front between two heights, with lines of print; null beside it. */
function labelAt(p: Vec, { low, high, seed }: { low: number; high: number; seed: number }): Vec | null {
  const angle = around(p)
  if (p[2] <= low || p[2] >= high || Math.abs(angle) >= 1.35) return null
  const [u, v] = [angle / 2.7 + 0.5, (p[2] - low) / (high - low)]
  const line = Math.floor(9 * v)
  const isWord = u > 0.15 && u < 0.85 - 0.2 * hash(line, 0, 0, seed) && noise(60 * u, line, 0, seed) > 0.45
  return (line % 2 === 1 && isWord) || v < 0.04 || v > 0.96 ? [0.05, 0.05, 0.1] : [0.7, 0.67, 0.58]
}

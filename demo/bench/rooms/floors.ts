import { fractal, hash } from '../../maker/random'
import { clamp01, mix, scale, smoothstep, type Vec } from '../../maker/vector'
import type { Floor, Room } from './room'
import { wallAt } from './walls'

/** The colour of a floor (linear light, as far as it is lit) so many mm to the right of the axis and behind it. */
export const floorAt = (room: Room, x: number, y: number): Vec => FLOORS[room.floor](room, x, y)

/** Lines of a ruled cutting surface: how wide, mm, by how far apart. */
const LINES = [
  [10, 0.15],
  [50, 0.35],
] as const

function lineAt(v: number, [apart, wide]: (typeof LINES)[number]): number {
  return 1 - smoothstep(wide, wide + 0.3, Math.abs(v / apart - Math.round(v / apart)) * apart)
}

const FLOORS: Record<Floor, (room: Room, x: number, y: number) => Vec> = {
  // Paper that sweeps up into the wall.
  sweep: (room, x, y) => mix(room.ground, wallAt(room, x, 0), smoothstep(150, 420, y)),
  plain: ({ ground, seed }, x, y) => scale(ground, 1 + 0.04 * (fractal(x / 4, y / 4, 0, seed, 2) - 0.5)),
  planks({ ground, seed }, x, y) {
    const board = Math.floor(y / 74)
    const edge = Math.min(y - 74 * board, 74 * (board + 1) - y)
    const grain = 0.72 + 0.5 * fractal(x / 55, y / 1.7, board * 9, seed, 3)
    return scale(ground, (0.75 + 0.3 * hash(board, 0, 0, seed)) * grain * (0.35 + 0.65 * smoothstep(0.3, 1.4, edge))) // prettier-ignore
  },
  gingham({ ground, size }, x, y) {
    const check = 0.09 * size
    const dark = (Math.floor(x / check) & 1) + (Math.floor(y / check) & 1)
    return mix([0.75, 0.74, 0.7], ground, dark / 2)
  },
  grid(_room, x, y) {
    const line = Math.max(...LINES.flatMap((of) => [lineAt(x, of), lineAt(y, of)]))
    return mix([0.02, 0.12, 0.1], [0.5, 0.55, 0.4], 0.7 * line)
  },
  marble({ seed }, x, y) {
    const vein = Math.abs(fractal(x / 60, y / 60, 1, seed, 5) - 0.5) * 12
    return mix([0.3, 0.3, 0.32], [0.72, 0.71, 0.7], clamp01(vein))
  },
  table: ({ ground, seed }, x, y) => scale(ground, 0.85 + 0.3 * fractal(x / 80, y / 3, 0, seed, 3)),
  doily: ({ ground, footRadius }, x, y) => (Math.hypot(x, y) < 1.45 * footRadius ? [0.7, 0.68, 0.6] : ground),
  cloth({ ground, seed }, x, y) {
    const weave = 0.75 + 0.25 * Math.sin(2.2 * x) * Math.sin(2.2 * y)
    return scale(ground, weave * (0.7 + 0.6 * fractal(x / 50, y / 50, 2, seed, 3)))
  },
}

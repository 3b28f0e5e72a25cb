import { fractal, hash, noise } from '../../maker/random'
import { add, clamp01, mix, scale, smoothstep, type Vec } from '../../maker/vector'
import type { Room, Wall } from './room'

/** The colour of a wall (linear light) so many mm to the right of the axis and above the floor. */
export const wallAt = (room: Room, x: number, h: number): Vec => WALLS[room.wall](room, x, h)

/** Where in its period a pattern is, 0 to 1. */
const within = (v: number) => v - Math.floor(v)
const between = (v: number, a: number, b: number, soft: number) =>
  smoothstep(a - soft, a + soft, v) * (1 - smoothstep(b - soft, b + soft, v))
const lightOf = ({ ambient, sun }: Room) => 0.9 * (ambient + sun)

const LIGHTS = 40
const WALLS: Record<Wall, (room: Room, x: number, h: number) => Vec> = {
  // A dark room with lamps in it, far out of focus.
  lights({ tint, ground, field, seed }, x, h) {
    const cloud = clamp01(fractal(x / (0.3 * field), h / (0.3 * field), 0, seed, 2))
    let colour = mix(scale(tint, 0.25), scale(ground, 0.35), cloud)
    for (let i = 0; i < LIGHTS; i++) {
      const of = (k: number) => hash(i, k, 0, seed)
      const [cx, cy] = [(of(1) - 0.5) * 1.3 * field, (of(2) - 0.1) * 1.2 * field]
      const r = (0.015 + 0.06 * of(3)) * field
      const disc = 1 - smoothstep(0.75 * r, 1.1 * r, Math.hypot(x - cx, h - cy))
      if (disc > 0)
        colour = add(colour, scale([0.9, 0.5 + 0.4 * of(4), 0.2 + 0.6 * of(5)], disc * (0.1 + 0.5 * of(6))))
    }
    return colour
  },
  curtain(room, x, h) {
    const { field, seed, tint } = room
    const fold = x / (0.05 * field) + 1.5 * noise(x / (0.2 * field), h / field, 0, seed)
    const depth = 0.7 + 0.3 * noise(x / 30, h / 200, 3, seed)
    return scale(tint, lightOf(room) * (0.6 + 0.4 * Math.sin(fold) * depth))
  },
  window({ field, seed, tint, soft }, x, h) {
    const [u, v] = [within(x / (0.38 * field)), within(h / (0.38 * field) + 0.3)]
    const blur = 0.01 + 0.02 * soft
    const pane = between(u, 0.09, 0.91, blur) * between(v, 0.09, 0.91, blur)
    const trees = clamp01(1.6 * fractal(x / (0.15 * field), h / (0.15 * field), 0, seed, 2) - 0.4)
    return mix(scale(tint, 0.3), mix([0.95, 0.97, 1], [0.5, 0.6, 0.4], trees), pane)
  },
  stripes(room, x) {
    const stripe = between(within(x / (0.055 * room.field)), 0.25, 0.75, 0.02 + 0.1 * room.soft)
    return scale(mix(room.tint, room.ground, stripe), lightOf(room))
  },
  tiles(room, x, h) {
    const [u, v] = [x / (0.16 * room.field), h / (0.16 * room.field)]
    const [fu, fv] = [within(u), within(v)]
    const inside = smoothstep(0.012, 0.03 + 0.03 * room.soft, Math.min(fu, 1 - fu, fv, 1 - fv))
    const tile = scale(room.tint, 0.8 + 0.3 * hash(Math.floor(u), Math.floor(v), 0, room.seed))
    return scale(mix([0.55, 0.53, 0.5], tile, inside), lightOf(room))
  },
  books(room, x, h) {
    const { field, seed, soft, ground } = room
    const shelf = 0.55 * field
    const [j, i] = [Math.floor(h / shelf), Math.floor(x / (0.05 * field))]
    const [fh, fx] = [h - j * shelf, within(x / (0.05 * field))]
    const of = (k: number) => hash(i, j, k, seed)
    const back: Vec = [0.05 + 0.5 * of(2) ** 2, 0.05 + 0.35 * of(3) ** 2, 0.05 + 0.35 * of(4) ** 2]
    const blur = 0.03 + 0.2 * soft
    const gap = smoothstep(0, blur, fx) * smoothstep(0, blur, 1 - fx)
    const tall = (0.6 + 0.3 * of(1)) * shelf
    const end = 0.03 * shelf * (0.2 + soft)
    const row = mix([0.02, 0.018, 0.015], scale(back, 0.3 + 0.7 * gap), 1 - smoothstep(tall - end, tall + end, fh)) // prettier-ignore
    const onBoard = smoothstep(0.06 * shelf, (0.08 + 0.05 * soft) * shelf, fh)
    return scale(mix(scale(ground, 0.8), row, onBoard), lightOf(room))
  },
  hedge({ field, seed, soft }, x, h) {
    const top = 0.35 * field + 0.08 * field * fractal(x / (0.3 * field), 0, 0, seed, 3)
    const octaves = 1 + Math.round(2 * (1 - soft))
    const light = clamp01(2.2 * fractal(x / (0.06 * field), h / (0.06 * field), 0, seed, octaves) - 0.6)
    const sky = mix([0.75, 0.8, 0.85], [0.35, 0.5, 0.75], clamp01(h / field))
    const isSky = smoothstep(top - 0.02 * field, top + 0.02 * field, h)
    return mix(mix([0.02, 0.06, 0.01], [0.3, 0.4, 0.1], light), sky, isSky)
  },
  lightbox: () => [1.5, 1.5, 1.5],
  velvet: () => [0.004, 0.004, 0.005],
  ornaments(room, x, h) {
    const turn = (2 * Math.PI) / (0.09 * room.field)
    const v = Math.sin(turn * x) * Math.sin((turn * h) / 1.4) + 0.4 * Math.cos(2 * turn * x)
    const blur = 0.1 + 0.5 * room.soft
    return scale(mix(room.tint, room.ground, smoothstep(-blur, blur, v)), lightOf(room))
  },
  boards(room, x, h) {
    const { field, seed, soft, tint } = room
    const board = Math.floor(x / (0.11 * field))
    const u = within(x / (0.11 * field))
    const groove = 0.3 + 0.7 * smoothstep(0, 0.05 + 0.05 * soft, Math.min(u, 1 - u))
    const tone =
      (0.8 + 0.25 * hash(board, 0, 0, seed)) * (0.85 + 0.3 * fractal(x / 4, h / 90, board, seed, 3))
    return scale(tint, lightOf(room) * tone * groove)
  },
  plaster: (room, x, h) =>
    scale(room.tint, lightOf(room) * (0.9 + 0.2 * fractal(x / 3, h / 3, 0, room.seed, 3))),
}

import { fractal, hash, noise } from './random'
import { clamp01, mix, smoothstep, type Vec } from './vector'

/** How a material looks at a place: colours are linear light, 0..1. */
export interface Look {
  colour: Vec
  /** Share of mirror-like reflection seen straight on; metals tint it with their colour. */
  gloss: number
  metal: boolean
  /** 0 mirror, 1 matt: how much the reflected surroundings are smoothed. */
  roughness: number
}

export type Material = { kind: 'opaque'; look: (p: Vec) => Look } | { kind: 'glass'; ior: number; tint: Vec }

const around = (p: Vec) => Math.atan2(p[1], p[0])

/** Dots of random size and darkness on a grid of `cell` mm along the surface. */
function speckles(p: Vec, cell: number, seed: number): number {
  const u = (around(p) * Math.hypot(p[0], p[1])) / cell
  const v = p[2] / cell
  let most = 0
  for (let i = -1; i <= 1; i++) {
    for (let j = -1; j <= 1; j++) {
      const cu = Math.floor(u) + i
      const cv = Math.floor(v) + j
      const strength = hash(cu, cv, 1, seed)
      if (strength < 0.55) continue
      const du = cu + hash(cu, cv, 2, seed) - u
      const dv = cv + hash(cu, cv, 3, seed) - v
      const size = 0.06 + 0.22 * hash(cu, cv, 4, seed) ** 3
      most = Math.max(most, smoothstep(size, 0.6 * size, Math.hypot(du, dv)) * (0.3 + 0.7 * strength))
    }
  }
  return most
}

/** Salt-glazed stoneware, dipped in a darker glaze above a wavering line at `dipHeight`. */
export function stoneware(dipHeight: number, seed: number): Material {
  const body: Vec = [0.46, 0.38, 0.28]
  const dip: Vec = [0.2, 0.1, 0.05]
  return {
    kind: 'opaque',
    look(p) {
      const line =
        dipHeight +
        2.2 * (noise(3 * around(p), 0, 0, seed) - 0.5) +
        1.2 * (noise(9 * around(p), 4, 0, seed) - 0.5)
      const dipped = smoothstep(line - 0.5, line + 0.5, p[2])
      const cloud = fractal(p[0] / 14, p[1] / 14, p[2] / 14, seed + 3)
      let colour = mix(body, dip, dipped)
      colour = mix(colour, [colour[0] * 0.72, colour[1] * 0.68, colour[2] * 0.6], cloud)
      const dark = speckles(p, 2.6, seed + 7) * (1 - 0.6 * dipped)
      return {
        colour: mix(colour, [0.08, 0.05, 0.03], 0.75 * dark),
        gloss: 0.035,
        metal: false,
        roughness: 0.35 - 0.2 * dipped,
      }
    },
  }
}

/** Turned wood: growth rings about a core beside the axis, grain along the axis. */
export function wood(light: Vec, dark: Vec, seed: number): Material {
  return {
    kind: 'opaque',
    look(p) {
      const x = p[0] + 9 + 2.5 * noise(p[2] / 60, 0, 0, seed)
      const y = p[1] - 5 + 2.5 * noise(p[2] / 60, 9, 0, seed)
      const wobble = 1.6 * fractal(p[0] / 22, p[1] / 22, p[2] / 110, seed + 1)
      const ring = (Math.hypot(x, y) + 2.2 * wobble) / 3.1
      const within = ring - Math.floor(ring)
      const late = smoothstep(0.35, 0.95, within) * smoothstep(1, 0.95, within)
      const fibre = fractal(p[0] * 1.4, p[1] * 1.4, p[2] / 16, seed + 2, 3)
      const t = clamp01(0.75 * late + 0.55 * (fibre - 0.42))
      return { colour: mix(light, dark, t), gloss: 0.03, metal: false, roughness: 0.45 }
    },
  }
}

/** Metal with fine turning marks and some tarnish. */
export function metal(colour: Vec, tarnish: Vec, roughness: number, seed: number): Material {
  return {
    kind: 'opaque',
    look(p) {
      const marks = noise(0, Math.hypot(p[0], p[1]) * 3.1, p[2] * 3.1, seed)
      const stain = smoothstep(0.5, 0.8, fractal(p[0] / 17, p[1] / 17, p[2] / 17, seed + 5))
      const base = mix(colour, tarnish, 0.55 * stain)
      const k = 0.9 + 0.2 * marks
      return {
        colour: [base[0] * k, base[1] * k, base[2] * k],
        gloss: 0.6 * (1 - 0.5 * stain),
        metal: true,
        roughness,
      }
    },
  }
}

/** White opal glass: opaque, glossy, a little uneven. */
export function opal(seed: number): Material {
  return {
    kind: 'opaque',
    look(p) {
      const cloud = fractal(p[0] / 30, p[1] / 30, p[2] / 40, seed)
      return {
        colour: [0.8 - 0.08 * cloud, 0.79 - 0.09 * cloud, 0.75 - 0.1 * cloud],
        gloss: 0.045,
        metal: false,
        roughness: 0.06,
      }
    },
  }
}

export const clearGlass = (tint: Vec = [0.97, 0.985, 0.975]): Material => ({ kind: 'glass', ior: 1.5, tint })

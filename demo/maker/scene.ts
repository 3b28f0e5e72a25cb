import type { Body } from './body'
import { fractal, hash, random } from './random'
import { add, clamp01, cross, dot, mix, scale, smoothstep, unit, type Vec } from './vector'

/** `mottled`: cloth or plaster with blotches of a few mm, on the wall and on the floor in different colours. */
export type BackdropKind = 'plain' | 'graded' | 'bricks' | 'mottled'

export interface SceneSpec {
  backdrop: BackdropKind
  /** Linear colours of the wall (top, bottom) and the ground. */
  wallTop: Vec
  wallBottom: Vec
  floor: Vec
  /** `foot`: stands on z = 0. `rim`: a wheel on its rim, lying to the camera, ground at x = largest radius. */
  stand: 'foot' | 'rim'
  /** Direction to the key light in terms of picture right, up, towards the camera. */
  key: Vec
  /** Share of the shadow that the piece lets through (glass). */
  shadowThrough?: number
  seed: number
}

/** Up to these radii of a foot the shadow is taken from the rings alone, and from both. */
const NEAR_FOOT = 1.3
const AROUND_FOOT = 1.6
const RINGS = 40
const SPOKES = 240

/** Light on rings about a foot, whose distances from it grow with the square of their number. */
function contactLight(footRadius: number, litAt: (x: number, y: number) => number): Float32Array {
  const light = new Float32Array(RINGS * SPOKES)
  for (let i = 0; i < RINGS; i++) {
    const radius = footRadius * Math.max(1.0005, 1 + (AROUND_FOOT - 1) * (i / (RINGS - 1)) ** 2)
    for (let j = 0; j < SPOKES; j++) {
      const angle = (2 * Math.PI * j) / SPOKES
      light[i * SPOKES + j] = litAt(radius * Math.cos(angle), radius * Math.sin(angle))
    }
  }
  return light
}

/** Room behind the piece: a ground, a wall, soft lights, and the piece's shadow on them. */
export class Scene {
  readonly up: Vec
  readonly keyDirection: Vec
  private right: Vec
  private floorLevel: number
  private shadow: Float32Array
  private grid = 150
  private reach: number
  /** Light on the ground about a foot, where the shadow is sharper than that grid: rings of places, the finer the nearer. */
  private contact: Float32Array | null

  /** The wall stands this many mm behind the axis. */
  private wallY = 420

  constructor(
    readonly spec: SceneSpec,
    private body: Body,
  ) {
    this.up = spec.stand === 'foot' ? [0, 0, 1] : [-1, 0, 0]
    this.right = spec.stand === 'foot' ? [1, 0, 0] : [0, 0, 1]
    this.floorLevel = spec.stand === 'foot' ? 0 : -body.radius
    const [r, u, c] = spec.key
    this.keyDirection = unit(add(add(scale(this.right, r), scale(this.up, u)), [0, -c, 0]))
    this.reach = 3.2 * Math.max(body.radius, (body.high - body.low) / 2)
    const { shadow, contact } = this.computeShadow()
    this.shadow = shadow
    this.contact = contact
  }

  /** Light that reaches a surface point with this normal, without the piece's own shadow. */
  light(normal: Vec): number {
    const key = Math.max(0, dot(normal, this.keyDirection))
    const sky = 0.5 + 0.5 * dot(normal, this.up)
    const fill = Math.max(0, -normal[1])
    return 0.78 * key + 0.3 * sky + 0.2 * fill
  }

  /** What a ray that misses the piece sees. */
  surroundings(o: Vec, d: Vec): Vec {
    const down = -dot(d, this.up)
    const tWall = d[1] > 1e-9 ? (this.wallY - o[1]) / d[1] : Infinity
    const tFloor = down > 1e-9 ? (dot(o, this.up) - this.floorLevel) / down : Infinity
    if (tFloor < tWall && tFloor > 0) return this.floorColour(add(o, scale(d, tFloor)))
    if (tWall < Infinity && tWall > 0) return this.wallColour(add(o, scale(d, tWall)))
    return this.studio(d, 0.1)
  }

  /** The studio as reflections see it: dark room, a large soft light at the key, a strip on the other side. */
  studio(d: Vec, roughness: number): Vec {
    const soft = 0.05 + 0.6 * roughness
    const key = smoothstep(-soft, soft, this.window(d, this.keyDirection, 0.42, 0.62))
    const strip = smoothstep(
      -soft,
      soft,
      this.window(d, unit(add(scale(this.right, 1), add(scale(this.up, 0.25), [0, -0.35, 0]))), 0.1, 0.75),
    )
    const base = 0.16 + 0.12 * dot(d, this.up) + 0.08 * Math.max(0, -d[1])
    const v = base + 2.1 * key + 0.9 * strip
    const ground = smoothstep(0.05, -0.25, dot(d, this.up))
    return mix([v, v * 0.98, v * 0.95], scale(this.spec.floor, 0.7), 0.8 * ground)
  }

  /** Positive inside a rectangular light around `centre` (half sizes in direction space), negative outside. */
  private window(d: Vec, centre: Vec, halfWidth: number, halfHeight: number): number {
    const front = dot(d, centre)
    if (front <= 0) return -1
    const side = unit(cross(this.up, centre))
    const above = cross(centre, side)
    return Math.min(halfWidth - Math.abs(dot(d, side) / front), halfHeight - Math.abs(dot(d, above) / front))
  }

  private floorColour(p: Vec): Vec {
    const { spec } = this
    const x = dot(p, this.right)
    const y = p[1]
    if (spec.backdrop === 'mottled')
      return scale(this.mottled([0.26, 0.2, 0.15], x, y, 5), this.shadowAt(x, y))
    const grain =
      spec.backdrop === 'bricks'
        ? this.planks(x, y)
        : 1 + 0.02 * (fractal(x / 3, y / 3, 0, spec.seed + 9, 2) - 0.5)
    // The paper sweeps up into the wall; boards end there.
    const sweep = spec.backdrop === 'bricks' ? 0 : smoothstep(0.35 * this.wallY, this.wallY, y)
    const lit = mix(spec.floor, spec.wallBottom, sweep)
    return scale(lit, grain * this.shadowAt(x, y) * (1.02 - 0.1 * clamp01(Math.hypot(x, y - 60) / 900)))
  }

  private wallColour(p: Vec): Vec {
    const { spec } = this
    const x = dot(p, this.right)
    const h = dot(p, this.up) - this.floorLevel
    if (spec.backdrop === 'bricks') return this.bricks(x, h)
    if (spec.backdrop === 'mottled') return this.mottled(spec.wallTop, x, h, 3)
    const t = spec.backdrop === 'plain' ? 0.25 * smoothstep(0, 600, h) : smoothstep(0, 340, h)
    const glow = 1 + 0.1 * Math.exp(-((x + 60) ** 2 + (h - 180) ** 2) / 90000)
    return scale(mix(spec.wallBottom, spec.wallTop, t), glow)
  }

  /** Rough courses of stone and lime, a little out of focus. */
  private bricks(x: number, h: number): Vec {
    const { seed } = this.spec
    const course = 46
    const row = Math.floor(h / course)
    const long = 92
    const offset = (row % 2) * 0.5 * long + 17 * hash(row, 3, 0, seed)
    const column = Math.floor((x + offset) / long)
    const fx = x + offset - column * long
    const fh = h - row * course
    const wobble = 2.4 * (fractal(x / 21, h / 21, 0, seed + 2, 2) - 0.5)
    const edge = Math.min(fx, long - fx, fh, course - fh) + wobble
    const stone = smoothstep(1.2, 5.5, edge)
    const tone = 0.55 + 0.75 * hash(row, column, 5, seed)
    const rough = 0.62 + 0.76 * fractal(x / 9, h / 9, 2, seed + 4)
    const warm = hash(row, column, 8, seed)
    const colour: Vec = mix([0.24, 0.17, 0.12], [0.2, 0.2, 0.19], warm)
    return scale(mix([0.42, 0.4, 0.36], scale(colour, tone), stone), rough)
  }

  private mottled(colour: Vec, x: number, y: number, layer: number): Vec {
    const { seed } = this.spec
    const fine = fractal(x / 4.5, y / 4.5, layer, seed + 21, 3)
    const broad = fractal(x / 60, y / 60, layer, seed + 22, 2)
    return scale(colour, 0.45 + 0.8 * fine + 0.3 * broad)
  }

  private planks(x: number, y: number): number {
    const { seed } = this.spec
    const width = 74
    const board = Math.floor(x / width)
    const edge = Math.min(x - board * width, (board + 1) * width - x)
    const grain = fractal(x / 1.7, y / 55, board * 9, seed + 11, 3)
    return (
      (0.75 + 0.3 * hash(board, 0, 0, seed)) *
      (0.72 + 0.5 * grain) *
      (0.35 + 0.65 * smoothstep(0.3, 1.4, edge))
    )
  }

  private shadowAt(x: number, y: number): number {
    const out = this.contact ? Math.hypot(x, y) / this.body.footRadius : Infinity
    const wide = out < NEAR_FOOT ? 0 : this.wideShadowAt(x, y)
    if (out >= AROUND_FOOT) return wide
    const near = this.contactAt(Math.sqrt(Math.max(0, out - 1) / (AROUND_FOOT - 1)), Math.atan2(y, x))
    const share = smoothstep(NEAR_FOOT, AROUND_FOOT, out)
    return near + share * (wide - near)
  }

  /** @param depth 0 at the foot, 1 at the last ring */
  private contactAt(depth: number, angle: number): number {
    const light = this.contact!
    const gr = depth * (RINGS - 1)
    const ga = ((angle / (2 * Math.PI) + 1) % 1) * SPOKES
    const [i, j] = [Math.min(RINGS - 2, Math.floor(gr)), Math.floor(ga) % SPOKES]
    const [u, v] = [gr - i, ga - Math.floor(ga)]
    const ring = (k: number) => light[k * SPOKES + j]! * (1 - v) + light[k * SPOKES + ((j + 1) % SPOKES)]! * v
    return ring(i) * (1 - u) + ring(i + 1) * u
  }

  private wideShadowAt(x: number, y: number): number {
    const n = this.grid
    const gx = ((x / this.reach + 1) / 2) * (n - 1)
    const gy = ((y / this.reach + 1) / 2) * (n - 1)
    if (!(gx > 0 && gy > 0 && gx < n - 1 && gy < n - 1)) return 1
    const i = Math.floor(gx)
    const j = Math.floor(gy)
    const u = gx - i
    const v = gy - j
    const s = this.shadow
    return (
      (s[j * n + i]! * (1 - u) + s[j * n + i + 1]! * u) * (1 - v) +
      (s[(j + 1) * n + i]! * (1 - u) + s[(j + 1) * n + i + 1]! * u) * v
    )
  }

  /** Share of light on the ground around the piece: a wide key light and the open sky, by tracing rays. */
  private computeShadow(): { shadow: Float32Array; contact: Float32Array | null } {
    const n = this.grid
    const out = new Float32Array(n * n)
    const next = random(this.spec.seed + 77)
    const side = unit(cross(this.up, this.keyDirection))
    const above = cross(this.keyDirection, side)
    const through = this.spec.shadowThrough ?? 0
    // The same directions everywhere, so that the shadow is smooth instead of grainy.
    const keyRays = Array.from({ length: 40 }, (): Vec =>
      unit(
        add(this.keyDirection, add(scale(side, 0.62 * (next() - 0.5)), scale(above, 0.62 * (next() - 0.5)))),
      ),
    )
    const skyRays = Array.from({ length: 56 }, (): Vec => {
      const r = Math.sqrt(next())
      const a = 2 * Math.PI * next()
      return add(
        add(scale(this.right, r * Math.cos(a)), [0, r * Math.sin(a), 0]),
        scale(this.up, Math.sqrt(1 - r * r)),
      )
    })
    const share = (o: Vec, rays: Vec[]) =>
      rays.reduce((sum, d) => sum + (this.body.distance(o, d) < Infinity ? through : 1), 0) / rays.length
    const litAt = (x: number, y: number) => {
      const o = add(add(scale(this.right, x), [0, y, 0]), scale(this.up, this.floorLevel + 0.01))
      return 0.56 * share(o, keyRays) + 0.44 * share(o, skyRays)
    }
    // Under the foot it is dark, but that is never seen; there the light beside the foot is kept instead, or the dark
    // would leak out through the grid's interpolation and draw a false edge around the foot.
    const covered = this.spec.stand === 'foot' ? 1.004 * this.body.footRadius : 0
    const beside = (x: number, y: number) => Math.max(1, covered / Math.max(1e-6, Math.hypot(x, y)))
    for (let j = 0; j < n; j++) {
      for (let i = 0; i < n; i++) {
        const x = ((2 * i) / (n - 1) - 1) * this.reach
        const y = ((2 * j) / (n - 1) - 1) * this.reach
        const lit = litAt(x * beside(x, y), y * beside(x, y))
        // Fade to full light at the rim of the grid.
        const fade = smoothstep(0.75, 1, Math.max(Math.abs(x), Math.abs(y)) / this.reach)
        out[j * n + i] = lit + (1 - lit) * fade
      }
    }
    return { shadow: out, contact: covered > 0 ? contactLight(this.body.footRadius, litAt) : null }
  }
}

import { type Body, type Hit } from './body'
import { rayThrough, type Camera } from './camera'
import { gaussPair, hash, random } from './random'
import { type Scene } from './scene'
import type { Material } from './surface'
import { add, dot, scale, type Vec } from './vector'

export interface RenderOptions {
  /** Standard deviation of the lens blur, px. */
  blur: number
  /** Standard deviation of the noise at mid grey, in 8-bit steps. */
  noise: number
  /** Rays through a pixel that an edge crosses. 144 leave about 1/50 px of doubt in an edge's place. */
  edgeRays?: number
  seed: number
}

const MOST_BOUNCES = 10

/** Computes the picture as 8-bit sRGB, three bytes a pixel. */
export function render(
  camera: Camera,
  body: Body,
  materials: readonly Material[],
  scene: Scene,
  options: RenderOptions,
): Uint8Array {
  const { width, height } = camera
  const tracer = new Tracer(body, materials, scene)
  const image = new Float32Array(3 * width * height)
  const depth = new Float32Array(width * height)
  const kind = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const d = rayThrough(camera, x + 0.5, y + 0.5)
      const hit = body.hit(camera.position, d)
      const at = y * width + x
      depth[at] = hit ? hit.t : 0
      kind[at] = hit ? 1 + hit.material : 0
      image.set(tracer.colour(camera.position, d, hit), 3 * at)
    }
  }
  superSample(camera, tracer, image, depth, kind, options)
  blur(image, width, height, options.blur)
  return develop(image, width, height, options)
}

/** Pixels crossed by an edge get many rays on a shifted lattice; the others keep their one. */
function superSample(
  camera: Camera,
  tracer: Tracer,
  image: Float32Array,
  depth: Float32Array,
  kind: Uint8Array,
  options: RenderOptions,
): void {
  const { width, height } = camera
  const rays = options.edgeRays ?? 144
  const jump = 0.004 * camera.distance
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = y * width + x
      let edge = false
      for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1) && !edge; j++) {
        for (let i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i++) {
          const other = j * width + i
          if (kind[other] !== kind[at] || Math.abs(depth[other]! - depth[at]!) > jump) {
            edge = true
            break
          }
        }
      }
      if (!edge) continue
      const shiftX = hash(x, y, 1, options.seed)
      const shiftY = hash(x, y, 2, options.seed)
      let sum: Vec = [0, 0, 0]
      for (let k = 0; k < rays; k++) {
        // Roberts' R2 lattice: even coverage whichever way the edge runs.
        const sx = (shiftX + k * 0.7548776662466927) % 1
        const sy = (shiftY + k * 0.5698402909980532) % 1
        const d = rayThrough(camera, x + sx, y + sy)
        sum = add(sum, tracer.colour(camera.position, d, tracer.body.hit(camera.position, d)))
      }
      image.set(scale(sum, 1 / rays), 3 * at)
    }
  }
}

class Tracer {
  constructor(
    readonly body: Body,
    private materials: readonly Material[],
    private scene: Scene,
  ) {}

  colour(o: Vec, d: Vec, hit: Hit | null): Vec {
    if (!hit) return this.scene.surroundings(o, d)
    const material = this.materials[hit.material]!
    const p = add(o, scale(d, hit.t))
    return material.kind === 'glass' ? this.glass(p, d, hit, material) : this.opaque(p, d, hit, material)
  }

  private opaque(p: Vec, d: Vec, hit: Hit, material: Extract<Material, { kind: 'opaque' }>): Vec {
    const look = material.look(p)
    const n = hit.normal
    const facing = Math.min(1, Math.max(0, -dot(n, d)))
    const mirrored = add(d, scale(n, 2 * facing))
    // No gloss at all is felt or soot: it doesn't shine at grazing angles either.
    const fresnel = look.gloss === 0 ? 0 : look.gloss + (1 - look.gloss) * (1 - facing) ** 5
    const reflected = scale(
      this.scene.studio(mirrored, look.roughness),
      fresnel * (1 - 0.75 * look.roughness * (look.metal ? 0.4 : 1)),
    )
    // Near the ground less of the sky is seen.
    const rise = Math.max(
      0,
      dot(p, this.scene.up) - (this.scene.spec.stand === 'rim' ? -this.body.radius : 0),
    )
    const open = 0.72 + 0.28 * Math.min(1, rise / (0.35 * this.body.radius))
    const shade = this.scene.light(n) * open
    if (look.metal) {
      const c = look.colour
      const diffuse = scale(c, 0.55 * shade)
      return add(diffuse, [reflected[0] * c[0] * 1.5, reflected[1] * c[1] * 1.5, reflected[2] * c[2] * 1.5])
    }
    return add(scale(look.colour, shade), reflected)
  }

  /** Follows the refracted ray through all surfaces; each also reflects the studio by Fresnel's share. */
  private glass(p: Vec, d: Vec, hit: Hit, material: Extract<Material, { kind: 'glass' }>): Vec {
    let seen: Vec = [0, 0, 0]
    let weight: Vec = [1, 1, 1]
    let at = p
    let direction = d
    let next: Hit | null = hit
    for (let bounce = 0; bounce < MOST_BOUNCES && next; bounce++) {
      const entering = dot(direction, next.normal) < 0
      const n = entering ? next.normal : scale(next.normal, -1)
      const eta = entering ? 1 / material.ior : material.ior
      const cosI = -dot(direction, n)
      const sin2 = eta * eta * (1 - cosI * cosI)
      if (sin2 >= 1) direction = add(direction, scale(n, 2 * cosI))
      else {
        const cosT = Math.sqrt(1 - sin2)
        const share = fresnelShare(cosI, cosT, eta)
        if (entering) {
          const mirrored = add(direction, scale(n, 2 * cosI))
          const light = this.scene.studio(mirrored, 0.02)
          seen = add(seen, [
            weight[0] * share * light[0],
            weight[1] * share * light[1],
            weight[2] * share * light[2],
          ])
        }
        weight = scale(weight, 1 - share)
        direction = add(scale(direction, eta), scale(n, eta * cosI - cosT))
      }
      const inside = entering ? sin2 < 1 : sin2 >= 1
      const following: Hit | null = this.body.hit(at, direction)
      if (inside && following) {
        const k = Math.min(1, following.t / 60)
        weight = [
          weight[0] * material.tint[0] ** k,
          weight[1] * material.tint[1] ** k,
          weight[2] * material.tint[2] ** k,
        ]
      }
      if (!following) break
      at = add(at, scale(direction, following.t))
      next = following
    }
    const behind = this.scene.surroundings(at, direction)
    return add(seen, [weight[0] * behind[0], weight[1] * behind[1], weight[2] * behind[2]])
  }
}

/** Reflected share of unpolarised light (Fresnel). */
function fresnelShare(cosI: number, cosT: number, eta: number): number {
  const s = (eta * cosI - cosT) / (eta * cosI + cosT)
  const p = (cosI - eta * cosT) / (cosI + eta * cosT)
  return (s * s + p * p) / 2
}

/** Gaussian blur in linear light, rows then columns. */
function blur(image: Float32Array, width: number, height: number, sigma: number): void {
  if (!(sigma > 0)) return
  const reach = Math.ceil(3.5 * sigma)
  const kernel = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  )
  const total = kernel.reduce((a, b) => a + b, 0)
  kernel.forEach((k, i) => (kernel[i] = k / total))
  const pass = (lines: number, length: number, lineStep: number, step: number) => {
    const line = new Float32Array(3 * length)
    for (let l = 0; l < lines; l++) {
      const start = l * lineStep
      for (let i = 0; i < length; i++)
        for (let c = 0; c < 3; c++) line[3 * i + c] = image[start + i * step + c]!
      for (let i = 0; i < length; i++) {
        let r = 0
        let g = 0
        let b = 0
        for (let k = -reach; k <= reach; k++) {
          const j = 3 * Math.min(length - 1, Math.max(0, i + k))
          const w = kernel[k + reach]!
          r += w * line[j]!
          g += w * line[j + 1]!
          b += w * line[j + 2]!
        }
        image[start + i * step] = r
        image[start + i * step + 1] = g
        image[start + i * step + 2] = b
      }
    }
  }
  pass(height, width, 3 * width, 3)
  pass(width, height, 3, 3 * width)
}

/** Vignetting, noise, tone and sRGB encoding (IEC 61966-2-1). */
function develop(
  image: Float32Array,
  width: number,
  height: number,
  { noise, seed }: RenderOptions,
): Uint8Array {
  const out = new Uint8Array(3 * width * height)
  const next = random(seed + 5)
  const half2 = (width * width + height * height) / 4
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = 3 * (y * width + x)
      const fall = 1 - 0.16 * (((x - width / 2) ** 2 + (y - height / 2) ** 2) / half2)
      const [shared] = gaussPair(next)
      const [a, b] = gaussPair(next)
      const own = [a, b, -(a + b) / 2]
      for (let c = 0; c < 3; c++) {
        const light = image[at + c]! * fall
        // Soft shoulder, so that highlights don't clip hard.
        const v = light <= 0.7 ? light : 0.7 + 0.3 * (1 - Math.exp(-(light - 0.7) / 0.3))
        const encoded = v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055
        const grain = noise * (0.6 + 0.8 * encoded) * (0.8 * shared + 0.6 * own[c]!)
        out[at + c] = Math.min(255, Math.max(0, Math.round(255 * encoded + grain)))
      }
    }
  }
  return out
}

import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { Body } from './body'
import { contourPoint, makeCamera, project, rayThrough, type CameraSpec } from './camera'
import { makePhoto, truthOf, type PhotoSpec } from './photo'
import { Scene } from './scene'
import { chainOf, chainVolume, shape } from './shape'
import { metal, opal } from './surface'
import type { Vec } from './vector'

const QUARTER = Math.tan(Math.PI / 8)
const camera = (change: Partial<CameraSpec> = {}): CameraSpec => ({
  width: 480,
  height: 480,
  focalLength35mm: 160,
  distance: 600,
  cameraHeight: 50,
  pitch: 0,
  ...change,
})
/** A ball of radius R standing on the ground. */
const ball = (R: number) =>
  shape(0, 0)
    .arc(R, R, QUARTER)
    .arc(0, 2 * R, QUARTER)
    .done()
/** A soot-black ball before a bright wall: both sides of its edge are even. */
const sooty = (roll = 0, change: Partial<CameraSpec> = {}): PhotoSpec => ({
  name: 'ball',
  shape: ball(50),
  materials: [{ kind: 'opaque', look: () => ({ colour: [0, 0, 0], gloss: 0, metal: false, roughness: 1 }) }],
  camera: camera({ roll, ...change }),
  scene: {
    backdrop: 'plain',
    wallTop: [0.5, 0.5, 0.5],
    wallBottom: [0.5, 0.5, 0.5],
    floor: [0.5, 0.5, 0.5],
    stand: 'foot',
    key: [0, 0.2, 1],
    seed: 3,
  },
  lens: { blur: 0, noise: 0 },
  jpegQuality: 100,
})

describe('shape', () => {
  it('arcs and cubics have the volume of closed forms', () => {
    // Ball: 4/3 π R³. Chords of 1.5° leave a relative error of about 2·(1.5°)²/12 ≈ 1e-4.
    expect(chainVolume(chainOf(ball(50))) / ((4 / 3) * Math.PI * 50 ** 3)).toBeCloseTo(1, 3)
    const cone = chainOf(shape(0, 0).line(30, 0).line(0, 90).done())
    expect(chainVolume(cone)).toBeCloseTo((Math.PI * 900 * 90) / 3, 6)
    // A cubic with its control points on the chord is the chord.
    const straight = chainOf(shape(0, 0).line(30, 0).cubic([20, 30], [10, 60], [0, 90]).done())
    expect(chainVolume(straight)).toBeCloseTo((Math.PI * 900 * 90) / 3, 6)
  })

  it('normals look outwards', () => {
    const { startNormal, r, z } = chainOf(ball(50))
    for (let k = 1; k < r.length - 1; k++) {
      const [nr, nz] = [startNormal[2 * k]!, startNormal[2 * k + 1]!]
      expect(nr * r[k]! + nz * (z[k]! - 50)).toBeGreaterThan(49.9)
    }
  })
})

describe('camera', () => {
  it('projecting a point and shooting the ray back meets the point, also with a distorting lens', () => {
    const c = makeCamera(
      camera({ pitch: 0.2, yaw: 0.05, roll: -1.4, k1: -0.3, focalLength35mm: 35, cameraHeight: 180 }),
    )
    for (const p of [
      [0, 0, 0],
      [40, -20, 90],
      [-60, 30, 10],
    ] as Vec[]) {
      const { x, y } = project(c, p)
      const d = rayThrough(c, x, y)
      const q = p.map((v, i) => v - c.position[i]!) as Vec
      const along = q[0] * d[0] + q[1] * d[1] + q[2] * d[2]
      expect(Math.hypot(q[0] - along * d[0], q[1] - along * d[1], q[2] - along * d[2])).toBeLessThan(1e-9)
    }
  })

  it('a lying picture has its axis level, the top to the right', () => {
    const c = makeCamera(camera({ roll: -Math.PI / 2, cameraHeight: 0 }))
    const foot = project(c, [0, 0, 0])
    const top = project(c, [0, 0, 100])
    expect(top.y).toBeCloseTo(foot.y, 9)
    expect(top.x).toBeGreaterThan(foot.x + 10)
  })

  it('the contour of a sphere level with the camera lies at asin(R/D)', () => {
    // Angular radius of a sphere in perspective: asin(R/D), closed form.
    const c = makeCamera(camera())
    const p = contourPoint(c, { r: 50, z: 50, nr: 1, nz: 0 }, 1)!
    expect(project(c, p).x - 240).toBeCloseTo(c.f * Math.tan(Math.asin(50 / 600)), 9)
  })
})

describe('body', () => {
  it('is hit where closed forms say: cylinder, disc and ball', () => {
    const cylinder = new Body(chainOf(shape(0, 0).line(30, 0).line(30, 80).line(0, 80).done()))
    expect(cylinder.distance([0, -200, 40], [0, 1, 0])).toBeCloseTo(170, 9)
    expect(cylinder.distance([10, 5, 200], [0, 0, -1])).toBeCloseTo(120, 9)
    expect(cylinder.distance([31, -200, 40], [0, 1, 0])).toBe(Infinity)
    const round = new Body(chainOf(ball(50)))
    for (const x of [0, 10, 35, 49]) {
      const hit = round.hit([x, -300, 50], [0, 1, 0])!
      expect(hit.t).toBeCloseTo(300 - Math.sqrt(2500 - x * x), 1)
      expect(hit.normal[0]).toBeCloseTo(x / 50, 2)
    }
  })

  it('agrees with trying every chord, for rays from anywhere', () => {
    const chain = chainOf(
      shape(0, 0).line(30, 0).arc(20, 40, -0.4).cubic([50, 60], [5, 70], [15, 90]).line(0, 90).done(),
    )
    const body = new Body(chain)
    const whole = new Body(chain)
    // One bucket that holds every chord: no slice can be missed.
    Object.assign(whole, {
      buckets: Array.from({ length: 96 }, () => Int32Array.from(chain.r.slice(1), (_, k) => k)),
    })
    let hits = 0
    for (let i = 0; i < 3000; i++) {
      const a = i * 2.399963
      const o: Vec = [120 * Math.cos(a), 120 * Math.sin(a), ((i * 37) % 200) - 50]
      const to: Vec = [((i * 13) % 60) - 30, ((i * 29) % 60) - 30, (i * 7) % 90]
      const v = to.map((t, k) => t - o[k]!) as Vec
      const l = Math.hypot(...v)
      const d: Vec = [v[0] / l, v[1] / l, v[2] / l]
      expect(body.distance(o, d)).toBe(whole.distance(o, d))
      if (body.distance(o, d) < Infinity) hits++
    }
    expect(hits).toBeGreaterThan(1500)
  })
})

describe('room', () => {
  it('shades the gap beneath a chamfered foot, however small it is beside the piece', () => {
    const scene = new Scene(
      { ...sooty().scene, key: [0, 1, 0.01] },
      new Body(chainOf(shape(0, 0).line(8, 0).line(9, 1).line(9, 80).line(60, 110).line(0, 110).done())),
    )
    const front = Array.from({ length: 121 }, (_, i) => ((210 + i) * Math.PI) / 180)
    const light = (radius: number) =>
      front.reduce((sum, a) => sum + scene.surroundings([radius * Math.cos(a), radius * Math.sin(a), 50], [0, 0, -1])[1], 0) // prettier-ignore
    // Of an even sky a place sees (1 - cos e) / 2 below an edge at elevation e: here of 46.5°, and of 90° below the edge itself.
    const closed = (1 - Math.cos(Math.atan2(1, 0.95))) / (1 - Math.cos(Math.PI / 2))
    expect(light(8.05) / light(9)).toBeGreaterThan(0.7 * closed)
    expect(light(8.05) / light(9)).toBeLessThan(1.4 * closed)
    // Where the rings about the foot end, the shadow goes on without a step.
    expect(light(13) / light(12.6)).toBeCloseTo(1, 1)
  })
})

describe('picture', () => {
  it('shows a sphere of angular radius asin(R/D), its edge right to 1/20 px', async () => {
    const spec = sooty()
    const { data, info } = await sharp(await makePhoto(spec))
      .raw()
      .toBuffer({ resolveWithObject: true })
    const radius = makeCamera(spec.camera).f * Math.tan(Math.asin(50 / 600))
    const light = (x: number, y: number) =>
      ((data[(y * info.width + x) * info.channels]! / 255 + 0.055) / 1.055) ** 2.4
    /** Place of the edge in a row: whole pixels up to it, and the covered share of those it may cross. */
    const edgeIn = (y: number, guess: number, way: 1 | -1) => {
      const from = Math.floor(guess) - 4 * way
      const inside = light(from, y)
      const outside = light(from + 8 * way, y)
      let covered = 0
      for (let k = 1; k < 8; k++) covered += (light(from + k * way, y) - outside) / (inside - outside)
      return way === 1 ? from + 1 + covered : from - covered
    }
    const errors: number[] = []
    for (let y = 180; y < 300; y++) {
      const half = Math.sqrt(radius ** 2 - (y + 0.5 - 240) ** 2)
      errors.push(edgeIn(y, 240 + half, 1) - (240 + half), 240 - half - edgeIn(y, 240 - half, -1))
    }
    const mean = errors.reduce((a, b) => a + b, 0) / errors.length
    const spread = Math.sqrt(errors.reduce((a, b) => a + (b - mean) ** 2, 0) / errors.length)
    // The ball's chain of 1.5° chords lies up to R(1 - cos 0.75°) = 0.004 mm, 0.02 px, inside the true ball.
    expect(Math.abs(mean)).toBeLessThan(0.05)
    expect(spread).toBeLessThan(0.05)
  })

  it('is the same for the same seed and carries the focal length', async () => {
    const spec: PhotoSpec = {
      ...sooty(),
      materials: [metal([0.5, 0.4, 0.2], [0.2, 0.1, 0], 0.2, 5)],
      camera: camera({ width: 120, height: 160 }),
      lens: { blur: 0.7, noise: 2 },
      jpegQuality: 90,
    }
    const one = await makePhoto(spec)
    const two = await makePhoto(spec)
    expect(Buffer.compare(one, two)).toBe(0)
    const other = await makePhoto({ ...spec, scene: { ...spec.scene, seed: 4 } })
    expect(Buffer.compare(one, other)).not.toBe(0)
    const exifr = (await import('exifr')).default
    expect(await exifr.parse(one, ['FocalLengthIn35mmFormat'])).toEqual({ FocalLengthIn35mmFormat: 160 })
  })

  it('stored turned, comes out upright through its EXIF orientation', async () => {
    const spec: PhotoSpec = { ...sooty(), materials: [opal(1)], camera: camera({ width: 120, height: 160 }) }
    const plain = await sharp(await makePhoto(spec))
      .greyscale()
      .raw()
      .toBuffer()
    const turned = await makePhoto({ ...spec, storedTurned: true })
    expect(await sharp(turned).metadata()).toMatchObject({ width: 160, height: 120, orientation: 6 })
    const upright = await sharp(turned).rotate().greyscale().raw().toBuffer()
    let worst = 0
    plain.forEach((v, i) => (worst = Math.max(worst, Math.abs(v - upright[i]!))))
    expect(worst).toBeLessThan(6)
  })

  it('its truth names height, ⌀, volume and the axis in the picture', () => {
    const truth = truthOf(sooty(0.1))
    expect(truth.height).toBeCloseTo(100, 9)
    expect(truth.maxDiameter).toBeCloseTo(100, 9)
    const [[fx, fy], [tx, ty]] = truth.axisPx
    expect(Math.atan2(tx - fx, fy - ty)).toBeCloseTo(-0.1, 6)
  })
})

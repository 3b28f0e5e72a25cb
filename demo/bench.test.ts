import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import type { Raster } from '../core/picture/raster'
import { distanceTo, profileError } from './bench/judge'
import { glossyCopy } from './bench/glossy-copy'
import { letteredCopy } from './bench/lettered-copy'
import { markedCopy } from './bench/marked-copy'
import { noisyCopy } from './bench/noisy-copy'
import { phoneCopy } from './bench/phone-copy'
import { plainReading } from './bench/plain-reading'
import { pixels } from './bench/read-photo'
import { rulerCopy } from './bench/ruler-copy'
import { shadeCopy } from './bench/shade-copy'
import { thingsCopy } from './bench/things-copy'
import { tightCopy } from './bench/tight-copy'
import { softCopy } from './bench/soft-copy'
import { tracedEdges } from './bench/true-silhouette'
import { webCopy } from './bench/web-copy'
import { LAMP_ROOM, photoFileName } from './lamp-room'
import { PHOTO_DIR } from './make-photos'
import { makeCamera, project } from './maker/camera'
import { truthOf } from './maker/photo'

/** Where a copy of a picture differs clearly from it, and in how many px. */
function changesOf(before: Raster, after: Raster) {
  const { width, height } = before
  expect([after.width, after.height]).toEqual([width, height])
  const changed = (x: number, y: number) => {
    const i = 4 * (Math.floor(y) * width + Math.floor(x))
    return [0, 1, 2].some((c) => Math.abs(after.data[i + c]! - before.data[i + c]!) > 40)
  }
  let count = 0
  for (let i = 0; i < width * height; i++) if (changed(i % width, i / width)) count++
  return { changed, count }
}

describe('the bench’s own judge', () => {
  const cone: [number, number][] = [[0, 0], [50, 0], [30, 100], [0, 100]] // prettier-ignore
  const all = cone.map(() => true)

  it('finds nothing wrong with the truth, and a shift where it is', () => {
    const same = profileError(cone, all, cone)
    for (const v of Object.values(same)) expect(Math.abs(v)).toBeLessThan(1e-9)
    // The flank half a mm farther out, on a height of 100 mm.
    const wider = profileError(
      cone,
      [false, true, true, false],
      [
        [0, 0],
        [50.5, 0],
        [30.5, 100],
        [0, 100],
      ],
    )
    expect(wider.rms).toBeCloseTo(0.5 * Math.cos(Math.atan(0.2)), 2)
    expect(wider.diameter).toBeCloseTo(1, 6)
    expect(wider.height).toBeCloseTo(0, 9)
    // Volume of a frustum, pi h (R² + R r + r²) / 3.
    const frustum = (R: number, r: number) => R * R + R * r + r * r
    expect(wider.volume).toBeCloseTo(100 * (frustum(50.5, 30.5) / frustum(50, 30) - 1), 6)
  })

  it('counts what is seen only', () => {
    const dented: [number, number][] = [
      [0, 0],
      [50, 0],
      [30, 100],
      [0, 60],
    ]
    expect(profileError(cone, [false, true, true, false], dented).rms).toBeLessThan(1e-9)
    expect(profileError(cone, all, dented).rms).toBeGreaterThan(5)
    expect(distanceTo(cone, [60, 50])).toBeCloseTo(20 * Math.cos(Math.atan(0.2)), 9)
  })
})

describe('the bench’s pictures', () => {
  it('as a phone saves them are darker towards the corners, and nothing moves', async () => {
    const [width, height] = [300, 400]
    const data = Buffer.alloc(3 * width * height, 150)
    for (let y = 100; y < 300; y++) data.fill(40, 3 * (y * width + 100), 3 * (y * width + 200))
    const jpeg = await sharp(data, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 95 })
      .toBuffer()
    const { data: out, info } = await sharp(await phoneCopy(jpeg))
      .raw()
      .toBuffer({ resolveWithObject: true })
    expect([info.width, info.height]).toEqual([width, height])
    const at = (x: number, y: number) => out[3 * (y * width + x)]!
    expect(Math.abs(at(132, 80) - 148)).toBeLessThan(6)
    // A quarter less light is an eighth less of the byte, about.
    expect(at(297, 397)).toBeLessThan(138)
    for (const y of [150, 250]) {
      expect(at(96, y) - at(104, y)).toBeGreaterThan(70)
      expect(at(204, y) - at(196, y)).toBeGreaterThan(70)
    }
  })

  it('taken in bad light are noisy by seven codes, and as light as they were', async () => {
    const [width, height] = [300, 200]
    const plain = await sharp(Buffer.alloc(3 * width * height, 120), { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 95 })
      .toBuffer()
    const grey = await sharp(await noisyCopy(plain))
      .greyscale()
      .raw()
      .toBuffer()
    const mean = grey.reduce((sum, v) => sum + v / grey.length, 0)
    const sd = Math.sqrt(grey.reduce((sum, v) => sum + (v - mean) ** 2 / grey.length, 0))
    expect(Math.abs(mean - 120)).toBeLessThan(1)
    // Independent in three channels, which BT.601 weighs by 0.299, 0.587 and 0.114; what is saved loses some of it.
    expect(sd).toBeGreaterThan(0.8 * 7 * Math.hypot(0.299, 0.587, 0.114))
    expect(sd).toBeLessThan(1.1 * 7 * Math.hypot(0.299, 0.587, 0.114))
    expect(await noisyCopy(plain)).toEqual(await noisyCopy(plain))
  })

  it('on a glossy floor show the piece once more below its foot, fainter, and leave it as it is', async () => {
    const spec = LAMP_ROOM.find(({ name }) => name === 'Ink bottle')!
    const { axisPx } = truthOf(spec)
    const jpeg = readFileSync(join(PHOTO_DIR, photoFileName(spec.name)))
    const [before, after] = [await pixels(jpeg), await pixels(await glossyCopy(jpeg, spec))]
    const at = ({ width, data }: typeof before, up: number) => {
      const [x, y] = [axisPx[0][0], axisPx[0][1] - up].map(Math.floor) as [number, number]
      return [...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 3)]
    }
    const minus = (p: number[], q: number[]) => p.map((v, k) => v - q[k]!)
    const dot = (p: number[], q: number[]) => p.reduce((sum, v, k) => sum + v * q[k]!, 0)
    for (const up of [60, 200, 400])
      expect(Math.hypot(...minus(at(after, up), at(before, up)))).toBeLessThan(8)
    for (const down of [120, 160]) {
      const [floor, piece, image] = [at(before, -down), at(before, down), at(after, -down)] as [
        number[],
        number[],
        number[],
      ]
      const [shown, whole] = [minus(image, floor), minus(piece, floor)]
      const share = dot(shown, whole) / dot(whole, whole)
      expect(share).toBeGreaterThan(0.2)
      expect(share).toBeLessThan(0.42)
    }
  })

  it('with a ruler, or a box and a coin, show them and leave the piece as it is', async () => {
    const spec = LAMP_ROOM.find(({ name }) => name === 'Ink bottle')!
    const { axisPx, contourPx } = truthOf(spec)
    const jpeg = readFileSync(join(PHOTO_DIR, photoFileName(spec.name)))
    const before = await pixels(jpeg)
    const { width, height } = before
    const [[footX, footY], [topX, topY]] = axisPx
    const half = Math.max(...contourPx.flatMap((p) => (p ? [Math.abs(p[0] - footX)] : [])))
    for (const place of ['beside', 'before', 'things'] as const) {
      const copy = place === 'things' ? thingsCopy(jpeg, spec) : rulerCopy(jpeg, spec, place)
      const after = await pixels((await copy)!)
      const changed = (x: number, y: number) => {
        const i = 4 * (Math.floor(y) * width + Math.floor(x))
        return [0, 1, 2].some((c) => Math.abs(after.data[i + c]! - before.data[i + c]!) > 25)
      }
      let [inside, outside] = [0, 0]
      for (let y = 0; y < height; y += 2)
        for (let x = 0; x < width; x += 2) {
          if (!changed(x, y)) continue
          if (Math.abs(x - footX) < half && y < footY - 20 && y > topY - 20) inside++
          else outside++
        }
      expect(inside).toBe(0)
      expect(outside).toBeGreaterThan(place === 'before' ? 200 : 2000)
    }
    expect(Math.abs(topX - footX)).toBeLessThan(half)
    // A piece as wide as its picture leaves no room.
    const { camera } = spec
    const wide = { ...spec, camera: { ...camera, focalLength35mm: 4 * camera.focalLength35mm } }
    expect(await rulerCopy(jpeg, wide)).toBeNull()
  })

  it('with dimension lines show them beside and below the piece and leave it as it is', async () => {
    for (const spec of LAMP_ROOM) {
      const { left, right } = tracedEdges(spec)
      const jpeg = readFileSync(join(PHOTO_DIR, photoFileName(spec.name)))
      const [before, after] = [await pixels(jpeg), await pixels(await markedCopy(jpeg, spec))]
      const { changed, count } = changesOf(before, after)
      // Within the edges, a little off them, row by row as they were traced.
      left.forEach(([x, y], k) => {
        for (let u = x + 6; u < right[k]![0] - 6; u += 3) expect(changed(u, y)).toBe(false)
      })
      // At least the four long lines, a px wide.
      expect(count).toBeGreaterThan(before.height / 2)
    }
  })

  it('with words over them show those clear of the piece', async () => {
    let written = 0
    for (const spec of LAMP_ROOM) {
      const { left, right } = tracedEdges(spec)
      const jpeg = readFileSync(join(PHOTO_DIR, photoFileName(spec.name)))
      const copy = await letteredCopy(jpeg, spec)
      if (!copy) continue
      written++
      const [before, after] = [await pixels(jpeg), await pixels(copy)]
      const { changed, count } = changesOf(before, after)
      left.forEach(([x, y], k) => {
        for (let u = x; u < right[k]![0]; u += 3) expect(changed(u, y)).toBe(false)
      })
      // A few letters at least, and no more than lines of text.
      expect(count).toBeGreaterThan(0.0005 * before.width * before.height)
      expect(count).toBeLessThan(0.06 * before.width * before.height)
    }
    expect(written).toBeGreaterThan(3)
  })

  it('cropped close to the piece show all of it, and little else', async () => {
    for (const spec of LAMP_ROOM) {
      const { left, right } = tracedEdges(spec)
      const jpeg = readFileSync(join(PHOTO_DIR, photoFileName(spec.name)))
      const { crop, bytes } = await tightCopy(jpeg, spec)
      const { width, height: high } = await sharp(bytes).metadata()
      expect([width, high]).toEqual([crop.width, crop.height])
      for (const [x, y] of [...left, ...right]) {
        expect(Math.min(x - crop.left, crop.left + crop.width - x)).toBeGreaterThan(0)
        expect(Math.min(y - crop.top, crop.top + crop.height - y)).toBeGreaterThan(0)
      }
      // The ends' rings reach a little beyond the sides.
      const spans = [0, 1]
        .map((k) => [...left, ...right].map((p) => p[k]!))
        .map((v) => Math.max(...v) - Math.min(...v))
      expect(crop.width).toBeLessThan(1.25 * spans[0]!)
      expect(crop.height).toBeLessThan(1.25 * spans[1]!)
    }
  })

  it('with a soft shade under the foot leave the piece as it is, and darken the floor less and less farther out', async () => {
    const spec = LAMP_ROOM.find(({ name }) => name === 'Ink bottle')!
    const { left, right } = tracedEdges(spec)
    const jpeg = readFileSync(join(PHOTO_DIR, photoFileName(spec.name)))
    const [before, after] = [await pixels(jpeg), await pixels(await shadeCopy(jpeg, spec))]
    const shareAt = (x: number, y: number) => {
      let [was, is] = [0, 0]
      for (let k = -3; k <= 3; k++) {
        const i = 4 * (Math.floor(y) * before.width + Math.floor(x) + k)
        was += before.data[i]!
        is += after.data[i]!
      }
      return is / was
    }
    // A few px within either edge, and in the middle.
    left.forEach(([x, y], i) => {
      expect(Math.abs(shareAt(x + 7, y) - 1)).toBeLessThan(0.05)
      expect(Math.abs(shareAt((x + right[i]![0]) / 2, y) - 1)).toBeLessThan(0.05)
    })
    // The front of the foot's ring, of 29 mm.
    const front = project(makeCamera(spec.camera), [0, -29, 0])
    const below = [3, 12, 24, 48].map((down) => shareAt(front.x, front.y + down))
    expect(below[0]).toBeLessThan(0.9)
    below.slice(1).forEach((share, i) => expect(share).toBeGreaterThan(below[i]! - 0.03))
    expect(below.at(-1)).toBeGreaterThan(0.97)
  })

  it('out of focus and from the web show the piece where it was, blurred and reduced', async () => {
    const [width, height] = [1200, 1600]
    const data = Buffer.alloc(3 * width * height, 180)
    for (let y = 400; y < 1200; y++) data.fill(40, 3 * (y * width + 400), 3 * (y * width + 800))
    const sharpest = await sharp(data, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 95 })
      .toBuffer()
    const [soft, web] = [await pixels(await softCopy(sharpest)), await pixels(await webCopy(sharpest))]
    expect([soft.width, soft.height]).toEqual([width, height])
    expect([web.width, web.height]).toEqual([450, 600])
    /** Where a row's light falls through the middle between both sides, px. */
    const edge = (picture: typeof soft, y: number) => {
      const at = (x: number) => picture.data[4 * (y * picture.width + x)]!
      const x = Array.from({ length: picture.width / 2 }, (_, i) => i).findIndex((i) => at(i + 1) <= 110)
      return x + 0.5 + (at(x) - 110) / (at(x) - at(x + 1))
    }
    expect(edge(soft, 800)).toBeCloseTo(400, 0)
    expect(edge(web, 300)).toBeCloseTo(400 * 0.375, 0)
    // The steepest slope of an edge blurred by a Gaussian is its step over √(2π) of its width.
    const steepest = Math.max(...Array.from({ length: 40 }, (_, i) => soft.data[4 * (800 * width + 380 + i)]! - soft.data[4 * (800 * width + 381 + i)]!)) // prettier-ignore
    expect(140 / Math.sqrt(2 * Math.PI) / steepest).toBeCloseTo(0.0028 * 1600, 0)
  })

  it('are read plainly as row widths by one scale', () => {
    const [width, height] = [200, 300]
    const raster = { width, height, data: new Uint8Array(4 * width * height).fill(255) }
    for (let y = 50; y < 250; y++)
      for (let x = 60; x < 140; x++) raster.data.set([30, 30, 30, 255], 4 * (y * width + x))
    const read = plainReading(raster, 100)
    const widest = Math.max(...read.map(([r]) => r))
    expect(Math.abs(widest - 20)).toBeLessThan(0.6)
    expect(plainReading({ width, height, data: new Uint8Array(4 * width * height).fill(255) }, 100)).toEqual(
      [],
    )
  })
})

import { mkdirSync, existsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { makePhoto, truthOf } from '../maker/photo'
import type { BenchPhoto } from './random-photo'

/** Writes photos of the bench into a directory, with their truth; those that are there stay. */
export async function renderBench(dir: string, photos: readonly BenchPhoto[]): Promise<void> {
  mkdirSync(dir, { recursive: true })
  for (const photo of photos) {
    const file = join(dir, `${photo.id}.jpg`)
    if (existsSync(file)) continue
    const bytes = await makePhoto(photo.spec)
    writeFileSync(file, photo.handle ? await withHandle(bytes, photo) : bytes)
    writeFileSync(file.replace(/jpg$/, 'json'), JSON.stringify(truthOf(photo.spec)))
  }
}

/** The photo with a handle drawn beside the body, in a colour of its own. */
async function withHandle(bytes: Buffer, { spec, handle }: BenchPhoto): Promise<Buffer> {
  const { axisPx, profile } = truthOf(spec)
  const [[x0, y0], [x1, y1]] = axisPx
  const height = profile.reduce((m, p) => Math.max(m, p[1]), 0)
  const px = Math.hypot(x1 - x0, y1 - y0) / height
  const radius = (z: number) => Math.max(...profile.filter((p) => Math.abs(p[1] - z) < 0.06 * height).map((p) => p[0])) // prettier-ignore
  const at = (r: number, z: number) => ({
    x: x0 + ((x1 - x0) * z) / height + handle! * r * px,
    y: y0 + ((y1 - y0) * z) / height,
  })
  const low = at(0.8 * radius(0.3 * height), 0.3 * height)
  const high = at(0.8 * radius(0.65 * height), 0.65 * height)
  const out = handle! * 0.28 * height * px
  const d = `M${low.x},${low.y} C${low.x + 2 * out},${low.y} ${high.x + 2 * out},${high.y} ${high.x},${high.y}`
  const { width, height: tall } = spec.camera
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${tall}"><path d="${d}" fill="none" stroke="#6b4a2f" stroke-width="${0.05 * height * px}"/></svg>`
  // The handle goes behind the body's colours only at its ends, which lie inside the outline.
  return sharp(bytes)
    .composite([{ input: Buffer.from(svg) }])
    .keepMetadata()
    .jpeg({ quality: 91 })
    .toBuffer()
}

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp, { type Sharp } from 'sharp'
import { beforeAll, describe, expect, it } from 'vitest'
import { autoProfile } from '../core/calibrate/auto-profile'
import { focalPx } from '../core/calibrate/calibrate'
import { distanceTo, profileError } from '../demo/bench/judge'
import { markedCopy } from '../demo/bench/marked-copy'
import { seenBy } from '../demo/bench/read-photo'
import { silhouetteMisses, silhouetteReport } from '../core/measure/silhouette'
import { tracedEdges, trueView } from '../demo/bench/true-silhouette'
import { LAMP_ROOM } from '../demo/lamp-room'
import { truthOf } from '../demo/maker/photo'

const bottle = LAMP_ROOM.find((s) => s.name === 'Ink bottle')!
const truth = truthOf(bottle)
const seen = seenBy(bottle, truth)
const SIZE = { width: 1500, height: 2000 }
const photo = readFileSync(join(import.meta.dirname, '../demo/photos/ink-bottle.jpg'))

/** What the photo's file says, mm. */
const FOCAL = 262

async function read(
  picture: Sharp,
  facts: { view?: 'auto' | 'near' | 'distant'; distance?: number | null; focal?: number | null } = {},
) {
  const { data, info } = await picture.ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return autoProfile(
    { width: info.width, height: info.height, data: new Uint8Array(data) },
    {
      photo: {
        width: info.width,
        height: info.height,
        quarterTurns: 0,
        focalLength35mm: facts.focal === undefined ? FOCAL : facts.focal,
      },
      heightMm: truth.height,
      diameterMm: null,
      view: facts.view ?? 'near',
      distanceMm: facts.distance === undefined ? bottle.camera.distance : facts.distance,
      focalLength35mm: null,
      k1: 0,
      up: { x: 0, y: -1 },
      axis: null,
    },
  )
}
/** Distance of one profile from another that all but a share of its points keep, % of the height. */
function apart(a: readonly [number, number][], b: readonly [number, number][], share = 0.99): number {
  const all = a.filter((_, i) => i % 9 === 0).map((p) => distanceTo(b, p)).sort((p, q) => p - q) // prettier-ignore
  return (100 * all[Math.floor(share * all.length)]!) / truth.height
}

describe('the whole way from a photo to its half-profile', () => {
  let plain: Awaited<ReturnType<typeof read>>
  beforeAll(async () => {
    plain = await read(sharp(photo))
  })

  it('reads the visible half-profile to a tenth of a percent of the height', () => {
    const error = profileError(truth.profile, seen, plain.profile) // prettier-ignore
    expect(error.rms).toBeLessThan(0.1)
    expect(Math.abs(error.diameter)).toBeLessThan(0.25)
    expect(Math.abs(error.volume)).toBeLessThan(0.6)
  })

  it('gives none by a distance that lens and height contradict by far, and one without it', async () => {
    await expect(read(sharp(photo), { distance: 2 * bottle.camera.distance })).rejects.toMatchObject({ code: 'distance-far-off', message: expect.stringMatching(/only a part of the piece.*without the distance/) }) // prettier-ignore
    const { profile } = await read(sharp(photo), { distance: null })
    expect(profileError(truth.profile, seen, profile).rms).toBeLessThan(0.1)
  })

  it('reads a copy of its cut-out that shows an editor’s grey squares, and says so', async () => {
    const { left, right } = plain.found.outline
    const placesOf = (points: Float64Array) =>
      Array.from({ length: points.length / 2 }, (_, i) => `${points[2 * i]},${points[2 * i + 1]}`)
    const path = [...placesOf(left.points), ...placesOf(right.points).reverse()].join('L')
    const svg = (inner: string) =>
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE.width}" height="${SIZE.height}">${inner}</svg>`,
      )
    const cut = await sharp(photo)
      .ensureAlpha()
      .composite([{ input: svg(`<path d="M${path}Z"/>`), blend: 'dest-in' }])
      .png()
      .toBuffer()
    const squares =
      '<pattern id="p" width="32" height="32" patternUnits="userSpaceOnUse"><path d="M0,0h32v32h-32z" fill="#fff"/><path d="M0,0h16v32h16v-16h-32z" fill="#ccc"/></pattern>'
    const ground = sharp(svg(`<defs>${squares}</defs><rect width="100%" height="100%" fill="url(#p)"/>`))
    const copy = await ground
      .composite([{ input: cut }])
      .jpeg({ quality: 85 })
      .toBuffer()
    const { profile, warnings } = await read(sharp(copy))
    expect(profileError(truth.profile, seen, profile).rms).toBeLessThan(0.1)
    expect(warnings.join(' ')).toMatch(/grey squares/)
    expect(plain.warnings.join(' ')).not.toMatch(/grey squares/)
  })

  it('reads it with dimension lines drawn over it, and says that they were left out', async () => {
    const { profile, warnings } = await read(sharp(await markedCopy(photo, bottle)))
    expect(profileError(truth.profile, seen, profile).rms).toBeLessThan(0.1)
    expect(warnings.join(' ')).toMatch(/drawn over the photo/)
    expect(plain.warnings.join(' ')).not.toMatch(/drawn over the photo/)
  })

  it('its silhouette through the true camera lies on the photo maker’s contour within a pixel', () => {
    const edges = tracedEdges(bottle)
    const profile = Float64Array.from(plain.profile.flat())
    const misses = [edges.left, edges.right].map((side) => silhouetteMisses(trueView(bottle), side.map(([x, y]) => ({ x, y })), [profile])) // prettier-ignore
    const { rmsPx, medianPx } = silhouetteReport(misses[0]!, misses[1]!)!
    expect(rmsPx).toBeLessThan(1)
    expect(medianPx).toBeLessThan(0.5)
  })

  it('a mirrored picture gives the same', async () => {
    const mirrored = await read(sharp(photo).flop())
    expect(apart(mirrored.profile, plain.profile)).toBeLessThan(0.03)
  })

  it('a picture of half the size gives about the same, as near to the truth as its tilt is known', async () => {
    const half = await read(sharp(photo).resize(750, 1000))
    // The chamfered foot in its contact shadow tells the tilt to some 0.5° only, which moves the lower end.
    expect(apart(half.profile, plain.profile)).toBeLessThan(0.3)
    expect(apart(half.profile, plain.profile, 0.5)).toBeLessThan(0.1)
    expect(profileError(truth.profile, seen, half.profile).rms).toBeLessThan(0.1)
  })

  it('a handle on one side changes it by less than a tenth of a percent, but for its roots', async () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1500" height="2000"><path d="M1184,760C1440,760 1440,1150 1184,1150" fill="none" stroke="#5b4a36" stroke-width="60"/></svg>`
    const handled = await read(sharp(photo).composite([{ input: Buffer.from(svg) }]))
    expect(apart(handled.profile, plain.profile, 0.96)).toBeLessThan(0.1)
    expect(handled.read.states).toContain('left')
  })

  it('says which view it read with and why', async () => {
    const { solved, warnings } = await read(sharp(photo), { view: 'auto' })
    expect(solved.view.kind).toBe('near')
    expect(warnings.join()).not.toMatch(/parallel rays/)
    expect((await read(sharp(photo), { view: 'distant' })).solved.view.kind).toBe('distant')
  })

  it('reads it as well by a tape where no file tells the lens', async () => {
    const { profile, solved, warnings } = await read(sharp(photo), { focal: null })
    expect(profileError(truth.profile, seen, profile).rms).toBeLessThan(0.1)
    expect(solved.near!.focal.value / focalPx(FOCAL, SIZE)).toBeCloseTo(1, 1)
    expect(warnings).toEqual(plain.warnings)
  })

  it('has lens and distance told by the rings of foot and rim where nothing else tells them, and says so', async () => {
    const { profile, found, solved, warnings } = await read(sharp(photo), { focal: null, distance: null, view: 'auto' }) // prettier-ignore
    expect(solved.view.kind).toBe('near')
    const { value, sd } = found.focal!
    expect(Math.abs(value - focalPx(FOCAL, SIZE))).toBeLessThan(3 * sd)
    expect(sd / value).toBeLessThan(0.5)
    expect(solved.near!.focal.sd).toBeGreaterThanOrEqual(sd)
    expect(profileError(truth.profile, seen, profile).rms).toBeLessThan(0.15)
    expect(warnings.join()).toMatch(/rings of foot and rim told both/)
  })

  it.each([
    ['blank', '#b5b1a8', /No round piece stands out/],
    ['white', '#ffffff', /No round piece stands out/],
  ])('refuses a %s picture', async (_name, background, words) => {
    const picture = sharp({ create: { width: 600, height: 800, channels: 3, background } })
    await expect(read(picture)).rejects.toThrow(words)
  })

  it('of two pieces side by side reads one and says so, and refuses a piece cut by the border', async () => {
    const two = await sharp({ create: { width: 3000, height: 2000, channels: 3, background: '#c9c5bd' } })
      .composite([{ input: photo, left: 0, top: 0 }, { input: photo, left: 1500, top: 0 }]).png().toBuffer() // prettier-ignore
    // What is put together of two photos was taken by no lens.
    const { profile, warnings } = await read(sharp(two), { view: 'distant', focal: null })
    expect(apart(profile, plain.profile)).toBeLessThan(0.3)
    expect(warnings.join()).toMatch(/Something else stands in the picture/)
    await expect(read(sharp(photo).extract({ left: 0, top: 0, width: 1500, height: 1500 }))).rejects.toThrow(/reaches the border/) // prettier-ignore
  })
})

import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import type { AutoProfile } from '../core/calibrate/auto-profile'
import { distanceTo, profileError, type Profile, type ProfileError } from '../demo/bench/judge'
import { colouredPhoto } from '../demo/bench/coloured-photo'
import { glossyCopy } from '../demo/bench/glossy-copy'
import { letteredCopy } from '../demo/bench/lettered-copy'
import { markedCopy } from '../demo/bench/marked-copy'
import { noisyCopy } from '../demo/bench/noisy-copy'
import { phoneCopy } from '../demo/bench/phone-copy'
import { rulerCopy } from '../demo/bench/ruler-copy'
import { shadeCopy } from '../demo/bench/shade-copy'
import { softCopy } from '../demo/bench/soft-copy'
import { thingsCopy } from '../demo/bench/things-copy'
import { tightCopy } from '../demo/bench/tight-copy'
import { webCopy } from '../demo/bench/web-copy'
import { plainReading } from '../demo/bench/plain-reading'
import { ball, EGG } from '../demo/bench/published'
import { benchPhoto, DIFFICULTIES, type BenchPhoto } from '../demo/bench/random-photo'
import { pixels, readPhoto, seenBy } from '../demo/bench/read-photo'
import { recipeHash } from '../demo/make-photos'
import { makePhoto, truthOf, type PhotoSpec, type Truth } from '../demo/maker/photo'
import { inParallel } from './in-parallel'

/**
 * Second part of `npm run accuracy`: reads the half-profiles of seeded random pieces, photographed by the photo maker, and
 * writes docs/accuracy-outline.md with its chart. The photos are kept among the temporary files, since they take minutes.
 */
const COUNT = 60
/** … and so many of several colours, softer and in any light, which count by themselves. */
const COLOURED = 20
const PHOTOS: readonly BenchPhoto[] = [
  ...Array.from({ length: COUNT }, (_, i) => benchPhoto(i)),
  ...Array.from({ length: COLOURED }, (_, i) => colouredPhoto(i)),
]
const COPIES = {
  phone: phoneCopy,
  noisy: noisyCopy,
  glossy: glossyCopy,
  soft: softCopy,
  web: webCopy,
  ruler: rulerCopy,
  rulerBefore: (bytes: Buffer, spec: PhotoSpec) => rulerCopy(bytes, spec, 'before'),
  things: thingsCopy,
  shade: shadeCopy,
  marked: markedCopy,
  lettered: letteredCopy,
}
/** Copies that only pieces that stand upright have. */
const OF_STANDING: readonly CopyKind[] = [
  'glossy',
  'ruler',
  'rulerBefore',
  'things',
  'shade',
  'marked',
  'lettered',
]
type CopyKind = keyof typeof COPIES | 'tight'
const root = join(import.meta.dirname, '..')
/** Photos of another photo maker are others. */
const cache = join(tmpdir(), `baldacchino-bench-${recipeHash().slice(0, 12)}`)
const docs = join(root, 'docs')

interface Row {
  id: string
  difficulty: string
  family: string
  /** Camera distance in heights (or diameters, whichever is larger). */
  sizes: number
  near: ProfileError | null
  /** Through the camera, from a copy as a phone would have made it. */
  phone: ProfileError | null
  /** … and from one taken in bad light. */
  noisy: ProfileError | null
  /** … and from one on a glossy floor; lying pieces stay as they are. */
  glossy: ProfileError | null
  /** … out of focus, and as a web page shows it. */
  soft: ProfileError | null
  web: ProfileError | null
  /** … with a ruler that stands beside the piece, and with one that lies before it. */
  ruler: ProfileError | null
  rulerBefore: ProfileError | null
  /** … with a box and a coin beside it. */
  things: ProfileError | null
  /** … with a soft shade under its foot. */
  shade: ProfileError | null
  /** … with dimension lines drawn over it. */
  marked: ProfileError | null
  /** … with words written over it. */
  lettered: ProfileError | null
  /** … cropped close to the piece. */
  tight: ProfileError | null
  /** Copies there are none of: the piece lies, or there is no room for a ruler or words. */
  lacks: CopyKind[]
  /** … with the camera's distance alone, and with nothing known of the camera. */
  tape: ProfileError | null
  unknown: ProfileError | null
  distant: ProfileError | null
  /** What parallel rays would err by with a perfect outline: the true one, seen by the true camera, by the scale. */
  model: ProfileError | null
  plain: ProfileError | null
  /** Errors of points that both sides vouch for, over their standard errors. */
  ratios: number[]
  problem: string
}

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1] ?? NaN
const share = (values: number[], at: number) =>
  [...values].sort((a, b) => a - b)[Math.floor(at * values.length)] ?? NaN

/** How many standard errors each point that both edges vouch for lies off the truth; ends and corners left out. */
function ratiosOf({ read, profile }: AutoProfile, truth: Truth): number[] {
  const scale = truth.height / (read.top - read.foot)
  const out: number[] = []
  for (let i = 5; i < profile.length - 5; i += 7) {
    const sd = read.sd[i]! * scale
    if (read.states[i] !== 'both' || !Number.isFinite(sd)) continue
    out.push(distanceTo(truth.profile, profile[i]!) / sd)
  }
  return out
}

/** The true outline of one side read with parallel rays: what the model itself makes of it, with no error of finding. */
function byTrueOutline({ contourPx, axisPx: [foot, top], height }: Truth): Profile {
  const [dx, dy] = [top[0] - foot[0], top[1] - foot[1]]
  const mm = height / Math.hypot(dx, dy)
  const seen = contourPx.flatMap((p): [number, number][] => {
    if (!p) return []
    const [x, y] = [p[0] - foot[0], p[1] - foot[1]]
    const length = Math.hypot(dx, dy)
    const z = ((x * dx + y * dy) / length) * mm
    return z < 0 || z > height ? [] : [[(Math.abs(x * dy - y * dx) / length) * mm, z]]
  })
  return [[0, 0], [seen[0]?.[0] ?? 0, 0], ...seen, [seen[seen.length - 1]?.[0] ?? 0, height], [0, height]] // prettier-ignore
}

async function judge(photo: BenchPhoto): Promise<Row> {
  const bytes = readFileSync(join(cache, `${photo.id}.jpg`))
  const truth = truthOf(photo.spec)
  const seen = seenBy(photo.spec, truth)
  const { distance } = photo.spec.camera
  const row: Row = {
    id: photo.id,
    difficulty: photo.difficulty,
    family: photo.family,
    sizes: distance / Math.max(truth.height, truth.maxDiameter),
    near: null,
    phone: null,
    noisy: null,
    glossy: null,
    soft: null,
    web: null,
    ruler: null,
    rulerBefore: null,
    things: null,
    shade: null,
    marked: null,
    lettered: null,
    tight: null,
    lacks: photo.lying ? [...OF_STANDING] : [],
    tape: null,
    unknown: null,
    distant: null,
    model: profileError(truth.profile, seen, byTrueOutline(truth)),
    plain: null,
    ratios: [],
    problem: '',
  }
  for (const by of ['near', 'tape', 'unknown', 'distant'] as const) {
    try {
      const got = await readPhoto(bytes, truth, photo.lying, by)
      row[by] = profileError(truth.profile, seen, got.profile)
      if (by === 'near') row.ratios = ratiosOf(got, truth)
    } catch (error) {
      row.problem = (error as Error).message.split('.')[0]!
    }
  }
  for (const kind of Object.keys(COPIES) as (keyof typeof COPIES)[]) {
    const copy = row.lacks.includes(kind) ? null : await COPIES[kind](bytes, photo.spec)
    if (!copy) {
      row.lacks.push(kind)
      continue
    }
    try {
      const got = await readPhoto(copy, truth, photo.lying, 'near')
      row[kind] = profileError(truth.profile, seen, got.profile)
    } catch {
      // Counted as refused.
    }
  }
  try {
    const tight = await tightCopy(bytes, photo.spec)
    const got = await readPhoto(tight.bytes, truth, photo.lying, 'near', tight.crop)
    row.tight = profileError(truth.profile, seen, got.profile)
  } catch {
    // Counted as refused.
  }
  const upright = photo.lying ? await sharp(bytes).rotate().rotate(-90).toBuffer() : bytes
  const plain = plainReading(await pixels(upright), truth.height)
  if (plain.length > 0) row.plain = profileError(truth.profile, seen, plain as Profile)
  return row
}

async function published(): Promise<string[]> {
  const rows: string[] = []
  const read = async (spec: PhotoSpec) => {
    const truth = truthOf(spec)
    return { truth, got: await readPhoto(await makePhoto(spec), truth, false, 'near') }
  }
  const egg = await read(EGG)
  const error = profileError(egg.truth.profile, seenBy(EGG, egg.truth), egg.got.profile)
  const volume = egg.truth.volumeMm3 * (1 + error.volume / 100)
  const hoyt = 0.51 * 58 * 44 * 44
  rows.push(`| Egg 58 × 44 mm, volume against the true one | ${error.volume.toFixed(2)} % | 0.3 % |`)
  rows.push(
    `| … against Hoyt's rule 0.51 L B² (D. F. Hoyt, The Auk 96, 1979, 73-77) | ${(100 * (volume / hoyt - 1)).toFixed(2)} % | 3 % |`,
  )
  const errors: number[] = []
  for (const diameters of [3, 4, 6, 10]) {
    const { truth, got } = await read(ball(diameters))
    errors.push(Math.abs(profileError(truth.profile, seenBy(ball(diameters), truth), got.profile).diameter))
  }
  rows.push(`| Ball at 3, 4, 6, 10 diameters, ⌀: median | ${median(errors).toFixed(3)} % | 0.1 % |`)
  rows.push(`| … worst | ${Math.max(...errors).toFixed(3)} % | 0.25 % |`)
  return rows
}

function chart(rows: Row[]): string {
  const [w, h, left, bottom] = [640, 320, 56, 40]
  const x = (sizes: number) => left + ((w - left - 16) * Math.log(sizes / 2.5)) / Math.log(16 / 2.5)
  const y = (rms: number) => {
    const [low, high] = [0.01, 10]
    const v = Math.min(high, Math.max(low, rms))
    return h - bottom - ((h - bottom - 16) * Math.log(v / low)) / Math.log(high / low)
  }
  const dots = rows.flatMap(({ sizes, near, distant }) => [
    ...(distant
      ? [
          `<path d="M${(x(sizes) - 4).toFixed(1)} ${(y(distant.rms) - 4).toFixed(1)}l8 8m0 -8l-8 8" stroke="#b7791f" stroke-width="1.6"/>`,
        ]
      : []),
    ...(near
      ? [`<circle cx="${x(sizes).toFixed(1)}" cy="${y(near.rms).toFixed(1)}" r="3.4" fill="#006d77"/>`]
      : []),
  ])
  const ticksX = [3, 4, 5, 7, 10, 14].map((v) => `<path d="M${x(v).toFixed(1)} 16V${h - bottom}" stroke="#ddd6c8"/><text x="${x(v).toFixed(1)}" y="${h - bottom + 16}" text-anchor="middle">${v}</text>`) // prettier-ignore
  const ticksY = [0.01, 0.03, 0.1, 0.3, 1, 3, 10].map((v) => `<path d="M${left} ${y(v).toFixed(1)}H${w - 16}" stroke="#ddd6c8"/><text x="${left - 6}" y="${(y(v) + 4).toFixed(1)}" text-anchor="end">${v}</text>`) // prettier-ignore
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" width="${w}" height="${h}" font-family="sans-serif" font-size="12" fill="#2b2723"><rect width="${w}" height="${h}" fill="#fbf9f5"/>${ticksX.join('')}${ticksY.join('')}<g fill="none">${dots.join('')}</g><text x="${w / 2}" y="${h - 6}" text-anchor="middle">camera distance, sizes of the piece</text><text transform="translate(13 ${h / 2}) rotate(-90)" text-anchor="middle">rms, % of the height</text><g transform="translate(${w - 190} 26)"><circle cx="6" cy="-4" r="3.4" fill="#006d77"/><text x="16">through the camera</text><path d="M2 10l8 8m0 -8l-8 8" stroke="#b7791f" stroke-width="1.6"/><text x="16" y="18">parallel rays</text></g></svg>\n`
}

function write(rows: Row[], coloured: Row[], checks: string[]): void {
  const cell = (list: Row[], kind: 'near' | 'phone' | 'noisy' | 'distant' | 'model' | 'plain') => {
    const errors = list.flatMap((r) => (r[kind] ? [r[kind].rms] : []))
    return errors.length === 0 ? '–' : `${median(errors).toFixed(3)} / ${Math.max(...errors).toFixed(2)}`
  }
  /** How much worse than the model itself parallel rays read each photo, at the median. */
  const above = (list: Row[]) =>
    median(list.flatMap(({ distant, model }) => (distant && model ? [distant.rms - model.rms] : []))).toFixed(
      3,
    )
  const line = (name: string, list: Row[]) => {
    const near = list.flatMap((r) => r.near ?? [])
    return `| ${name} | ${list.length} | ${cell(list, 'near')} | ${cell(list, 'phone')} | ${cell(list, 'noisy')} | ${cell(list, 'distant')} | ${cell(list, 'model')} | ${above(list)} | ${cell(list, 'plain')} | ${median(near.map((e) => Math.abs(e.diameter))).toFixed(2)} | ${median(near.map((e) => Math.abs(e.volume))).toFixed(2)} | ${list.filter((r) => !r.near).length} |`
  }
  const ratios = rows.flatMap((r) => r.ratios)
  const within = (k: number) => `${Math.round((100 * ratios.filter((v) => v <= k).length) / ratios.length)} %`
  const near = rows.flatMap((r) => r.near?.rms ?? [])
  const shares = (name: string, kind: CopyKind) => {
    const list = rows.filter((r) => !r.lacks.includes(kind))
    const errors = list.flatMap((r) => r[kind]?.rms ?? [])
    return `${name}: half within ${median(errors).toFixed(3)} %, eight of ten within ${share(errors, 0.8).toFixed(2)} %, nine of ten within ${share(errors, 0.9).toFixed(2)} %, worst ${Math.max(...errors).toFixed(2)} %, ${list.length - errors.length} of ${list.length} refused.`
  }
  const known = (name: string, kind: 'near' | 'tape' | 'unknown') => {
    const errors = rows.flatMap((r) => r[kind]?.rms ?? [])
    return `| ${name} | ${median(errors).toFixed(3)} | ${share(errors, 0.8).toFixed(2)} | ${share(errors, 0.9).toFixed(2)} | ${Math.max(...errors).toFixed(2)} | ${rows.length - errors.length} |`
  }
  const colouredNear = coloured.flatMap((r) => r.near?.rms ?? [])
  const text = `# Accuracy of the outline and the half-profile

Written by \`npm run accuracy\`. ${COUNT} seeded random pieces of eight families, photographed by the photo maker, which shares no
code with what is measured here: random cameras, lights, backdrops and materials, 1600 px along (“small”: 320 px), given the
true height, the camera’s distance and the file’s focal length. Half of the glasses are vessels, half solid lumps. Dense profile, before any curve is fitted. Root mean
square distance from the visible true half-profile to the result, % of the height: median / worst. *Their own error* is what parallel rays make
of the true outline; *above it* is by how much more each photo was off, at the median (wanted: 0.02), which is the finding's. *From a phone* are the same photos with corners a quarter darker, sharpened
and compressed, as phones save them; *noisy* ones have a noise of 7 codes in each channel added; *on a glossy floor* those that stand show their mirror image below their foot; *out of focus* ones are blurred by 0.28 % of their longer side, *from the web* are 600 px long and compressed more; *a ruler* stands upright beside the piece in one, cut off by the border where it doesn't fit, and lies before it in another, where it often touches the foot; *a box and a coin* stand and lie on either side; *a soft shade* lies on the floor about the foot, and below it in the picture; *dimension lines* are drawn over one, with arrowheads, ticks or slashes and figures, in colours that are seen before its backdrop; *words* are written over another, one to three lines, above or below the piece or in a corner, where there is room; *cropped close*, they end 0.5 to 3 % of its height beside the piece. *Many colours* are ${COLOURED} more, which count by themselves: pieces of two to four
colours, some of them the wall's, in any light, up to three times as soft, noisier, compressed more. *Plain* is the baseline: colour distance from the borders' mean, row widths, one scale.

| photos | number | through the camera | from a phone | noisy | parallel rays | their own error | above it | plain | ⌀ off, % | volume off, % | refused |
| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |
${DIFFICULTIES.map((d) =>
  line(
    d,
    rows.filter((r) => r.difficulty === d),
  ),
).join('\n')}
${line('**all**', rows)}
${line('many colours', coloured)}

Through the camera: half of all photos within ${median(near).toFixed(3)} %, eight of ten within ${share(near, 0.8).toFixed(2)} %, nine of ten within ${share(near, 0.9).toFixed(2)} %.
${shares('From a phone', 'phone')}
${shares('Noisy', 'noisy')}
${shares('On a glossy floor', 'glossy')}
${shares('Out of focus', 'soft')}
${shares('From the web', 'web')}
${shares('A ruler beside it', 'ruler')}
${shares('A ruler before it', 'rulerBefore')}
${shares('A box and a coin beside it', 'things')}
${shares('A soft shade under its foot', 'shade')}
${shares('With dimension lines drawn over it', 'marked')}
${shares('With words written over it', 'lettered')}
${shares('Cropped close to it', 'tight')}
Of many colours: half within ${median(colouredNear).toFixed(3)} %, eight of ten within ${share(colouredNear, 0.8).toFixed(2)} %, ${coloured.length - colouredNear.length} of ${coloured.length} refused.
Volumes count what no outline shows (undercuts, the web of a hub) against the result. ${rows
    .filter((r) => !r.near)
    .map((r) => `Photo ${r.id} (${r.difficulty}, ${r.family}): ${r.problem}.`)
    .join(' ')}

![Error against camera distance](accuracy-distance.svg)

## What is known of the camera

Many photos say nothing of their lens. A tape tells it as well; without one the rings of foot and rim do, where both show, since from near by they are
seen at angles that differ by what the camera sees between them. The same ${COUNT} photos, % of the height:

| known | half within | eight of ten | nine of ten | worst | refused |
| --- | --- | --- | --- | --- | --- |
${known('focal length and distance', 'near')}
${known('distance by tape', 'tape')}
${known('nothing', 'unknown')}

## Standard errors

Points that both edges vouch for, over the whole bench: ${within(1)} lie within one stated standard error of the truth, ${within(2)} within
two, ${within(3)} within three (${ratios.length} points). Wanted: 90 to 99 % within two.

## Published figures and closed forms

| check | found | wanted |
| --- | --- | --- |
${checks.join('\n')}
`
  writeFileSync(join(docs, 'accuracy-outline.md'), text)
  writeFileSync(join(docs, 'accuracy-distance.svg'), chart(rows))
}

const [job, k, n] = process.argv.slice(2)
const mine = () => PHOTOS.filter((_, i) => i % Number(n) === Number(k))
if (job === 'render') {
  const { renderBench } = await import('../demo/bench/render-bench')
  await renderBench(cache, mine())
} else if (job === 'judge') {
  for (const photo of mine()) {
    writeFileSync(join(cache, `${photo.id}.result.json`), JSON.stringify(await judge(photo)))
    console.log(`photo ${photo.id} read`)
  }
} else {
  mkdirSync(cache, { recursive: true })
  // `write` alone puts the results of the last run on paper again.
  if (job !== 'write') {
    await inParallel(import.meta.filename, 'render')
    await inParallel(import.meta.filename, 'judge')
  }
  const rows = PHOTOS.map(
    ({ id }) => JSON.parse(readFileSync(join(cache, `${id}.result.json`), 'utf8')) as Row,
  )
  write(rows.slice(0, COUNT), rows.slice(COUNT), await published())
}

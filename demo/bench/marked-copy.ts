import sharp from 'sharp'
import { makeCamera, project } from '../maker/camera'
import { truthOf, type PhotoSpec } from '../maker/photo'
import { diceOf, type Dice } from './dice'
import { lightnessIn, lightnessOf, pathThrough, withCrisp, type Place } from './overlay'

/** What lines and figures are drawn in. */
const INKS = ['#c8102e', '#111111', '#1f4fb8', '#ffffff', '#0b6b3a', '#e07a00'] as const
/** Line widths and lettering, as shares of the picture's height. */
const LINES: [number, number] = [0.0011, 0.0026]
const LETTERS: [number, number] = [0.016, 0.026]
/** Between the piece and where extension lines begin, as a share of its height (common practice, no source). */
const GAPS: [number, number] = [0.008, 0.02]
/** Dimension lines stand so far off, as shares of the piece's height. */
const OFF: [number, number] = [0.06, 0.16]
const ENDS = ['arrows', 'ticks', 'slashes'] as const
/** An ink is seen where its lightness differs by so many codes from the picture's border. */
const SEEN = 70

/**
 * A photo of the photo maker with dimension lines drawn over it, as catalogues and people who write down sizes do: height beside the piece, and below it
 * its largest diameter. Drawn on the finished picture, crisp and straight.
 * @param bytes of a JPEG file, in which the piece stands upright
 */
export async function markedCopy(bytes: Buffer, spec: PhotoSpec): Promise<Buffer> {
  const dice = diceOf(61001 + 17 * spec.scene.seed)
  const picture = sharp(bytes).rotate()
  const { data, info } = await picture.clone().removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const { width, height } = info
  const light = lightnessIn(data, width, { left: 0, top: 0, width, height: 1 })
  const ink = dice.pick(INKS.filter((colour) => Math.abs(lightnessOf(colour) - light) >= SEEN))
  return withCrisp(picture, { width, height }, dimensions(spec, { width, height }, ink, dice))
}

function dimensions(
  spec: PhotoSpec,
  { width, height }: { width: number; height: number },
  ink: string,
  dice: Dice,
): string {
  const { between, pick } = dice
  const truth = truthOf(spec)
  const camera = makeCamera(spec.camera)
  const zs = truth.profile.map(([, z]) => z)
  const [low, high] = [Math.min(...zs), Math.max(...zs)]
  const radius = truth.maxDiameter / 2
  const side = pick([-1, 1] as const)
  const [foot, top] = [project(camera, [side * radius, 0, low]), project(camera, [side * radius, 0, high])]
  const scale = (foot.y - top.y) / (high - low)
  const off = between(...OFF) * truth.height * scale
  const gap = between(...GAPS) * truth.height * scale
  const within = (v: number, most: number) => Math.max(0.02 * most, Math.min(0.98 * most, v))
  const x = within(Math.max(side * foot.x, side * top.x) * side + side * off, width)
  const wide = between(...LINES) * height
  const size = between(...LETTERS) * height
  const ends = pick(ENDS)
  const from = (at: Place): Place => ({ x: at.x + side * gap, y: at.y })
  const over = { x: x + side * 0.3 * size, y: 0 }
  // Seen from above, the foot reaches lower than its middle.
  const lowest = project(camera, [0, -radius, low]).y
  const y = within(
    Math.max(foot.y, lowest) + between(0.035, 0.07) * truth.height * scale + 0.5 * size,
    height,
  )
  const [left, right] = [-1, 1].map((s) => project(camera, [s * radius, 0, low]).x) as [number, number]
  const lines = [
    [from(foot), { x: over.x, y: foot.y }],
    [from(top), { x: over.x, y: top.y }],
    [
      { x, y: top.y },
      { x, y: foot.y },
    ],
    [
      { x: left, y },
      { x: right, y },
    ],
    ...[left, right].map((at) => [
      { x: at, y: y - 0.6 * size },
      { x: at, y: y + 0.6 * size },
    ]),
  ]
  const tips = [
    endOf({ x, y: top.y }, { x: 0, y: 1 }, size, ends),
    endOf({ x, y: foot.y }, { x: 0, y: -1 }, size, ends),
    endOf({ x: left, y }, { x: 1, y: 0 }, size, ends),
    endOf({ x: right, y }, { x: -1, y: 0 }, size, ends),
  ]
  const label = (at: Place, anchor: string, text: number) =>
    `<text x="${at.x.toFixed(1)}" y="${at.y.toFixed(1)}" font-family="DejaVu Sans, sans-serif" font-size="${size.toFixed(1)}" text-anchor="${anchor}" fill="${ink}">${text.toFixed(0)} mm</text>`
  const figures = [
    label({ x: x + side * 0.4 * size, y: (foot.y + top.y) / 2 }, side > 0 ? 'start' : 'end', truth.height),
    label({ x: (left + right) / 2, y: y + 1.2 * size }, 'middle', truth.maxDiameter),
  ]
  return `<path d="${lines.map(pathThrough).join('')}" fill="none" stroke="${ink}" stroke-width="${wide.toFixed(2)}"/><g stroke="${ink}" stroke-width="${wide.toFixed(2)}">${tips.join('')}</g>${figures.join('')}`
}

/** What a dimension line ends with at a place. @param into the way it goes on from there */
function endOf(at: Place, into: Place, size: number, look: (typeof ENDS)[number]): string {
  const [long, half] = [0.6 * size, 0.18 * size]
  const to = (along: number, aside: number): Place => ({
    x: at.x + along * into.x - aside * into.y,
    y: at.y + along * into.y + aside * into.x,
  })
  if (look === 'arrows') return `<path d="${pathThrough([at, to(long, half), to(long, -half)])}Z"/>`
  if (look === 'ticks') return `<path d="${pathThrough([to(0, half), to(0, -half)])}"/>`
  return `<path d="${pathThrough([to(half, half), to(-half, -half)])}"/>`
}

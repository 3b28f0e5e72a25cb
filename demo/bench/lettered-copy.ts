import sharp from 'sharp'
import { makeCamera, project } from '../maker/camera'
import { truthOf, type PhotoSpec } from '../maker/photo'
import { diceOf, type Dice } from './dice'
import { lightnessIn, lightnessOf, withCrisp, type Box } from './overlay'

/** What letters are drawn in. */
const INKS = ['#111111', '#ffffff', '#8c1c13', '#123a6b', '#f2c14e', '#e8e4da'] as const
const FACES = ['DejaVu Sans', 'DejaVu Serif', 'DejaVu Sans Mono', 'Liberation Sans'] as const
/** Height of capitals and all, as a share of the picture's height. */
const SIZES: [number, number] = [0.017, 0.042]
/** Where there is no room, smaller ones are tried, down to about this. */
const SMALLEST = 0.013
/** Of a letter's size: how far lines lie apart, how wide a letter is about, how far text keeps from the borders and the piece. */
const LEADING = 1.35
const LETTER = 0.68
const MARGIN = 0.5
const CLEAR = 0.6
/** An ink is seen where its lightness differs by so many codes from the mean of what it is drawn over. */
const SEEN = 80
const TEXTS = [
  ['No. 14 · turned brass', '1928'],
  ['Amphora with two rings', 'height 214 mm, Inv. 2087/3'],
  ['LOT 311'],
  ['Photo: H. Brandt', 'all rights reserved'],
  ['DISCONTINUED'],
  ['14 11 2019  16:42'],
  ['Model K-7', 'Ø 92', '0.65 l'],
  ['collected by the museum of small things, room 4'],
] as const
const PLACES = ['below', 'above', 'corner', 'below'] as const

/**
 * A photo of the photo maker with a few words drawn over it, as catalogues, museums, sellers and cameras write them: below the piece, above it, or in a
 * corner. Drawn on the finished picture, crisp, one to three lines. Null where there is no room.
 * @param bytes of a JPEG file, in which the piece stands upright
 */
export async function letteredCopy(bytes: Buffer, spec: PhotoSpec): Promise<Buffer | null> {
  const dice = diceOf(73009 + 19 * spec.scene.seed)
  const picture = sharp(bytes).rotate()
  const { data, info } = await picture.clone().removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const { width, height } = info
  const lines = dice.pick(TEXTS)
  let size = Math.min(dice.between(...SIZES) * height, (0.96 * width) / (LETTER * longestOf(lines)))
  const look = () => placeFor(spec, { width, height }, lines, size, dice)
  let box = look()
  while (!box && size > SMALLEST * height) {
    size *= 0.8
    box = look()
  }
  if (!box) return null
  const light = lightnessIn(data, width, box)
  const ink = dice.pick(INKS.filter((colour) => Math.abs(lightnessOf(colour) - light) >= SEEN))
  const face = dice.pick(FACES)
  const weight = dice.pick(['normal', 'bold'] as const)
  const text = lines.map((line, k) => {
    const [x, y] = [box.left + box.width / 2, box.top + size * (0.9 + LEADING * k)]
    return `<text x="${x.toFixed(1)}" y="${y.toFixed(1)}" text-anchor="middle">${line}</text>`
  })
  return withCrisp(
    picture,
    { width, height },
    `<g font-family="${face}" font-weight="${weight}" font-size="${size.toFixed(1)}" fill="${ink}">${text.join('')}</g>`,
  )
}

const longestOf = (lines: readonly string[]) => Math.max(...lines.map(({ length }) => length))

/** Where text goes, clear of the piece; null where there is no room for it. */
function placeFor(
  spec: PhotoSpec,
  { width, height }: { width: number; height: number },
  lines: readonly string[],
  size: number,
  { pick }: Dice,
): Box | null {
  const truth = truthOf(spec)
  const camera = makeCamera(spec.camera)
  const zs = truth.profile.map(([, z]) => z)
  const radius = truth.maxDiameter / 2
  const seen = [Math.min(...zs), Math.max(...zs)].flatMap((z) =>
    [-radius, radius].flatMap((r) => [project(camera, [r, 0, z]), project(camera, [0, r, z])]),
  )
  const piece = {
    left: Math.min(...seen.map(({ x }) => x)) - CLEAR * size,
    right: Math.max(...seen.map(({ x }) => x)) + CLEAR * size,
    top: Math.min(...seen.map(({ y }) => y)) - CLEAR * size,
    bottom: Math.max(...seen.map(({ y }) => y)) + CLEAR * size,
  }
  const margin = MARGIN * size
  const wide = Math.min(width - 2 * margin, LETTER * size * longestOf(lines))
  const high = size * (1.2 + LEADING * (lines.length - 1))
  const middle = (width - wide) / 2
  const last = height - margin - high
  const corners = [margin, last].flatMap((top) =>
    [margin, width - margin - wide].map((left) => ({ left, top })),
  )
  const places = {
    below: [{ left: middle, top: last }],
    above: [{ left: middle, top: margin }],
    corner: corners,
  }
  const isFree = ({ left, top }: { left: number; top: number }) =>
    left > piece.right || left + wide < piece.left || top > piece.bottom || top + high < piece.top
  const wanted = places[pick(PLACES)].filter(isFree)
  const free = wanted.length > 0 ? wanted : Object.values(places).flat().filter(isFree)
  return free.length > 0 ? { ...pick(free), width: wide, height: high } : null
}

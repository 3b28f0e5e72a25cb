import { makeCamera, project } from '../maker/camera'
import { truthOf, type PhotoSpec } from '../maker/photo'
import { diceOf } from './dice'
import { pathThrough, withDrawn } from './overlay'

/** A matchbox, a carton, a block: as high and as wide as these shares of the piece's height, … */
const HEIGHTS: [number, number] = [0.12, 0.4]
const WIDTHS: [number, number] = [0.1, 0.3]
/** … so far from the piece, … */
const GAPS: [number, number] = [0.03, 0.15]
/** … and of such colours: its front, and its top, which the light meets. */
const LOOKS = [
  ['#8a3b2f', '#b4594a'],
  ['#2f5a8a', '#5a86b4'],
  ['#20242a', '#3a4048'],
  ['#f0ece2', '#ffffff'],
  ['#3f6b3a', '#6a9664'],
] as const
/** A coin's radius, mm. */
const COIN_MM = 12

/**
 * A photo of the photo maker with a box that stands on one side of the piece and a coin that lies on the other, both sharper in contrast
 * than many a piece. What doesn't fit is cut off by the picture's border. The piece stays as it is.
 * @param bytes of a JPEG file, in which the piece stands upright
 */
export async function thingsCopy(bytes: Buffer, spec: PhotoSpec): Promise<Buffer> {
  const dice = diceOf(80001 + 17 * spec.scene.seed)
  const { between, pick } = dice
  const { profile, height, maxDiameter } = truthOf(spec)
  const camera = makeCamera(spec.camera)
  const floor = Math.min(...profile.map(([, z]) => z))
  const side = pick([-1, 1] as const)
  const near = maxDiameter / 2 + between(...GAPS) * height
  const [tall, wide] = [between(...HEIGHTS) * height, between(...WIDTHS) * height]
  const [front, top] = pick(LOOKS)
  const at = (across: number, deep: number, up: number) =>
    project(camera, [side * (near + across), deep, floor + up])
  const fill = (colour: string, corners: Parameters<typeof at>[], opacity = 1) =>
    `<path d="${pathThrough(corners.map((corner) => at(...corner)))}Z" fill="${colour}" fill-opacity="${opacity}"/>`
  const round = Array.from({ length: 48 }, (_, i) => (2 * Math.PI * i) / 48)
  const coin = round.map((a) =>
    project(camera, [-side * (near + COIN_MM * (1 + Math.cos(a))), COIN_MM * Math.sin(a), floor]),
  )
  return withDrawn(
    bytes,
    [
      fill('#000', [[-2, -2, 0], [wide + 6, -3, 0], [wide + 6, 0.5 * wide, 0], [-2, 0, 0]], 0.35), // prettier-ignore
      fill(top, [[0, 0, tall], [wide, 0, tall], [wide, wide / 2, tall], [0, wide / 2, tall]]), // prettier-ignore
      fill(front, [[0, 0, 0], [wide, 0, 0], [wide, 0, tall], [0, 0, tall]]), // prettier-ignore
      `<path d="${pathThrough(coin)}Z" fill="#b08d3a"/>`,
    ].join(''),
    spec,
    dice,
  )
}

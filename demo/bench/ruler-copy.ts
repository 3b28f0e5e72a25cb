import { makeCamera, project, type Camera } from '../maker/camera'
import { truthOf, type PhotoSpec } from '../maker/photo'
import { diceOf, type Dice } from './dice'
import { pathThrough, withDrawn, type Place } from './overlay'

/** Rulers, mm: as long and as wide as they are sold (common practice, no source). */
const LENGTHS = [150, 200, 300]
const WIDTHS: [number, number] = [18, 32]
/** Between the piece and the ruler, as a share of the piece's height. */
const GAPS: [number, number] = [0.02, 0.12]
/** Boxwood, steel, white and red plastic, black steel, and what their marks are printed with. */
const LOOKS = [
  ['#e0c57e', '#2a2118'],
  ['#b4b8bc', '#26282a'],
  ['#eeece6', '#202020'],
  ['#b02a22', '#f2ece0'],
  ['#2c2d30', '#e6e6e2'],
] as const
/** Every mark, every fifth and every tenth one goes this far across the ruler. */
const MARKS = [0.22, 0.34, 0.5] as const
const LEAST_ROOM_PX = 12

/**
 * A photo of the photo maker with a ruler, as people put one there to know the size: it stands upright beside the piece, at the depth
 * of its axis, or lies on the floor before it. What doesn't fit is cut off by the picture's border. The piece stays as it is.
 * @param bytes of a JPEG file, in which the piece stands upright
 * @returns null where there is no room for a ruler
 */
export async function rulerCopy(
  bytes: Buffer,
  spec: PhotoSpec,
  place: 'beside' | 'before' = 'beside',
): Promise<Buffer | null> {
  const dice = diceOf(70001 + 13 * spec.scene.seed)
  const ruler = rulerOf(spec, place, dice)
  return ruler === null ? null : withDrawn(bytes, ruler, spec, dice)
}

/** The ruler and its shadow, drawn; null where there is no room for it. */
function rulerOf(spec: PhotoSpec, place: 'beside' | 'before', { between, pick }: Dice): string | null {
  const truth = truthOf(spec)
  const camera = makeCamera(spec.camera)
  const floor = Math.min(...truth.profile.map(([, z]) => z))
  const length = pick(LENGTHS)
  const wide = between(...WIDTHS)
  const gap = between(...GAPS) * truth.height
  const [body, ink] = pick(LOOKS)
  const first = pick([-1, 1] as const)
  const near = truth.maxDiameter / 2 + gap
  const beside = (side: number) => (across: number, along: number) =>
    project(camera, [side * (near + across), 0, floor + along])
  const before = (across: number, along: number) =>
    project(camera, [first * (along - length / 2), -near - across, floor])
  const ways = place === 'before' ? [before] : [first, -first].map(beside)
  const at = ways.find((way) => roomFrom(way(0, 0), camera, place) > LEAST_ROOM_PX)
  if (!at) return null
  const marks = Array.from({ length: length + 1 }, (_, mm) => mm)
    .filter((mm) => mm % markStep(at) === 0)
    .map((mm) => pathThrough([at(0, mm), at(wide * MARKS[mm % 10 === 0 ? 2 : mm % 5 === 0 ? 1 : 0], mm)]))
  const thick = Math.max(1, 0.25 * pxPerMm(at))
  const shadow = pathThrough([at(-1, -1), at(wide + 4, -1.5), at(wide + 4, 1), at(-1, 1)])
  return `<path d="${shadow}" fill="#000" fill-opacity="0.35"/><path d="${pathThrough([at(0, 0), at(wide, 0), at(wide, length), at(0, length)])}Z" fill="${body}"/><path d="${marks.join('')}" stroke="${ink}" stroke-width="${thick.toFixed(2)}" fill="none"/>`
}

/** Picture place of what lies so many mm across a ruler and along it. */
type Way = (across: number, along: number) => Place

const pxPerMm = (at: Way) => Math.hypot(at(0, 1).x - at(0, 0).x, at(0, 1).y - at(0, 0).y)

/** Marks stand a mm apart where that is 5 px at least, else five or ten. */
function markStep(at: Way): number {
  const px = pxPerMm(at)
  return px >= 5 ? 1 : px >= 1 ? 5 : 10
}

/** Px from where a ruler begins to the border of the picture beyond it. */
function roomFrom({ x, y }: Place, { width, height }: Camera, place: 'beside' | 'before'): number {
  return place === 'before' ? height - y : Math.min(x, width - x)
}

import type { LabPicture } from '../picture/reduce'
import { changedScene, type PixelBounds, type Scene } from './beside'
import { colourCells } from './colour-cells'
import { borderMargin } from './border-margin'
import { runsOf } from './silhouette'
import { dilated } from './things-in'

/** The border is looked at in pieces of so many px along it. */
const PIECE_PX = 4
/** OKLab colours are counted in so many steps a coordinate, and are seen elsewhere from this share of what is counted there on. */
const STEPS = 16
const SEEN = 1e-3
/** A thing stands where less than this share of a piece of the border has colours that are seen elsewhere along it, … */
const USUAL = 0.3
/** … for so many pieces in a row at least, and no more than this share of its side, whose rest is as usual as this. */
const LEAST_PIECES = 2
const MOST_PIECES = 0.45
const REST_USUAL = 0.7
/** It reaches no farther in than this share of the picture: the piece, cut off, would. */
const DEEPEST = 0.4
/** … and is so many times as long along the border as it reaches in at least: a handle is a strip. */
const LEAST_LONG = 0.7
/** … and most of it ends in a sharp edge, as a light or a shadow doesn't: so sharp (of 1), this near, px, over this share of its border. */
const SHARP = 0.3
const NEAR_PX = 2
const SHARP_SHARE = 0.5
/** Px about a thing that its soft edge reaches. */
const SOFT_PX = 4
/** So many px beyond that, farther in, this share shows colours that are seen along the border: a handle ends at its piece. */
const BEYOND_PX = 3
const FREE = 0.6
/** What is as large as this share of the picture is worth a word. */
const WORTH = 0.002

/** A scene without what its borders cut off. */
export interface WithoutCutOff {
  scene: Scene
  isWorthAWord: boolean
}

/**
 * The scene without what stands at one border only and is cut off by it, a box or a hand: colours that are seen along a stretch of the border
 * and nowhere else along it, as far as they reach without a gap. The colours of the border beside it are laid over it, and it has no edges;
 * null where nothing is. Meant for textured backdrops, of which nothing else is known.
 * @param isPiece whether somebody said that piece stands within these bounds
 */
export function withoutCutOff(scene: Scene, isPiece: (thing: PixelBounds) => boolean): WithoutCutOff | null {
  const { picture } = scene
  const covered = new Uint8Array(picture.l.length)
  for (const stretch of picture.alpha ? [] : stretchesOf(picture)) {
    const thing = reachedFrom(stretch, scene)
    if (!thing || isPiece(thing.bounds)) continue
    if (!endsSharply(thing.mask, scene) || !standsFree(thing.mask, stretch, picture)) continue
    thing.mask.forEach((value, i) => value && (covered[i] = 1))
  }
  const area = covered.reduce((sum, v) => sum + v, 0)
  if (area === 0) return null
  return {
    scene: laidOver(scene, dilated(covered, picture, SOFT_PX)),
    isWorthAWord: area >= WORTH * covered.length,
  }
}

/** A scene with the colours of each row's two ends laid over what is covered in it, without edges there. */
function laidOver(scene: Scene, covered: Uint8Array): Scene {
  const { width, height } = scene.picture
  const margin = borderMargin(scene.picture)
  return changedScene(scene, (colours, edges) => {
    for (let row = 0; row < height; row++) {
      const first = row * width
      const ends = Array.from({ length: margin }, (_, k) => [first + k, first + width - 1 - k]).flat()
      const free = ends.filter((i) => !covered[i])
      for (let i = first; i < first + width; i++) {
        if (!covered[i]) continue
        for (const plane of edges) plane[i] = 0
        const from = free[i % free.length]
        if (from === undefined) continue
        // What is free is never laid over itself.
        for (const plane of colours) plane[i] = plane[from]!
      }
    }
  })
}

/** The pixels of a stretch of the border and whether a colour is seen along it and nowhere else along the border. */
interface Stretch {
  pixels: number[]
  isOwn: (i: number) => boolean
  isSeen: (i: number) => boolean
  /** Which way the picture lies from there. */
  inwards: { x: number; y: number }
}

/** Stretches of the borders that show other colours than the rest. */
function stretchesOf(picture: LabPicture): Stretch[] {
  const { width, height } = picture
  const margin = borderMargin(picture)
  const cells = colourCells(picture, STEPS)
  const cellOf = (i: number) => cells[i]!
  const sides = [
    { length: height, at: (k: number, m: number) => k * width + m, inwards: { x: 1, y: 0 } },
    { length: height, at: (k: number, m: number) => k * width + width - 1 - m, inwards: { x: -1, y: 0 } },
    { length: width, at: (k: number, m: number) => m * width + k, inwards: { x: 0, y: 1 } },
    { length: width, at: (k: number, m: number) => (height - 1 - m) * width + k, inwards: { x: 0, y: -1 } },
  ]
  const pixelsOf = ({ length, at }: (typeof sides)[number], from = 0, to = length) =>
    Array.from({ length: (to - from) * margin }, (_, n) => at(from + Math.floor(n / margin), n % margin))
  const counts = sides.map((side) => countsOf(pixelsOf(side).map(cellOf)))
  return sides.flatMap((side, own) => {
    const others = counts.filter((_, k) => k !== own)
    const least = SEEN * margin * sides.reduce((sum, { length }, k) => (k === own ? sum : sum + length), 0)
    const seen = Uint8Array.from({ length: STEPS ** 3 }, (_, cell) =>
      others.reduce((sum, count) => sum + count[cell]!, 0) > least ? 1 : 0,
    )
    const isSeen = (i: number) => seen[cellOf(i)] === 1
    const pieces = Math.floor(side.length / PIECE_PX)
    const usual = Array.from({ length: pieces }, (_, n) => {
      const pixels = pixelsOf(side, n * PIECE_PX, (n + 1) * PIECE_PX)
      return pixels.filter(isSeen).length / pixels.length
    })
    const isOther = Float32Array.from(usual, (share) => (share < USUAL ? 1 : 0))
    return runsOf(isOther).flatMap(({ from, to }): Stretch[] => {
      const rest = usual.filter((_, n) => n < from || n >= to)
      const isRestUsual = rest.reduce((sum, v) => sum + v, 0) >= REST_USUAL * rest.length
      if (to - from < LEAST_PIECES || to - from > MOST_PIECES * pieces || !isRestUsual) return []
      const pixels = pixelsOf(side, from * PIECE_PX, to * PIECE_PX).filter((i) => !isSeen(i))
      const here = countsOf(pixels.map(cellOf))
      return [{ pixels, isOwn: (i) => here[cellOf(i)]! > 0 && !isSeen(i), isSeen, inwards: side.inwards }]
    })
  })
}

/** How often colours are met, each with those next to it by half as much: a colour a little off isn't another one. */
function countsOf(cells: readonly number[]): Float32Array {
  const count = new Float32Array(STEPS ** 3)
  for (const cell of cells) {
    count[cell]!++
    for (const stride of [1, STEPS, STEPS * STEPS])
      for (const next of [cell - stride, cell + stride])
        if (next >= 0 && next < count.length) count[next]! += 0.5
  }
  return count
}

/** All that is reached from a stretch of the border through its own colours and across no sharp edge; null where that reaches too far in. */
function reachedFrom(
  { pixels, isOwn, inwards }: Stretch,
  { picture: { width, height }, sharp }: Scene,
): { mask: Uint8Array; bounds: PixelBounds } | null {
  const mask = new Uint8Array(width * height)
  const isEdge = (i: number) => sharp.x.data[i]! >= SHARP || sharp.y.data[i]! >= SHARP
  const left = pixels.slice()
  for (const i of left) mask[i] = 1
  const [x, y]: [[number, number], [number, number]] = [
    [width, -1],
    [height, -1],
  ]
  for (let i = left.pop(); i !== undefined; i = left.pop()) {
    const [column, row] = [i % width, Math.floor(i / width)]
    x[0] = Math.min(x[0], column)
    x[1] = Math.max(x[1], column)
    y[0] = Math.min(y[0], row)
    y[1] = Math.max(y[1], row)
    const beside = [column > 0 ? i - 1 : -1, column < width - 1 ? i + 1 : -1, i - width, i + width]
    for (const k of beside)
      if (k >= 0 && k < mask.length && !mask[k] && isOwn(k) && !isEdge(k)) {
        mask[k] = 1
        left.push(k)
      }
  }
  const isDeep = (at: [number, number], size: number) => Math.min(at[1] + 1, size - at[0]) > DEEPEST * size
  const long = (of: [number, number]) => of[1] - of[0] + 1
  const isStrip = inwards.x ? long(y) < LEAST_LONG * long(x) : long(x) < LEAST_LONG * long(y)
  return isStrip || (isDeep(x, width) && isDeep(y, height)) ? null : { mask, bounds: { x, y } }
}

/** Whether most of a thing's border within the picture shows a sharp edge. */
function endsSharply(mask: Uint8Array, { picture: { width, height }, sharp }: Scene): boolean {
  const wider = dilated(mask, { width, height }, 1)
  let [border, shown] = [0, 0]
  wider.forEach((value, i) => {
    if (!value || mask[i]) return
    border++
    const [column, row] = [i % width, Math.floor(i / width)]
    let edge = 0
    for (let d = -NEAR_PX; d <= NEAR_PX; d++) {
      if (column + d >= 0 && column + d < width) edge = Math.max(edge, sharp.x.data[i + d]!)
      if (row + d >= 0 && row + d < height) edge = Math.max(edge, sharp.y.data[i + d * width]!)
    }
    if (edge >= SHARP) shown++
  })
  return shown >= SHARP_SHARE * border
}

/** Whether farther in than a thing there is what is seen along the border, too. */
function standsFree(mask: Uint8Array, { isSeen, inwards }: Stretch, size: LabPicture): boolean {
  const { width, height } = size
  const soft = dilated(mask, size, SOFT_PX)
  let [count, free] = [0, 0]
  mask.forEach((value, i) => {
    if (!value) return
    for (let k = SOFT_PX + 1; k <= SOFT_PX + BEYOND_PX; k++) {
      const [x, y] = [(i % width) + k * inwards.x, Math.floor(i / width) + k * inwards.y]
      if (x < 0 || y < 0 || x >= width || y >= height || soft[y * width + x]) continue
      count++
      if (isSeen(y * width + x)) free++
    }
  })
  return free >= FREE * count
}

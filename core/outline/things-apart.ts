import type { PicturePoint } from '../conventions'
import type { Plane } from '../picture/raster'
import { backdropAt, type Backdrop } from './backdrop'
import { changedScene, type PixelBounds, type Scene } from './beside'
import type { Evidence } from './evidence'
import {
  areaOfThing,
  dilated,
  eroded,
  frameOf,
  lengthOf,
  thingsIn,
  type Frame,
  type Thing,
} from './things-in'

/** What looks like piece by more than this is a part of a thing. */
const IS_THING = 0.25
/** What looks like piece on an average by less than this may be a patch of a faint piece. */
const SURE = 0.97
/** Things are what is left within so many px of their borders: what joins them, shade on the floor, is thinner. Small ones first. */
const REACHES = [1, 3]
/** Specks and bits of lines are smaller than this, px each way and in all, and slivers fill less than this share of their bounds. */
const LEAST_PX = 2
const LEAST_AREA = 30
const FILLED = 0.5
/** Columns and rows with less than this share of the pixels that a thing's fullest have are its tails. */
const TAIL = 0.25
/** A thing that only stands beside the piece is smaller than this share of it, … */
const SMALLER = 0.5
/** … so many px of backdrop at least are between the two, … */
const GAP_PX = 3
/** … and an edge as sharp as this (of 1), in this share of its rows, … */
const SHARP = 0.3
const FREE_ROWS = 0.5
/** … and on its far side there is no more of it than this share. */
const BEYOND = 0.3
/** A part of the piece that its own colour parts from the rest has its like on the other side: this share of it. */
const HAS_LIKE = 0.3
/** A piece that fills less than this share of its bounds may be clear: beside it only lumps are told from edges of its own, … */
const SOLID = 0.35
/** … which are so wide and so high, px, and so many times as long as wide at most. */
const LUMP_PX = 16
const LUMP_LONG = 4
/** Px about a thing that its soft edge reaches. */
const SOFT_PX = 4
/** What is as large as this share of the piece is worth a word. */
const SEEN = 0.01

/** A scene without what stands beside the piece. */
export interface WithoutThings {
  scene: Scene
  /** Whether any of that is larger than a speck of the wall. */
  isWorthAWord: boolean
}

/** What may stand beside the piece, and how far within its borders it was told, px. */
interface Candidate extends Thing {
  reach: number
}

/**
 * The scene without what only stands beside the piece before a plain backdrop, a box, a coin, a hand: smaller than the piece, apart
 * from it, beyond all of its width, and with no like on its other side. The backdrop is led over it, and it has no edges; null where
 * nothing is.
 * @param up the axis' rough direction
 * @param isPiece whether somebody said that piece stands within these bounds
 */
export function withoutThingsApart(
  scene: Scene,
  { plane, unshadowed, backdrop }: Evidence,
  up: PicturePoint,
  isPiece: (thing: PixelBounds) => boolean,
): WithoutThings | null {
  if (!unshadowed || !backdrop) return null
  const frame = frameOf(plane, up)
  const whole = maskOf(plane)
  const edges = frame.isUpright ? scene.sharp.x : scene.sharp.y
  // Shadows, which join things, are held back; and so are things as grey as they are, which are looked for with them.
  const candidates = [candidatesIn(unshadowed, maskOf(unshadowed), frame), candidatesIn(plane, whole, frame)]
    .flat()
    .filter((thing) => standsFree(thing, whole, edges, frame))
    .sort((p, q) => areaOfThing(p) - areaOfThing(q))
  if (candidates.length === 0) return null
  const cores = eroded(whole, frame, REACHES[0]!)
  const apart: Candidate[] = []
  let least = 0
  for (const thing of candidates) {
    if (apart.some((known) => meet(known, thing))) continue
    const main = stackOf(thingsIn(withoutColumns(cores, thing, frame), frame, LEAST_PX))
    if (!main || !isBesideOf(thing, main, whole, frame) || isPiece(frame.boundsOf(thing))) continue
    apart.push(thing)
    least = Math.max(least, SEEN * areaOfThing(main))
  }
  if (apart.length === 0) return null
  const isWorthAWord = apart.some((thing) => areaOfThing(thing) >= least)
  return { scene: without(scene, backdrop, apart, frame), isWorthAWord }
}

function maskOf({ data }: Plane): Uint8Array {
  const mask = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i++) if (data[i]! > IS_THING) mask[i] = 1
  return mask
}

/** What surely is a thing, and no sliver of one. */
function candidatesIn({ data }: Plane, mask: Uint8Array, frame: Frame): Candidate[] {
  return REACHES.flatMap((reach) =>
    thingsIn(eroded(mask, frame, reach), frame, LEAST_PX)
      .map((thing) => withoutTails(thing, frame))
      .filter(
        (thing) =>
          areaOfThing(thing) >= LEAST_AREA &&
          areaOfThing(thing) >= FILLED * lengthOf(thing.u) * lengthOf(thing.v) &&
          thing.pixels.reduce((sum, i) => sum + data[i]!, 0) >= SURE * areaOfThing(thing),
      )
      .map((thing) => ({ ...thing, reach })),
  )
}

/** A thing without what leads away from it, its shadow or a strip of shade: columns, then rows, that have few of its pixels. */
function withoutTails(thing: Thing, { rowOf, acrossOf }: Frame): Thing {
  const trimmed = (pixels: readonly number[], of: (i: number) => number, [from, to]: [number, number]) => {
    const counts = new Uint32Array(to - from + 1)
    for (const i of pixels) counts[of(i) - from]!++
    const least = TAIL * counts.reduce((p, q) => Math.max(p, q), 0)
    return pixels.filter((i) => counts[of(i) - from]! >= least)
  }
  const pixels = trimmed(trimmed(thing.pixels, acrossOf, thing.u), rowOf, thing.v)
  const bounds = (of: (i: number) => number): [number, number] => [
    pixels.reduce((least, i) => Math.min(least, of(i)), Infinity),
    pixels.reduce((most, i) => Math.max(most, of(i)), -Infinity),
  ]
  return { pixels, u: bounds(acrossOf), v: bounds(rowOf) }
}

/** Whether the bounds of two things meet. */
const meet = (p: Thing, q: Thing) =>
  (['u', 'v'] as const).every((way) => p[way][0] <= q[way][1] && q[way][0] <= p[way][1])

/**
 * Whether a thing stands on one side of the picture's middle, most of its rows end in a sharp edge towards that, with backdrop right
 * beside it, and there is little but backdrop on its far side. (Where a piece's shading passes through the backdrop's colour, no sharp
 * edge is.)
 */
function standsFree(thing: Candidate, whole: Uint8Array, edges: Plane, { at, across }: Frame): boolean {
  if (2 * thing.u[0] < across && 2 * (thing.u[1] + 1) > across) return false
  const inwards = thing.u[0] < across / 2 ? 1 : -1
  const [inner, outer] = inwards > 0 ? [thing.u[1], thing.u[0]] : [thing.u[0], thing.u[1]]
  const isBackdrop = (row: number, u: number) => u >= 0 && u < across && !whole[at(row, u)]
  let free = 0
  let beyond = 0
  for (let row = thing.v[0]; row <= thing.v[1]; row++) {
    let gap = 0
    let edge = 0
    for (let step = 1; step <= thing.reach + SOFT_PX + GAP_PX; step++) {
      const u = inner + inwards * step
      if (isBackdrop(row, u)) gap++
      if (u >= 0 && u < across) edge = Math.max(edge, edges.data[at(row, u)]!)
    }
    if (gap >= GAP_PX && edge >= SHARP) free++
    for (let u = outer - inwards * (thing.reach + GAP_PX); u >= 0 && u < across; u -= inwards)
      if (!isBackdrop(row, u)) beyond++
  }
  return free >= FREE_ROWS * lengthOf(thing.v) && beyond <= BEYOND * areaOfThing(thing)
}

/** A mask but for the columns that a thing stands in, and the gap beside it. */
function withoutColumns(
  mask: Uint8Array,
  { u, reach }: Candidate,
  { width, height, isUpright, across, at }: Frame,
): Uint8Array {
  const out = mask.slice()
  const from = Math.max(0, u[0] - reach - GAP_PX)
  const to = Math.min(across - 1, u[1] + reach + GAP_PX)
  for (let row = 0; row < (isUpright ? height : width); row++)
    for (let column = from; column <= to; column++) out[at(row, column)] = 0
  return out
}

/** The largest thing with all that stand above or below it, which its own colours part from it: half of their width at least. */
function stackOf(things: readonly Thing[]): Thing | null {
  const largest = things.reduce<Thing | null>((p, q) => (p && areaOfThing(p) >= areaOfThing(q) ? p : q), null)
  if (!largest) return null
  const shared = ({ u }: Thing) => Math.min(u[1], largest.u[1]) - Math.max(u[0], largest.u[0]) + 1
  const stack = things.filter((thing) => 2 * shared(thing) >= lengthOf(thing.u))
  const reach = (of: 'u' | 'v'): [number, number] => [
    Math.min(...stack.map((thing) => thing[of][0])),
    Math.max(...stack.map((thing) => thing[of][1])),
  ]
  return { pixels: stack.flatMap(({ pixels }) => pixels), u: reach('u'), v: reach('v') }
}

/** Whether a thing stands beside the piece: smaller, farther from the picture's middle, with nothing like it on the other side. */
function isBesideOf(thing: Candidate, main: Thing, whole: Uint8Array, frame: Frame): boolean {
  const off = ({ u }: Thing) => Math.abs(u[0] + u[1] + 1 - frame.across)
  const isSolid = areaOfThing(main) >= SOLID * lengthOf(main.u) * lengthOf(main.v)
  return (
    areaOfThing(thing) < SMALLER * areaOfThing(main) &&
    off(thing) > off(main) &&
    (isSolid || isLump(thing)) &&
    !hasLike(thing, main, whole, frame)
  )
}

/** Whether a thing is no line, as the edge of a clear piece is. */
const isLump = ({ u, v }: Thing) => {
  const [short, long] = [lengthOf(u), lengthOf(v)].toSorted((p, q) => p - q) as [number, number]
  return short >= LUMP_PX && long < LUMP_LONG * short
}

/** Whether the mirror image of a thing about the piece's middle looks like piece too. */
function hasLike(
  { pixels }: Thing,
  { u: [low, high] }: Thing,
  whole: Uint8Array,
  { rowOf, acrossOf, at, across }: Frame,
): boolean {
  const alike = pixels.filter((i) => {
    const mirror = low + high - acrossOf(i)
    return mirror >= 0 && mirror < across && whole[at(rowOf(i), mirror)]
  })
  return alike.length > HAS_LIKE * pixels.length
}

/** The backdrop led over things, which have no edges then. */
function without(scene: Scene, backdrop: Backdrop, things: readonly Candidate[], frame: Frame): Scene {
  const { width, height } = frame
  const covered = new Uint8Array(width * height)
  for (const { pixels, reach } of things) {
    const mask = new Uint8Array(covered.length)
    for (const i of pixels) mask[i] = 1
    dilated(mask, frame, reach + SOFT_PX).forEach((value, i) => {
      if (value) covered[i] = 1
    })
  }
  return changedScene(scene, ([l, a, b], [x, y]) =>
    covered.forEach((value, i) => {
      if (!value) return
      ;[l[i], a[i], b[i]] = backdropAt(backdrop, i % width, Math.floor(i / width))
      x[i] = 0
      y[i] = 0
    }),
  )
}

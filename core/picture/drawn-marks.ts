import { drawnLines, type DrawnRun, type Tones } from './drawn-lines'
import type { Raster } from './raster'
import { halved } from './reduce'
import { besides, countAbout, eachRegion } from './regions'

/** Marks are looked for in copies no longer than this, px. */
const LONGEST = 1600
/** So many px of such a copy about a mark may be blended with it. */
const BLENDED = 4
/** So many px of the picture farther out compression, which takes blocks of so many, leaves traces of so many codes. */
const HALO = 16
const TRACE = 9
/** Px of a drawn line's colour, to so many codes, are drawn, too, where they are nowhere wider than this share of the copy's longer side: arrowheads, figures. */
const SAME_INK = 50
const WIDEST = 0.014
/** Strokes differ from their ground by so much of what the ink does, by so many codes at least, and that is alike on both sides to this share of it. */
const BLEND = 0.25
const BLEND_WAY = 0.8
const LEAST_OFF = 20
const ALIKE = 0.35

/** So many px aside of a line it isn't seen, and so near it may be seen purer: colours that go the same way from the ground's, by the cosine; some px show it. */
const ASIDE = 4
const NEAR = 8
const PURE = 20
const SAME_WAY = 0.96
const FEW = 6
/**
 * Inks that go the same way from their grounds' colours are one, and one is a real one where its lines are so long together, px and as a share of
 * the copy's longer side, and both level and upright: boards and horizons are one of both.
 */
const SAME_INK_WAY = 0.9
const INK_LENGTH = 0.15
const INK_PX = 120

type Colour = readonly [number, number, number]

/**
 * A picture without the level and upright lines that somebody drew over it, and without what was drawn in their colours: what lies about them is
 * led over them. Null where there are none.
 */
export function withoutDrawnMarks(picture: Raster): Raster | null {
  let copy = picture
  let times = 1
  for (; Math.max(copy.width, copy.height) > LONGEST; times *= 2) copy = halved(copy)
  const lines = [lightnessOf(copy), warmthOf(copy)].flatMap(drawnLines)
  const inks = inksOf(copy, lines)
  if (inks.length === 0) return null
  const drawn = new Uint8Array(copy.width * copy.height)
  for (const ink of inks) {
    for (const line of ink.lines) for (const i of placesOf(line, copy.width)) drawn[i] = 1
    addThin(copy, ink, drawn)
    addStrokes(copy, ink, drawn)
  }
  const about = (reach: number) => enlarged(countAbout(drawn, copy.width, reach), copy, picture, times)
  return ledOver(picture, about(BLENDED), about(BLENDED + Math.ceil(HALO / times)))
}

/** 1 at a picture's px where a copy so many times smaller has some count. */
function enlarged(counts: Uint16Array, copy: Raster, { width, height }: Raster, times: number): Uint8Array {
  const mask = new Uint8Array(width * height)
  for (let y = 0; y < Math.min(height, copy.height * times); y++)
    for (let x = 0; x < Math.min(width, copy.width * times); x++)
      if (counts[Math.floor(y / times) * copy.width + Math.floor(x / times)]! > 0) mask[y * width + x] = 1
  return mask
}

/** Lightness as the eye weighs it (ITU-R BT.601), of bytes. */
function lightnessOf({ width, height, data }: Raster): Tones {
  const tones = new Uint8Array(width * height)
  for (let i = 0; i < tones.length; i++)
    tones[i] = (77 * data[4 * i]! + 150 * data[4 * i + 1]! + 29 * data[4 * i + 2]!) >> 8
  return { width, height, data: tones }
}

/** By how much red outweighs blue: coloured lines may be as light as what they are drawn over. */
function warmthOf({ width, height, data }: Raster): Tones {
  const tones = new Uint8Array(width * height)
  for (let i = 0; i < tones.length; i++) tones[i] = 128 + ((data[4 * i]! - data[4 * i + 2]!) >> 1)
  return { width, height, data: tones }
}

const placesOf = ({ isLevel, at, from, to }: DrawnRun, width: number) =>
  Array.from({ length: to - from }, (_, k) => (isLevel ? at * width + from + k : (from + k) * width + at))

/** An ink as it is seen beside a line: its colour, and how it differs from the ground's. */
interface Ink {
  colour: Colour
  off: Colour
  /** What is drawn in it. */
  lines: DrawnRun[]
}

/** The colours that lines are drawn in; those that are blended of another one and the ground don't count. */
function inksOf(picture: Raster, lines: readonly DrawnRun[]): Ink[] {
  const inks: Ink[] = []
  const seen = lines.map((line) => inkOf(picture, line)).sort((p, q) => sizeOf(q.off) - sizeOf(p.off))
  for (const ink of seen) {
    const same = inks.find(({ off }) => dot(off, ink.off) >= SAME_INK_WAY * sizeOf(off) * sizeOf(ink.off))
    if (same) same.lines.push(...ink.lines)
    else inks.push(ink)
  }
  const least = Math.max(INK_PX, INK_LENGTH * Math.max(picture.width, picture.height))
  const lengthOf = (runs: readonly DrawnRun[]) => runs.reduce((sum, { from, to }) => sum + to - from, 0)
  return inks.filter(
    (ink) =>
      lengthOf(ink.lines) >= least &&
      [true, false].every((isLevel) => ink.lines.some((line) => line.isLevel === isLevel)),
  )
}

/** The ink of a line. A thin one is blended with what lies beside it all along; at arrowheads and where lines meet it is seen pure. */
function inkOf({ width, height, data }: Raster, line: DrawnRun): Ink {
  const colourAt = (i: number): Colour => [data[4 * i]!, data[4 * i + 1]!, data[4 * i + 2]!]
  const places = placesOf(line, width)
  const across = line.isLevel ? width : 1
  const ground = meanOf(places.flatMap((i) => [colourAt(i - ASIDE * across), colourAt(i + ASIDE * across)]))
  const colour = meanOf(places.map(colourAt))
  const way = minus(colour, ground)
  const pure = [{ colour, off: way }]
  const length = line.isLevel ? width : height
  const longer = { ...line, from: Math.max(0, line.from - PURE), to: Math.min(length, line.to + PURE) }
  for (const i of placesOf(longer, width))
    for (let j = i - NEAR * across; j <= i + NEAR * across; j += across) {
      if (j < 0 || j >= width * height) continue
      const off = minus(colourAt(j), ground)
      const size = sizeOf(off)
      if (size >= sizeOf(way) && dot(off, way) >= SAME_WAY * size * sizeOf(way))
        pure.push({ colour: colourAt(j), off })
    }
  pure.sort((p, q) => sizeOf(q.off) - sizeOf(p.off))
  return { ...pure[Math.min(FEW, pure.length) - 1]!, lines: [line] }
}

const meanOf = (colours: readonly Colour[]): Colour => {
  const mean = (c: 0 | 1 | 2) => colours.reduce((sum, colour) => sum + colour[c], 0) / colours.length
  return [mean(0), mean(1), mean(2)]
}
const minus = (p: Colour, q: Colour): Colour => [p[0] - q[0], p[1] - q[1], p[2] - q[2]]
const dot = (p: Colour, q: Colour) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2]
const sizeOf = (p: Colour) => Math.sqrt(dot(p, p))

/** Adds what has an ink's colour and is thin. */
function addThin(picture: Raster, { colour }: Ink, drawn: Uint8Array): void {
  const { data } = picture
  const inked = new Uint8Array(drawn.length)
  for (let i = 0; i < inked.length; i++) {
    const isInk = (c: 0 | 1 | 2) => Math.abs(data[4 * i + c]! - colour[c]) <= SAME_INK
    if (isInk(0) && isInk(1) && isInk(2)) inked[i] = 1
  }
  const thick = thickIn(inked, picture)
  eachRegion(inked, picture.width, 1, (places) => {
    if (!places.some((i) => thick[i])) for (const i of places) drawn[i] = 1
  })
}

/** Adds level and upright strokes of the ink, blended with any ground that is alike on both sides of them. */
function addStrokes(picture: Raster, ink: Ink, drawn: Uint8Array): void {
  const { width, height, data } = picture
  const strokes = new Uint8Array(width * height)
  const colourAt = (i: number): Colour => [data[4 * i]!, data[4 * i + 1]!, data[4 * i + 2]!]
  const green = (i: number) => data[4 * i + 1]!
  const isStroke = (i: number, across: number) => {
    // Most px differ from neither side, which is quick to see.
    const [before, after] = [i - ASIDE * across, i + ASIDE * across]
    const differ = (j: number) => Math.abs(green(i) - green(j)) + Math.abs(data[4 * i]! - data[4 * j]!)
    if (differ(before) < LEAST_OFF || differ(after) < LEAST_OFF) return false
    const [p, q] = [colourAt(before), colourAt(after)]
    const ground = meanOf([p, q])
    const off = minus(colourAt(i), ground)
    const whole = minus(ink.colour, ground)
    const size = sizeOf(off)
    return (
      size >= BLEND * sizeOf(whole) &&
      size >= LEAST_OFF &&
      sizeOf(minus(p, q)) <= ALIKE * size &&
      dot(off, whole) >= BLEND_WAY * size * sizeOf(whole)
    )
  }
  // Upright ones and level ones for themselves, since they cross.
  for (const across of [1, width]) {
    strokes.fill(0)
    for (let y = ASIDE; y < height - ASIDE; y++)
      for (let x = ASIDE; x < width - ASIDE; x++)
        if (isStroke(y * width + x, across)) strokes[y * width + x] = 1
    eachRegion(strokes, width, 1, (places) => {
      const [w, h] = sizesOf(places, width)
      const [wide, long] = across === 1 ? [w, h] : [h, w]
      if (wide <= 2 * ASIDE && long >= 3 * ASIDE) for (const i of places) drawn[i] = 1
    })
  }
}

/** How wide and how high px reach. */
function sizesOf(places: Int32Array, width: number): [number, number] {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const i of places) {
    const [x, y] = [i % width, Math.floor(i / width)]
    ;[left, right] = [Math.min(left, x), Math.max(right, x)]
    ;[top, bottom] = [Math.min(top, y), Math.max(bottom, y)]
  }
  return [right - left + 1, bottom - top + 1]
}

const reachOf = ({ width, height }: Raster) => Math.max(2, Math.round((WIDEST / 2) * Math.max(width, height)))

/** Px of a mask all about which it is set, as far as drawn things are wide. */
function thickIn(mask: Uint8Array, picture: Raster): Uint8Array {
  const reach = reachOf(picture)
  const full = (2 * reach + 1) ** 2
  return Uint8Array.from(countAbout(mask, picture.width, reach), (count) => (count === full ? 1 : 0))
}

/**
 * A picture with what lies about marks led over them, from outside inwards; in their halo only what differs little from that, as compression leaves it.
 * @param marks 1 where they are, @param halo and where they are or may have left traces
 */
function ledOver(picture: Raster, marks: Uint8Array, halo: Uint8Array): Raster {
  const { width, height } = picture
  const data = new Uint8Array(picture.data)
  const open = halo.slice()
  const isRim = (i: number) => {
    let closed = false
    besides(i, width, open.length, (j) => (closed ||= !open[j]))
    return closed
  }
  let rim: number[] = []
  for (let i = 0; i < open.length; i++) if (open[i] && isRim(i)) rim.push(i)
  while (rim.length > 0) {
    for (const i of rim) setToMean(data, picture.data, i, { width, open, isMark: Boolean(marks[i]) })
    for (const i of rim) open[i] = 0
    const next = new Set<number>()
    for (const i of rim) besides(i, width, open.length, (j) => open[j] && next.add(j))
    rim = [...next]
  }
  return { width, height, data }
}

/** Sets a px to the mean of the px beside it that aren't open, unless it is no mark and differs from that by more than traces do. */
function setToMean(
  data: Uint8Array,
  was: Raster['data'],
  i: number,
  { width, open, isMark }: { width: number; open: Uint8Array; isMark: boolean },
): void {
  let count = 0
  const sum = [0, 0, 0]
  besides(i, width, open.length, (j) => {
    if (open[j]) return
    count++
    for (let c = 0; c < 3; c++) sum[c]! += data[4 * j + c]!
  })
  const mean = sum.map((v) => Math.round(v / count))
  if (!isMark && mean.some((v, c) => Math.abs(v - was[4 * i + c]!) > TRACE)) return
  for (let c = 0; c < 3; c++) data[4 * i + c] = mean[c]!
}

import type { Raster } from './raster'

/** Lines between squares, one way: the k-th lies at `from + k * pitch`, px from the picture's left or upper border. */
export interface Lines {
  from: number
  pitch: number
}

/** Squares of two greys in turn, as editors show where a picture is clear. */
export interface CheckerGrid {
  across: Lines
  down: Lines
  /** Greys, 0 to 255, of squares between an even line and the next both ways, and of their neighbours. */
  even: number
  odd: number
  /** Over how many px one changes into the other. */
  soft: number
}

/** A px is grey where its bytes differ by no more than this. */
const GREY = 14
/** Codes about a grey that count as it, at most, and as a share of the step between both; greys are so far apart at least. */
const ABOUT = 10
const ABOUT_SHARE = 0.35
const APART = 12
/** Of the px along the borders so many are of either grey, and of these so many of each. */
const OF_TWO = 0.4
const OF_EACH = 0.25
/** Of so many lines of px one is looked at first. */
const FEW = 8
/** Squares are so many px wide, at least, and so many lines part them each way. */
const LEAST_PITCH = 4
const LEAST_LINES = 4
/** A grey that follows on the other over more px than this is another thing's. */
const SOFTEST = 8
/** A line shows over this share of what the clearest one does. */
const SHOWS = 0.25
/** Lines so far apart, as a share of the usual distance, are next to each other. */
const NEXT_SHARE = 0.15
/** So many lines lie where even ones would, to within so many px, or this share of the pitch; both ways are as wide to within the other share. */
const ARE_EVEN = 0.8
const OFF_PX = 0.5
const OFF_SHARE = 0.06
const AS_WIDE = 0.03
/** Of the px of either grey along the borders so many are where the grid has them. */
const AGREES = 0.93

/** The grid of squares before which a picture's piece lies; null for any other picture. */
export function checkerGridOf(picture: Raster): CheckerGrid | null {
  const greys = greysAlongBorders(picture)
  if (!greys) return null
  const signs = signsByGrey(greys)
  // A few lines of px tell most other pictures at once.
  const found = evenLines(picture, signs, FEW) && evenLines(picture, signs, 1)
  return found && agreeing(picture, signs, { ...found, even: greys[0], odd: greys[1] })
}

/** The lines between squares both ways, as every so many lines of px show them; null where they aren't even. */
function evenLines(
  picture: Raster,
  signs: Int8Array,
  every: number,
): Omit<CheckerGrid, 'even' | 'odd'> | null {
  const { width, height } = picture
  const rows = changesAlong(picture, signs, { count: width, step: 1, lines: height, next: width, every })
  const across = linesOf(rows.counts)
  if (!across) return null
  const columns = changesAlong(picture, signs, { count: height, step: width, lines: width, next: 1, every })
  const down = linesOf(columns.counts)
  if (!down || Math.abs(across.pitch - down.pitch) > AS_WIDE * down.pitch) return null
  return { across, down, soft: Math.max(rows.soft, columns.soft) }
}

/** In which square a place lies, one way. */
export const squareAt = ({ from, pitch }: Lines, at: number) => Math.floor((at - from) / pitch)

/** The two greys that nearly all grey px along the borders have; null where there aren't two. */
function greysAlongBorders(picture: Raster): [number, number] | null {
  const counts = new Float64Array(256)
  const places = borderOf(picture)
  for (const i of places) {
    const grey = greyAt(picture, i)
    if (grey >= 0) counts[grey]!++
  }
  const first = peakOf(counts, null)
  const second = peakOf(counts, first.at)
  const both = first.count + second.count
  if (both < OF_TWO * places.length || second.count < OF_EACH * both) return null
  const greys: [number, number] = [first.at, second.at]
  return changesIn(picture, places, greys) >= 2 * LEAST_LINES ? greys : null
}

/** How often either grey follows on the other, one after so many px of the other, along places. */
function changesIn(picture: Raster, places: readonly number[], greys: readonly [number, number]): number {
  const signs = signsByGrey(greys)
  let [changes, last, run] = [0, 0, 0]
  for (const i of places) {
    const sign = signAt(picture, i, signs)
    if (sign === 0) continue
    if (sign === last) run++
    else {
      if (run >= LEAST_PITCH / 2) changes++
      run = 1
    }
    last = sign
  }
  return changes
}

/** The grey with the most px about it, apart from another one. */
function peakOf(counts: Float64Array, other: number | null): { at: number; count: number } {
  const about = APART >> 1
  let [at, count] = [0, 0]
  for (let grey = 0; grey < 256; grey++) {
    if (other !== null && Math.abs(grey - other) < APART) continue
    const near = counts.subarray(Math.max(0, grey - about), grey + about).reduce((sum, n) => sum + n, 0)
    if (near > count) [at, count] = [grey, near]
  }
  let [sum, all] = [0, 0]
  for (let grey = Math.max(0, at - about); grey < Math.min(256, at + about); grey++) {
    sum += grey * counts[grey]!
    all += counts[grey]!
  }
  return { at: all > 0 ? sum / all : at, count }
}

/** The grey of a px; -1 where it is coloured or clear. */
function greyAt({ data }: Raster, i: number): number {
  const [r, g, b, alpha] = [data[4 * i]!, data[4 * i + 1]!, data[4 * i + 2]!, data[4 * i + 3]!]
  return alpha < 255 || Math.max(r, g, b) - Math.min(r, g, b) > GREY ? -1 : Math.round((r + g + b) / 3)
}

/** Places of the px along the four borders, all round. */
function borderOf({ width, height }: Raster): number[] {
  const places: number[] = []
  for (let x = 0; x < width; x++) places.push(x)
  for (let y = 1; y < height - 1; y++) places.push(y * width + width - 1)
  for (let x = width - 1; x >= 0; x--) places.push((height - 1) * width + x)
  for (let y = height - 2; y > 0; y--) places.push(y * width)
  return places
}

/** By grey: 1 where it is the first of two, -1 where it is the second, else 0. */
function signsByGrey([first, second]: readonly [number, number]): Int8Array {
  const about = Math.min(ABOUT, ABOUT_SHARE * Math.abs(first - second))
  return Int8Array.from({ length: 256 }, (_, grey) =>
    Math.abs(grey - first) <= about ? 1 : Math.abs(grey - second) <= about ? -1 : 0,
  )
}

/** The same of a px. */
const signAt = (picture: Raster, i: number, signs: Int8Array): number => signs[greyAt(picture, i)] ?? 0

/** Lines of px, of which every so many are looked at: so many px in each, and how far on the next px and the next line lie. */
interface Scan {
  count: number
  step: number
  lines: number
  next: number
  every: number
}

/** Where either grey follows on the other along lines of px. */
interface Changes {
  /** How often it does at each half px from the border. */
  counts: Float64Array
  /** Over how many px it takes, on average. */
  soft: number
}

function changesAlong(picture: Raster, signs: Int8Array, { count, step, lines, next, every }: Scan): Changes {
  const counts = new Float64Array(2 * count + 1)
  let [all, sum] = [0, 0]
  for (let line = 0; line < lines; line += every) {
    let [last, before] = [-1, 0]
    for (let k = 0, i = line * next; k < count; k++, i += step) {
      const sign = signAt(picture, i, signs)
      if (sign === 0) continue
      if (last >= 0 && k - last <= SOFTEST && sign !== before) {
        counts[k + last + 1]!++
        all++
        sum += k - last
      }
      last = k
      before = sign
    }
  }
  return { counts, soft: sum / all }
}

/** Even lines where the greys change; null where they don't. */
function linesOf(counts: Float64Array): Lines | null {
  const seen = placesOf(counts)
  if (seen.length < LEAST_LINES) return null
  const apart = seen.slice(1).map((at, k) => at - seen[k]!)
  const inOrder = apart.toSorted((p, q) => p - q)
  // The least distance that there is more than once: the piece hides lines.
  const usual = inOrder.find((by, k) => inOrder[k + 1]! - by < NEXT_SHARE * by) ?? 0
  // Their mean, since places are told to half a px only, and where the piece hides many lines small errors of the pitch add up.
  const next = apart.filter((by) => Math.abs(by - usual) < NEXT_SHARE * usual)
  const rough = next.reduce((sum, by) => sum + by, 0) / next.length
  if (!(rough >= LEAST_PITCH)) return null
  let number = 0
  const numbers = [0, ...apart.map((by) => (number += Math.round(by / rough)))]
  const line = lineThrough(numbers, seen)
  const mostOff = Math.max(OFF_PX, OFF_SHARE * line.pitch)
  const fits = seen.filter((at, k) => Math.abs(line.from + numbers[k]! * line.pitch - at) <= mostOff)
  return fits.length >= Math.max(LEAST_LINES, ARE_EVEN * seen.length) ? line : null
}

/** Middles of the places, px from the border, where changes are many. */
function placesOf(counts: Float64Array): number[] {
  const near = (k: number) => (counts[k - 1] ?? 0) + (counts[k] ?? 0) + (counts[k + 1] ?? 0)
  const least = SHOWS * counts.reduce((most, _, k) => Math.max(most, near(k)), 0)
  const places: number[] = []
  let [sum, all] = [0, 0]
  for (let k = 0; k <= counts.length; k++) {
    const isLine = near(k) > least
    if (isLine) {
      sum += (counts[k] ?? 0) * (k / 2)
      all += counts[k] ?? 0
    }
    if (isLine || all === 0) continue
    places.push(sum / all)
    ;[sum, all] = [0, 0]
  }
  return places
}

/** The least squares' line through places by their numbers. */
function lineThrough(numbers: readonly number[], places: readonly number[]): Lines {
  const mean = (list: readonly number[]) => list.reduce((sum, v) => sum + v, 0) / list.length
  const [k, at] = [mean(numbers), mean(places)]
  const dk = numbers.map((n) => n - k)
  const pitch = dk.reduce((sum, d, i) => sum + d * places[i]!, 0) / dk.reduce((sum, d) => sum + d * d, 0)
  return { from: at - pitch * k, pitch }
}

/** The grid with its greys the right way round; null where the px along the borders aren't as it says. */
function agreeing(picture: Raster, signs: Int8Array, grid: CheckerGrid): CheckerGrid | null {
  const { width } = picture
  let [agree, all] = [0, 0]
  for (const i of borderOf(picture)) {
    const sign = signAt(picture, i, signs)
    if (sign === 0) continue
    all++
    const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5]
    const isOdd = (squareAt(grid.across, x) + squareAt(grid.down, y)) & 1
    if (sign > 0 !== Boolean(isOdd)) agree++
  }
  if (agree >= AGREES * all) return grid
  return agree <= (1 - AGREES) * all ? { ...grid, even: grid.odd, odd: grid.even } : null
}

import { squareAt, type CheckerGrid, type Lines } from './checker-grid'
import { countAbout, keepLarge } from './regions'
import { codesApart, type Raster } from './raster'

/** Px of the ground differ by so many codes at most from their square's grey, or by this share of the step between both greys. */
const LIKE = 12
const LIKE_SHARE = 0.4
/** Beside the piece compression leaves so many times as much. */
const TRACES = 1.6
/** Px nearer to a line between squares than half of what it takes one grey to become the other, and so much more, may be blended of both. */
const BLENDED = 0.7
/** A colour goes on across a line where it changes by so many codes at most; over this share of a square's lines it is the piece's. */
const GOES_ON = 16
const GOES_ON_SHARE = 0.04
/** Of the px about one on such a line, so far beyond what may be blended, so many are ground where it is ground. */
const AMONG = 1
const AMONG_SHARE = 0.35
/** Things of less than this share of a square are no piece, and what looks like squares within it has at least so many squares. */
const SPECK = 0.5
const HOLE = 1.5

/** What grey the ground has at each px, and whether two squares are blended there. */
export interface Shades {
  grey: Float32Array
  blended: Uint8Array
  /** So many whole px aside of a line none are. */
  aside: number
}

export function shadesOf({ width, height }: Raster, { across, down, even, odd, soft }: CheckerGrid): Shades {
  const grey = new Float32Array(width * height)
  const blended = new Uint8Array(width * height)
  const reach = soft / 2 + BLENDED
  const columns = signsAlong(across, width, reach)
  const rows = signsAlong(down, height, reach)
  const [mean, half] = [(even + odd) / 2, (even - odd) / 2]
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      grey[i] = mean + half * columns.sign[x]! * rows.sign[y]!
      blended[i] = columns.blended[x]! | rows.blended[y]!
    }
  return { grey, blended, aside: Math.ceil(reach) }
}

/** 1 in even squares along a line of px, -1 in odd ones, the mean of both in px that a line between them crosses. */
function signsAlong(lines: Lines, length: number, reach: number) {
  const sign = new Float32Array(length)
  const blended = new Uint8Array(length)
  for (let k = 0; k < length; k++) {
    const inSquares = (k + 0.5 - lines.from) / lines.pitch
    const off = (inSquares - Math.round(inSquares)) * lines.pitch
    const before = squareAt(lines, k + 0.5 - off - 0.25 * lines.pitch) & 1 ? -1 : 1
    sign[k] = -before * Math.max(-1, Math.min(1, 2 * off))
    blended[k] = Math.abs(off) < reach ? 1 : 0
  }
  return { sign, blended }
}

/** By how many codes a px differs from the ground in the colour that it differs most in. */
function offGround({ data }: Raster, i: number, grey: number): number {
  return Math.max(
    Math.abs(data[4 * i]! - grey),
    Math.abs(data[4 * i + 1]! - grey),
    Math.abs(data[4 * i + 2]! - grey),
  )
}

/** 1 where the ground is seen: px like it, where these are no specks. */
export function groundOf(picture: Raster, grid: CheckerGrid, shades: Shades): Uint8Array {
  const { width, height } = picture
  const { grey, blended, aside } = shades
  const like = Math.min(LIKE, LIKE_SHARE * Math.abs(grid.even - grid.odd))
  const isLike = new Uint8Array(width * height)
  for (let i = 0; i < isLike.length; i++)
    if (!blended[i] && offGround(picture, i, grey[i]!) <= like) isLike[i] = 1
  const told = isLike.slice()
  for (const square of squaresOf(grid, width, height))
    if (coloursGoOn(picture, square, isLike, aside))
      tellByNeighbours(square, { width, height, aside }, isLike, told)
  const mean = (grid.even + grid.odd) / 2
  const most = Math.abs(grid.even - grid.odd) / 2 + like
  // Beside lines what lies about them tells, and so it does where compression left its traces.
  const open = countAbout(
    blended.map((b) => 1 - b),
    width,
    aside + AMONG,
  )
  const among = countAbout(told, width, aside + AMONG)
  const ground = told.map((isGround, i) => {
    if (isGround) return 1
    const isAmong = among[i]! >= AMONG_SHARE * open[i]!
    if (blended[i]) return isAmong && offGround(picture, i, mean) <= most ? 1 : 0
    return isAmong && offGround(picture, i, grey[i]!) <= TRACES * like ? 1 : 0
  })
  const area = grid.across.pitch * grid.down.pitch
  keepLarge(ground, width, 1, HOLE * area)
  keepLarge(ground, width, 0, SPECK * area)
  return ground
}

/** A square of the ground, as far as the picture shows it: from a px to before another. */
interface Square {
  left: number
  right: number
  top: number
  bottom: number
}

function squaresOf({ across, down }: CheckerGrid, width: number, height: number): Square[] {
  const columns = edgesOf(across, width)
  const rows = edgesOf(down, height)
  return rows
    .slice(1)
    .flatMap((bottom, y) =>
      columns.slice(1).map((right, x) => ({ left: columns[x]!, right, top: rows[y]!, bottom })),
    )
}

/** The first px of each square along a line of px, and the end of that. */
function edgesOf(lines: Lines, length: number): number[] {
  const edges = [0]
  for (let k = squareAt(lines, 0) + 1; ; k++) {
    const at = Math.round(lines.from + k * lines.pitch)
    if (at >= length) return [...edges, length]
    if (at > 0) edges.push(at)
  }
}

/** A picture's size, and how far aside of lines px aren't blended. */
interface Frame {
  width: number
  height: number
  aside: number
}

/** What lies across each of a square's four lines from a px, beyond what is blended (null beyond the picture), how far away the line is, and what lies within. */
function acrossFrom(
  { left, right, top, bottom }: Square,
  { width, height, aside }: Frame,
  x: number,
  y: number,
) {
  const at = (u: number, v: number) => (u < 0 || v < 0 || u >= width || v >= height ? null : v * width + u)
  const within = (u: number, v: number) =>
    Math.max(top, Math.min(bottom - 1, v)) * width + Math.max(left, Math.min(right - 1, u))
  return [
    { beyond: at(left - 1 - aside, y), away: x - left + 0.5, within: within(left + aside, y) },
    { beyond: at(right + aside, y), away: right - x - 0.5, within: within(right - 1 - aside, y) },
    { beyond: at(x, top - 1 - aside), away: y - top + 0.5, within: within(x, top + aside) },
    { beyond: at(x, bottom + aside), away: bottom - y - 0.5, within: within(x, bottom - 1 - aside) },
  ]
}

/** Whether what looks like the ground goes on across a square's lines, where the ground is of the other grey: it is as grey a piece, then. */
function coloursGoOn(picture: Raster, square: Square, isLike: Uint8Array, aside: number): boolean {
  const frame = { width: picture.width, height: picture.height, aside }
  const { left, right, top, bottom } = square
  let goesOn = 0
  const look = (x: number, y: number, line: number) => {
    const { beyond, within } = acrossFrom(square, frame, x, y)[line]!
    if (
      beyond !== null &&
      isLike[within] &&
      !isLike[beyond] &&
      codesApart(picture, within, beyond) <= GOES_ON
    )
      goesOn++
  }
  for (let y = top; y < bottom; y++) {
    look(left, y, 0)
    look(right - 1, y, 1)
  }
  for (let x = left; x < right; x++) {
    look(x, top, 2)
    look(x, bottom - 1, 3)
  }
  return goesOn > GOES_ON_SHARE * 2 * (right - left + bottom - top)
}

/** Tells ground from piece in a square by where the ground ends in the squares beside it. */
function tellByNeighbours(square: Square, frame: Frame, isLike: Uint8Array, told: Uint8Array): void {
  for (let y = square.top; y < square.bottom; y++)
    for (let x = square.left; x < square.right; x++) {
      let [ground, all] = [0, 0]
      for (const { beyond, away } of acrossFrom(square, frame, x, y)) {
        if (beyond === null) continue
        ground += isLike[beyond]! / away
        all += 1 / away
      }
      told[y * frame.width + x] = 2 * ground > all ? 1 : 0
    }
}

import { checkerGridOf } from './checker-grid'
import { groundOf, shadesOf, type Shades } from './checker-ground'
import type { Raster } from './raster'
import { besides } from './regions'

/** Px so near to the ground's border may show both; farther in what is piece has its own colour, seen within so many px of one. */
const MIXED = 2
const LOOK = 4
/** A piece's colour tells how much of it a px shows where it differs by so many codes from the ground's. */
const TELLS = 24

/**
 * A picture whose piece lies before squares of two greys, as editors show where a picture is clear, as the cut-out that it is a copy of: its alpha is
 * as much of the piece as each px shows (from the px' colour between the ground's and that of the piece beside it). Null for any
 * other picture.
 */
export function cutFromCheckers(picture: Raster): Raster | null {
  const grid = checkerGridOf(picture)
  if (!grid) return null
  const shades = shadesOf(picture, grid)
  const ground = groundOf(picture, grid, shades)
  const data = new Uint8Array(picture.data)
  const { width, height } = picture
  const alpha = coverage(picture, ground, shades)
  for (let i = 0; i < width * height; i++) data[4 * i + 3] = alpha[i]!
  return { width, height, data }
}

/** How much of the piece each px shows, 0 to 255. */
function coverage(picture: Raster, ground: Uint8Array, { grey }: Shades): Uint8Array {
  const { data, width } = picture
  const mixed = mixedIn(ground, width)
  const alpha = ground.map((isGround) => (isGround ? 0 : 255))
  for (let i = 0; i < alpha.length; i++) {
    const inside = mixed[i] ? colourWithin(picture, i, (k) => !ground[k] && !mixed[k]) : null
    if (!inside) continue
    let [along, length] = [0, 0]
    for (let c = 0; c < 3; c++) {
      const span = inside[c]! - grey[i]!
      along += (data[4 * i + c]! - grey[i]!) * span
      length += span * span
    }
    if (length >= TELLS ** 2) alpha[i] = Math.round(255 * Math.max(0, Math.min(1, along / length)))
  }
  return alpha
}

/** 1 at px so near to where ground and piece meet that they may show both. */
function mixedIn(ground: Uint8Array, width: number): Uint8Array {
  const mixed = new Uint8Array(ground.length)
  let ring: number[] = []
  const add = (i: number) => {
    if (mixed[i]) return
    mixed[i] = 1
    ring.push(i)
  }
  for (let i = 0; i < ground.length; i++)
    besides(i, width, ground.length, (j) => ground[j] !== ground[i] && add(i))
  for (let depth = 1; depth < MIXED; depth++) {
    const outermost = ring
    ring = []
    for (const i of outermost) besides(i, width, ground.length, add)
  }
  return mixed
}

/** The mean colour of the px of the piece alone that are nearest to a px; null where there are none near. */
function colourWithin({ width, height, data }: Raster, i: number, isPiece: (i: number) => boolean) {
  const [x, y] = [i % width, Math.floor(i / width)]
  for (let reach = 1; reach <= LOOK; reach++) {
    const sum = [0, 0, 0]
    let count = 0
    for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
      for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++) {
        const k = v * width + u
        if (!isPiece(k)) continue
        for (let c = 0; c < 3; c++) sum[c]! += data[4 * k + c]!
        count++
      }
    if (count > 0) return sum.map((v) => v / count)
  }
  return null
}

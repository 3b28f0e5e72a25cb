import type { Raster } from './raster'
import { besides, eachRegion } from './regions'

/** In the halo of marks compression leaves traces of so many codes. */
const TRACE = 9
/** So few px together are no part of the picture. */
const CRUMB = 12
/** So many px beyond the halo its noise is asked for. */
const ABOUT = 8
/** What is led over marks is evened out in so many rounds, or fewer where it is much, going so much farther each time than to the mean. */
const ROUNDS = 16
const MOST_STEPS = 1.2e7
const RELAX = 1.7

/** A px is yet to be led over, or stands in the row to be next. */
const OPEN = 1
const NEXT = 2

/**
 * A picture with what lies about marks led over them, from outside inwards; in their halo only what differs little from that, as compression leaves it.
 * @param marks 1 where they are
 * @param halo 1 where they are or may have left traces
 */
export function ledOver(picture: Raster, marks: Uint8Array, halo: Uint8Array): Raster {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  const state = halo.slice()
  const led: number[] = []
  let rim: number[] = []
  for (let i = 0; i < state.length; i++)
    if (state[i] === OPEN) {
      let isRim = false
      besides(i, width, state.length, (j) => (isRim ||= state[j] === 0))
      if (isRim) rim.push(i)
    }
  while (rim.length > 0) {
    for (const i of rim) state[i] = NEXT
    for (const i of rim)
      if (setToMean(data, i, { width, state, most: marks[i] ? Infinity : TRACE })) led.push(i)
    for (const i of rim) state[i] = 0
    const next: number[] = []
    for (const i of rim)
      besides(i, width, state.length, (j) => {
        if (state[j] !== OPEN) return
        state[j] = NEXT
        next.push(j)
      })
    rim = next
  }
  led.push(...crumbsAmong(led, halo, width))
  evenOut(data, led, width)
  addGrain(data, led, noiseAbout(picture, halo))
  return { width, height, data }
}

/** Px of a halo that differ more than traces do, but are few together with what was led over all about them. */
function crumbsAmong(led: readonly number[], halo: Uint8Array, width: number): number[] {
  const kept = halo.slice()
  for (const i of led) kept[i] = 0
  const crumbs: number[] = []
  eachRegion(kept, width, 1, (places) => {
    if (places.length > CRUMB) return
    let isWithin = true
    for (const i of places) besides(i, width, halo.length, (j) => (isWithin &&= halo[j] === 1))
    if (isWithin) crumbs.push(...places)
  })
  return crumbs
}

/** Sets a px to the mean of the px beside it that are known, unless it differs from that by more codes. Whether it did. */
function setToMean(
  data: Uint8ClampedArray,
  i: number,
  { width, state, most }: { width: number; state: Uint8Array; most: number },
): boolean {
  let [count, r, g, b] = [0, 0, 0, 0]
  besides(i, width, state.length, (j) => {
    if (state[j]) return
    count++
    r += data[4 * j]!
    g += data[4 * j + 1]!
    b += data[4 * j + 2]!
  })
  const mean = [r / count, g / count, b / count]
  if (mean.some((v, c) => Math.abs(v - data[4 * i + c]!) > most)) return false
  data.set(mean, 4 * i)
  return true
}

/** Evens out what was led over marks, each px to the mean of those beside it (successive over-relaxation): streaks have edges of their own. */
function evenOut(data: Uint8ClampedArray, led: readonly number[], width: number): void {
  const slots = new Int32Array(data.length / 4).fill(-1)
  led.forEach((i, k) => (slots[i] = k))
  const values = Float32Array.from(
    { length: 3 * led.length },
    (_, k) => data[4 * led[Math.floor(k / 3)]! + (k % 3)]!,
  )
  // Beside each of them another of them, by its number, or a px of the picture, by its place and before 0; itself where there is none.
  const beside = new Int32Array(4 * led.length)
  led.forEach((i, k) => {
    let n = 4 * k
    besides(i, width, slots.length, (j) => (beside[n++] = slots[j]! >= 0 ? slots[j]! : -1 - j))
    while (n < 4 * k + 4) beside[n++] = k
  })
  const rounds = Math.min(ROUNDS, Math.ceil(MOST_STEPS / led.length))
  for (let round = 0; round < rounds; round++)
    for (let k = 0; k < led.length; k++)
      for (let c = 0; c < 3; c++) {
        let sum = 0
        for (let n = 4 * k; n < 4 * k + 4; n++) {
          const at = beside[n]!
          sum += at >= 0 ? values[3 * at + c]! : data[4 * (-1 - at) + c]!
        }
        const value = values[3 * k + c]!
        values[3 * k + c] = value + RELAX * (sum / 4 - value)
      }
  led.forEach((i, k) => data.set(values.subarray(3 * k, 3 * k + 3), 4 * i))
}

/** The noise about a halo, codes, as a standard deviation: by how much neighbouring px differ along rows, of those that differ as little as noise lets them (of normal noise the mean is 2/√π of it). */
function noiseAbout({ width, data }: Raster, halo: Uint8Array): number {
  let [sum, count] = [0, 0]
  for (let i = 0; i + 1 < halo.length; i++) {
    if (halo[i] || halo[i + 1]) continue
    const isNear = [ABOUT, ABOUT * width].some((away) => halo[i - away] || halo[i + away])
    const step = Math.abs(data[4 * i + 5]! - data[4 * i + 1]!)
    if (!isNear || step > TRACE) continue
    sum += step
    count++
  }
  return count === 0 ? 0 : ((Math.sqrt(Math.PI) / 2) * sum) / count
}

/** Makes what was led over marks as grainy as the picture is: what has no noise at all looks like a thing by itself. */
function addGrain(data: Uint8ClampedArray, led: readonly number[], noise: number): void {
  for (const i of led) {
    const grain = noise * grainAt(i)
    for (let c = 0; c < 3; c++) data[4 * i + c]! += grain
  }
}

/** About normally distributed, of mean 0 and standard deviation 1, always the same at a place: four bytes of its number, well mixed (a step of MurmurHash3, A. Appleby, from memory), summed up. */
function grainAt(i: number): number {
  let mixed = Math.imul(i ^ (i >>> 16), 0x85ebca6b)
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35)
  mixed ^= mixed >>> 16
  const sum = (mixed & 255) + ((mixed >>> 8) & 255) + ((mixed >>> 16) & 255) + (mixed >>> 24)
  // Four even ones of 0 to 255.
  return (sum - 510) / 147.8
}

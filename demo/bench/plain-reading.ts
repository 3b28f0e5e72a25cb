/** An upright picture, RGBA. */
interface Pixels {
  width: number
  height: number
  data: Uint8Array
}

/** Colour distance, 8-bit steps, beyond which a pixel isn't backdrop. */
const FAR = 40

/**
 * The plain way, to compare with: what differs from the borders' mean colour is the piece, the width of each row is its
 * diameter, and one scale does for all.
 * @returns [r, z] from foot to top, mm; empty when nothing differs
 */
export function plainReading({ width, height, data }: Pixels, heightMm: number): [number, number][] {
  const mean = [0, 0, 0]
  let count = 0
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (x > 20 && y > 20 && x < width - 20 && y < height - 20) continue
      for (let c = 0; c < 3; c++) mean[c]! += data[4 * (y * width + x) + c]!
      count++
    }
  mean.forEach((v, c) => (mean[c] = v / count))
  const rows: { y: number; half: number }[] = []
  for (let y = 0; y < height; y++) {
    let left = -1
    let right = -1
    for (let x = 0; x < width; x++) {
      const i = 4 * (y * width + x)
      if (Math.hypot(data[i]! - mean[0]!, data[i + 1]! - mean[1]!, data[i + 2]! - mean[2]!) < FAR) continue
      if (left < 0) left = x
      right = x
    }
    if (right - left > 4) rows.push({ y, half: (right - left + 1) / 2 })
  }
  if (rows.length < 10) return []
  const top = rows[0]!.y
  const foot = rows[rows.length - 1]!.y + 1
  const mm = heightMm / (foot - top)
  const side = rows.reverse().map(({ y, half }): [number, number] => [half * mm, (foot - y - 0.5) * mm])
  return [[0, 0], ...side, [0, heightMm]]
}

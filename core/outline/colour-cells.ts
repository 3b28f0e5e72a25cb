import type { LabPicture } from '../picture/reduce'

/** OKLab ranges that sRGB fills: lightness, green to red, blue to yellow. */
const RANGES = [
  [0, 1],
  [-0.25, 0.3],
  [-0.3, 0.25],
] as const

/** Which colour each pixel has, of so many steps a coordinate: 0 to steps³ - 1, those of neighbouring colours 1, steps or steps² apart. */
export function colourCells({ l, a, b }: LabPicture, steps: number): Uint16Array {
  return Uint16Array.from(l, (light, i) => cellOfColour(light, a[i]!, b[i]!, steps))
}

/** The cell of one colour, OKLab. */
export function cellOfColour(l: number, a: number, b: number, steps: number): number {
  return (stepOf(l, 0, steps) * steps + stepOf(a, 1, steps)) * steps + stepOf(b, 2, steps)
}

function stepOf(value: number, coordinate: 0 | 1 | 2, steps: number): number {
  const [low, high] = RANGES[coordinate]
  return Math.min(steps - 1, Math.max(0, Math.floor(((value - low) / (high - low)) * steps)))
}

/** The colour in the middle of a cell, OKLab. */
export function colourOfCell(cell: number, steps: number): [number, number, number] {
  const places = [Math.floor(cell / steps ** 2), Math.floor(cell / steps) % steps, cell % steps] as const
  return places.map((place, k) => {
    const [low, high] = RANGES[k]!
    return low + ((place + 0.5) / steps) * (high - low)
  }) as [number, number, number]
}

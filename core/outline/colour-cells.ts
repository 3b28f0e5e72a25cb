import type { LabPicture } from '../picture/reduce'

/** OKLab ranges that sRGB fills: lightness, green to red, blue to yellow. */
const LIGHT = [0, 1] as const
const GREEN_RED = [-0.25, 0.3] as const
const BLUE_YELLOW = [-0.3, 0.25] as const

/** Which colour each pixel has, of so many steps a coordinate: 0 to steps³ - 1, those of neighbouring colours 1, steps or steps² apart. */
export function colourCells({ l, a, b }: LabPicture, steps: number): Uint16Array {
  const step = (value: number, [low, high]: readonly [number, number]) =>
    Math.min(steps - 1, Math.max(0, Math.floor(((value - low) / (high - low)) * steps)))
  return Uint16Array.from(
    l,
    (light, i) => (step(light, LIGHT) * steps + step(a[i]!, GREEN_RED)) * steps + step(b[i]!, BLUE_YELLOW),
  )
}

import type { Raster } from '../picture/raster'
import { toOklab } from '../picture/reduce'
import { addLight } from '../picture/sample'

/** The mean colour (OKLab) of the 3 x 3 px about a place. */
export function colourAbout(raster: Raster, x: number, y: number): [l: number, a: number, b: number] {
  const light = new Float32Array(9)
  for (const dy of [-1, 0, 1]) addLight(raster, { x: x - 1, y: y + dy, dx: 1, dy: 0, count: 3 }, light)
  const [red, green, blue] = [0, 3, 6].map((k) => (light[k]! + light[k + 1]! + light[k + 2]!) / 9) as [number, number, number] // prettier-ignore
  const [l, a, b] = [new Float32Array(1), new Float32Array(1), new Float32Array(1)]
  toOklab(red, green, blue, 0, l, a, b)
  return [l[0]!, a[0]!, b[0]!]
}

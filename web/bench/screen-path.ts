import type { Segment } from '../../core/profile/segments'
import type { ScreenPoint } from '../composables/use-view'

/** SVG path data of segments on the screen, on the side of the given sign. */
export function screenPath(
  segments: readonly Segment[],
  sign: number,
  toScreen: (p: { x: number; z: number }) => ScreenPoint,
): string {
  let d = ''
  let end = ''
  for (const { kind, cubic: c } of segments) {
    const at = (k: number) => {
      const { sx, sy } = toScreen({ x: sign * c[k]!, z: c[k + 1]! })
      return `${sx.toFixed(2)} ${sy.toFixed(2)}`
    }
    const start = at(0)
    if (start !== end) d += `M${start}`
    end = at(6)
    d += kind === 'line' ? `L${end}` : `C${at(2)} ${at(4)} ${end}`
  }
  return d
}

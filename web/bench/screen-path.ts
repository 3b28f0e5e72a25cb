import { cubicsOf, endOf, startOf, type Segment } from '../../core/profile/segments'
import type { ScreenPoint } from '../composables/use-view'

/** What turns and comes back within so many px is one line on the screen: thousands of nodes cost what can be seen of them. */
const TOO_SMALL_PX = 0.75

/** SVG path data of segments on the screen, on the side of the given sign. */
export function screenPath(
  segments: readonly Segment[],
  sign: number,
  toScreen: (p: { x: number; z: number }) => ScreenPoint,
): string {
  const place = (r: number, z: number) => toScreen({ x: sign * r, z })
  let d = ''
  /** Where the path has been drawn to, and where the run of what is too small to be seen has come to since. */
  let drawn: ScreenPoint | null = null
  let run: ScreenPoint | null = null
  const isNear = (p: ScreenPoint) =>
    Math.abs(p.sx - drawn!.sx) < TOO_SMALL_PX && Math.abs(p.sy - drawn!.sy) < TOO_SMALL_PX
  const goTo = (p: ScreenPoint) => (d += `L${text(p)}`)
  let last: readonly [number, number] = [NaN, NaN]
  for (const segment of segments) {
    const start = startOf(segment)
    // Ends that only rounding keeps apart stay joined: areas are filled by these paths too.
    const joined = start[0] === last[0] && start[1] === last[1]
    if (!joined) {
      const from = place(...start)
      const reached = run ?? drawn
      if (!reached || text(from) !== text(reached)) {
        if (run) goTo(run)
        d += `M${text(from)}`
        drawn = from
        run = null
      }
    }
    last = endOf(segment)
    const end = place(...last)
    if (isNear(end) && isPlain(segment)) {
      run = end
      continue
    }
    if (run) goTo(run)
    run = null
    if (segment.kind === 'line') goTo(end)
    else
      for (const c of cubicsOf(segment))
        d += `C${text(place(c[2], c[3]))} ${text(place(c[4], c[5]))} ${text(place(c[6], c[7]))}`
    drawn = end
  }
  if (run) goTo(run)
  return d
}

/** True when a segment doesn't go far beyond its ends. */
function isPlain(s: Segment): boolean {
  if (s.kind === 'line') return true
  if (s.kind === 'arc') return Math.abs(s.arc.sweep) < Math.PI
  const c = s.cubic
  const way = distance(c[0], c[1], c[2], c[3]) + distance(c[2], c[3], c[4], c[5]) + distance(c[4], c[5], c[6], c[7]) // prettier-ignore
  return way < 2 * distance(c[0], c[1], c[6], c[7])
}

const distance = (r: number, z: number, p: number, q: number) => Math.sqrt((p - r) ** 2 + (q - z) ** 2)

/** To a hundredth of a px. */
function text({ sx, sy }: ScreenPoint): string {
  return `${Math.round(sx * 100) / 100} ${Math.round(sy * 100) / 100}`
}

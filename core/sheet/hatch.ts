import type { PathMark, Step } from './drawing'

/**
 * Hatching at 45° of an area given by closed chains [x y ...] on the page, by the even-odd rule: lines are cut at the chains, so
 * that no viewer has to clip. Distances between lines in mm.
 * @param falling lines fall to the right instead of rising: for the neighbour of a hatched area
 */
export function hatching(chains: readonly Float64Array[], spacing: number, falling = false): PathMark {
  const slope = falling ? -1 : 1
  // Across the hatching: u is constant along a line, v runs along it.
  const across = (x: number, y: number) => (x * slope + y) / Math.SQRT2
  const along = (x: number, y: number) => (x * slope - y) / Math.SQRT2
  const crossings = new Map<number, number[]>()
  for (const chain of chains) {
    const n = chain.length / 2
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n
      const [x0, y0, x1, y1] = [chain[2 * i]!, chain[2 * i + 1]!, chain[2 * j]!, chain[2 * j + 1]!]
      const [u0, u1] = [across(x0, y0), across(x1, y1)]
      // Half-open, so that a corner on a line counts once.
      const [from, to] = [Math.ceil(Math.min(u0, u1) / spacing), Math.ceil(Math.max(u0, u1) / spacing)]
      for (let k = from; k < to; k++) {
        const t = (k * spacing - u0) / (u1 - u0)
        const v = along(x0, y0) + t * (along(x1, y1) - along(x0, y0))
        const list = crossings.get(k)
        if (list) list.push(v)
        else crossings.set(k, [v])
      }
    }
  }
  const steps: Step[] = []
  for (const [k, list] of crossings) {
    const u = k * spacing
    list.sort((a, b) => a - b)
    for (let i = 0; i + 1 < list.length; i += 2) {
      for (const [to, v] of [
        ['M', list[i]!],
        ['L', list[i + 1]!],
      ] as const)
        // prettier-ignore
        steps.push([to, ((u + v) * slope) / Math.SQRT2, (u - v) / Math.SQRT2])
    }
  }
  return { kind: 'path', line: 'fine', steps }
}

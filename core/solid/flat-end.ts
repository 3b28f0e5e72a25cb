import earcut from 'earcut'

/**
 * Triangles over the area between a half-profile and the axis, counter-clockwise in (r, z), as indices of its points. Every
 * point is a corner of some triangle, also those on straight runs (which ear clipping leaves out), so that the end meets the
 * rows of the solid edge by edge.
 * @param points flat [r z ...], closed along the axis from the last to the first
 */
export function flatEnd(points: Float64Array): Uint32Array {
  const triangles = earcut(points)
  const count = points.length / 2
  const key = (a: number, b: number) => a * count + b
  const sides = new Set<number>()
  const corners: [number, number, number][] = []
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, p, q] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!]
    const [b, c] = area(points, a, p, q) < 0 ? [q, p] : [p, q]
    corners.push([a, b, c])
    sides.add(key(a, b)).add(key(b, c)).add(key(c, a))
  }
  /** Points left out along a side; none where another triangle lies beyond it, or the axis. */
  const leftOut = (a: number, b: number): number[] => {
    if (sides.has(key(b, a)) || (a === count - 1 && b === 0)) return []
    return Array.from({ length: ((b - a + count) % count) - 1 }, (_, k) => (a + k + 1) % count)
  }
  return Uint32Array.from(
    corners.flatMap(([a, b, c]) => {
      const way = [[a, ...leftOut(a, b)], [b, ...leftOut(b, c)], [c, ...leftOut(c, a)]] // prettier-ignore
      return clipped(way.flatMap((run) => run.map((point, k) => ({ point, corner: k === 0 }))))
    }),
  )
}

/** Triangles of a triangle with more points along its sides: corners beside such points are cut off one by one. */
function clipped(polygon: { point: number; corner: boolean }[]): number[] {
  const left = [...polygon]
  const out: number[] = []
  while (left.length > 3) {
    const n = left.length
    const beside = left.findIndex(
      (v, i) => v.corner && !(left[(i + 1) % n]!.corner && left[(i + n - 1) % n]!.corner),
    )
    // Where two sides had points, corners alone may be left: any of them can be cut off.
    const at = Math.max(0, beside)
    const [before, after] = [(at + n - 1) % n, (at + 1) % n]
    out.push(left[before]!.point, left[at]!.point, left[after]!.point)
    // What stood beside it is a corner now.
    left[before] = { ...left[before]!, corner: true }
    left[after] = { ...left[after]!, corner: true }
    left.splice(at, 1)
  }
  out.push(...left.map((v) => v.point))
  return out
}

/** Twice the signed area of a triangle. */
function area(p: Float64Array, a: number, b: number, c: number): number {
  const [ar, az] = [p[2 * a]!, p[2 * a + 1]!]
  return (p[2 * b]! - ar) * (p[2 * c + 1]! - az) - (p[2 * b + 1]! - az) * (p[2 * c]! - ar)
}

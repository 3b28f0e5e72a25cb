import earcut from 'earcut'

/** Triangles over the area within an outline, as indices of its points, all counter-clockwise. @param outline [x y ...] */
export function lidTriangles(outline: readonly number[]): number[] {
  const lid = earcut([...outline])
  const at = (i: number) => [outline[2 * i]!, outline[2 * i + 1]!] as const
  for (let i = 0; i < lid.length; i += 3) {
    const [a, b, c] = [at(lid[i]!), at(lid[i + 1]!), at(lid[i + 2]!)]
    const turn = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
    if (turn < 0) [lid[i + 1], lid[i + 2]] = [lid[i + 2]!, lid[i + 1]!]
  }
  return lid
}

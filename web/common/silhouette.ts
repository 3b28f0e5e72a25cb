/**
 * SVG path data of a half-profile and its mirror image.
 * @param points [r z ...], mm
 * @param place where the axis meets height 0 on the screen, px, and px for one mm
 */
export function silhouettePath(
  points: ArrayLike<number>,
  { x, y, pxPerMm }: { x: number; y: number; pxPerMm: number },
): string {
  const at = (sign: number, i: number) =>
    `${(x + sign * points[i]! * pxPerMm).toFixed(1)} ${(y - points[i + 1]! * pxPerMm).toFixed(1)}`
  const right: string[] = []
  const left: string[] = []
  for (let i = 0; i < points.length; i += 2) {
    right.push(at(1, i))
    left.unshift(at(-1, i))
  }
  return `M${right.join('L')}L${left.join('L')}Z`
}

import type { ProfileNode } from './profile'
import { derivativeOn, pointOn, sharpSegments } from './segments'

/** A node for tests. */
export function node(
  r: number,
  z: number,
  joint: ProfileNode['joint'] = 'corner',
  segment: Partial<ProfileNode> = {},
): ProfileNode {
  return { id: `${r},${z}`, r, z, joint, next: 'line', ...segment }
}

/** Normally distributed numbers, the same for a seed. */
export function gaussian(seed: number): () => number {
  let s = seed
  const random = () => (s = (s * 16807) % 2147483647) / 2147483647
  return () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random())
}

/** Points along the curve through nodes, `step` apart, moved across it by Gaussian noise; the two ends stay. */
export function samples(
  nodes: readonly ProfileNode[],
  step: number,
  noise = 0,
  seed = 1,
): [number, number][] {
  const gauss = gaussian(seed)
  const segments = sharpSegments(nodes)
  const out: [number, number][] = [pointOn(segments[0]!, 0)]
  for (const segment of segments) {
    let length = 0
    for (let k = 0; k < 64; k++) length += Math.hypot(...derivativeOn(segment, (k + 0.5) / 64)) / 64
    const n = Math.max(2, Math.round(length / step))
    for (let k = 1; k <= n; k++) {
      const [r, z] = pointOn(segment, k / n)
      const [dr, dz] = derivativeOn(segment, k / n)
      const off = (noise * gauss()) / Math.hypot(dr, dz)
      out.push([Math.max(1e-6, r + off * dz), z - off * dr])
    }
  }
  out[out.length - 1] = pointOn(segments[segments.length - 1]!, 1)
  return out
}

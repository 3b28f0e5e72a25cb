import { Body } from '../maker/body'
import { contourPoint, makeCamera, project, rayThrough, type Camera, type CameraSpec } from '../maker/camera'
import { chainVolume, type Chain } from '../maker/shape'
import { dot, sub } from '../maker/vector'

export type Profile = readonly (readonly [number, number])[]

/** Errors of a half-profile against the true one, in % of the true height; signed for diameter, height and volume. */
export interface ProfileError {
  rms: number
  p95: number
  /** The other way round: how far the result strays from the truth, 95th percentile. */
  stray: number
  diameter: number
  height: number
  volume: number
}

/** Compares a half-profile with the visible points of the true one. */
export function profileError(truth: Profile, visible: readonly boolean[], got: Profile): ProfileError {
  const height = Math.max(...truth.map((p) => p[1])) - Math.min(...truth.map((p) => p[1]))
  const seen = dense(truth, visible, height / 400)
  const there = seen.map((p) => distanceTo(got, p)).sort((a, b) => a - b)
  const back = dense(got, null, height / 400)
    .filter((p) => p[0] > 0.02 * height)
    .map((p) => distanceTo(truth, p))
    .sort((a, b) => a - b)
  const at = (sorted: number[], share: number) =>
    sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!
  const rise = (p: Profile) => Math.max(...p.map((q) => q[1])) - Math.min(...p.map((q) => q[1]))
  const wide = (p: Profile) => Math.max(...p.map((q) => q[0]))
  return {
    rms: (100 * Math.sqrt(there.reduce((s, d) => s + d * d, 0) / there.length)) / height,
    p95: (100 * at(there, 0.95)) / height,
    stray: (100 * at(back, 0.95)) / height,
    diameter: 100 * (wide(got) / wide(truth) - 1),
    height: 100 * (rise(got) / height - 1),
    volume: 100 * (revolved(got) / revolved(truth) - 1),
  }
}

/** Points along a polyline at most `step` apart; with flags, only along chords whose both ends are flagged. */
function dense(points: Profile, flags: readonly boolean[] | null, step: number): [number, number][] {
  const out: [number, number][] = []
  for (let i = 0; i + 1 < points.length; i++) {
    if (flags && !(flags[i] && flags[i + 1])) continue
    const [r, z] = points[i]!
    const [dr, dz] = [points[i + 1]![0] - r, points[i + 1]![1] - z]
    const n = Math.max(1, Math.ceil(Math.hypot(dr, dz) / step))
    for (let k = 0; k < n; k++) out.push([r + (dr * k) / n, z + (dz * k) / n])
  }
  return out
}

export function distanceTo(line: Profile, [x, y]: readonly [number, number]): number {
  let least = Infinity
  for (let i = 0; i + 1 < line.length; i++) {
    const [a, b] = line[i]!
    const [dx, dy] = [line[i + 1]![0] - a, line[i + 1]![1] - b]
    const l2 = dx * dx + dy * dy
    const t = l2 ? Math.max(0, Math.min(1, ((x - a) * dx + (y - b) * dy) / l2)) : 0
    least = Math.min(least, (a + dx * t - x) ** 2 + (b + dy * t - y) ** 2)
  }
  return Math.sqrt(least)
}

/** Volume of a revolved half-profile. */
function revolved(profile: Profile): number {
  return chainVolume({
    r: Float64Array.from(profile, (p) => p[0]),
    z: Float64Array.from(profile, (p) => p[1]),
  })
}

/** How far outside the outline a ray must still miss the piece, px. */
const AIR_PX = 0.6

/**
 * Which points of the outer profile this camera can see on the outer outline, by shooting rays just beside the place
 * where each ring touches the line of sight: whoever hits the piece there is hidden.
 */
export function visibleOf(spec: CameraSpec, chain: Chain): boolean[] {
  const camera = makeCamera(spec)
  const body = new Body(chain)
  return Array.from(chain.r, (r, i) => {
    if (r === 0) return false
    const around = [i - 1, i].filter((k) => k >= 0 && 2 * k + 1 < chain.startNormal.length)
    return around.some((k) => {
      const normals = [chain.startNormal, chain.endNormal].map((n) => [n[2 * k]!, n[2 * k + 1]!] as const)
      return normals.some(
        ([nr, nz]) => nr > 0.05 && missesBeside(camera, body, { r, z: chain.z[i]!, nr, nz }),
      )
    })
  })
}

function missesBeside(
  camera: Camera,
  body: Body,
  ring: { r: number; z: number; nr: number; nz: number },
): boolean {
  const p = contourPoint(camera, ring, 1)
  if (!p) return false
  const radial = Math.hypot(p[0], p[1])
  const normal = [(p[0] / radial) * ring.nr, (p[1] / radial) * ring.nr, ring.nz] as const
  const depth = dot(sub(p, camera.position), camera.forward)
  const step = (AIR_PX * depth) / camera.f
  const q = project(camera, [p[0] + step * normal[0], p[1] + step * normal[1], p[2] + step * normal[2]])
  return body.distance(camera.position, rayThrough(camera, q.x, q.y)) === Infinity
}

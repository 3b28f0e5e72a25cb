import { describe, expect, it } from 'vitest'
import { silhouetteMisses, silhouetteReport, type EdgeMiss } from '../core/measure/silhouette'
import { makeEye, type NearView } from '../core/camera/view'
import { undistort, type Lens } from '../core/camera/lens'
import { LAMP_ROOM } from './lamp-room'
import { Body } from './maker/body'
import { makeCamera, rayThrough, type Camera } from './maker/camera'
import { truthOf, type PhotoSpec } from './maker/photo'
import { chainOf } from './maker/shape'
import { unit } from './maker/vector'

/** The photo maker's camera as the app's view. */
function viewOf(spec: PhotoSpec): NearView {
  const truth = truthOf(spec)
  const { f, width, height, distance, cameraHeight, pitch, k1 = 0 } = makeCamera(spec.camera)
  const centre = { x: width / 2, y: height / 2 }
  const lens: Lens | null = k1 === 0 ? null : { k1, k2: 0, unitPx: f, centre }
  const [foot, top] = truth.axisPx.map(([x, y]) => undistort(lens, { x, y }))
  return { kind: 'near', lens, eye: makeEye(f, centre, { foot: foot!, top: top! }, pitch), distance, height: cameraHeight } // prettier-ignore
}

/** Where rows of the picture pass the silhouette, by the maker's own rays: halved between a miss and a hit. */
function tracedEdges(
  spec: PhotoSpec,
  camera: Camera,
): { left: [number, number][]; right: [number, number][] } {
  const outside = chainOf(spec.shape, true)
  const last = outside.r.length - 1
  const closed = outside.r[last] === 0 ? outside : { ...outside, r: Float64Array.from([...outside.r, 0]), z: Float64Array.from([...outside.z, outside.z[last]!]) } // prettier-ignore
  const body = new Body(closed)
  const eye: [number, number, number] = [0, -camera.distance, camera.cameraHeight]
  const hits = (x: number, y: number) => Number.isFinite(body.distance(eye, unit(rayThrough(camera, x, y))))
  const [[fx, fy], [tx, ty]] = truthOf(spec).axisPx
  const edges = { left: [] as [number, number][], right: [] as [number, number][] }
  for (let k = 1; k < 120; k++) {
    const share = k / 120
    const [mx, my] = [fx + share * (tx - fx), fy + share * (ty - fy)]
    // Across the axis as it stands in the picture.
    const l = Math.hypot(tx - fx, ty - fy)
    const [ax, ay] = [-(ty - fy) / l, (tx - fx) / l]
    for (const side of ['left', 'right'] as const) {
      const sign = side === 'right' ? 1 : -1
      let [inside, outside] = [0, 0.9 * l + camera.width]
      if (!hits(mx, my)) continue
      for (let n = 0; n < 50; n++) {
        const middle = (inside + outside) / 2
        if (hits(mx + sign * middle * ax, my + sign * middle * ay)) inside = middle
        else outside = middle
      }
      edges[side].push([mx + sign * inside * ax, my + sign * inside * ay])
    }
  }
  return edges
}

describe('the silhouette through the photo’s own camera', () => {
  it.each(LAMP_ROOM.map((spec) => [spec.name, spec] as const))(
    '%s: the true profile lies on the maker’s contour within a tenth of a pixel',
    (_name, spec) => {
      const truth = truthOf(spec)
      const edges = tracedEdges(spec, makeCamera(spec.camera))
      const profile = Float64Array.from(truth.profile.flat())
      const misses = (list: [number, number][]): EdgeMiss[] => silhouetteMisses(viewOf(spec), list.map(([x, y]) => ({ x, y })), profile) // prettier-ignore
      const report = silhouetteReport(misses(edges.left), misses(edges.right))!
      expect(edges.left.length).toBeGreaterThan(60)
      expect(report.rmsPx).toBeLessThan(0.1)
      expect(Math.abs(report.worst.px)).toBeLessThan(0.5)
      // Two per cent fatter it lies inside of nothing any more: the measure says by how much.
      const fat = profile.map((v, i) => (i % 2 ? v : 1.02 * v))
      const fatMisses = silhouetteMisses(viewOf(spec), edges.right.map(([x, y]) => ({ x, y })), fat) // prettier-ignore
      const widest = fatMisses.reduce((w, m) => (m.mm < w.mm ? m : w))
      expect(widest.mm / (-0.01 * truth.maxDiameter)).toBeGreaterThan(0.9)
      expect(widest.mm / (-0.01 * truth.maxDiameter)).toBeLessThan(1.1)
    },
  )
})

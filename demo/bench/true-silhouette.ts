import { undistort, type Lens } from '../../core/camera/lens'
import { makeEye, type NearView } from '../../core/camera/view'
import { Body } from '../maker/body'
import { makeCamera, rayThrough } from '../maker/camera'
import { truthOf, type PhotoSpec } from '../maker/photo'
import { chainOf, type Chain } from '../maker/shape'
import { unit } from '../maker/vector'

/** The photo maker's camera as the app's view. */
export function trueView(spec: PhotoSpec): NearView {
  const truth = truthOf(spec)
  const { f, width, height, distance, cameraHeight, pitch, k1 = 0 } = makeCamera(spec.camera)
  const centre = { x: width / 2, y: height / 2 }
  const lens: Lens | null = k1 === 0 ? null : { k1, k2: 0, unitPx: f, centre }
  const [foot, top] = truth.axisPx.map(([x, y]) => undistort(lens, { x, y }))
  return { kind: 'near', lens, eye: makeEye(f, centre, { foot: foot!, top: top! }, pitch), distance, height: cameraHeight } // prettier-ignore
}

/** Where rows of the picture pass the silhouette, by the maker's own rays: halved between a miss and a hit. */
export function tracedEdges(spec: PhotoSpec): { left: [number, number][]; right: [number, number][] } {
  const camera = makeCamera(spec.camera)
  const body = new Body(closedAtTop(chainOf(spec.shape, true)))
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

/** The outside of a hollow piece, closed flat at its rim. */
export function closedAtTop(outside: Chain): Chain {
  const last = outside.r.length - 1
  if (outside.r[last] === 0) return outside
  const r = Float64Array.from([...outside.r, 0])
  return { ...outside, r, z: Float64Array.from([...outside.z, outside.z[last]!]) }
}

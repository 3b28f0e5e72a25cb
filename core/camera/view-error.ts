import { makeEye, project, toPlane, type NearView, type View } from './view'

/** How far a reading may be off at one place of the piece, mm. */
export interface ReadingError {
  place: 'foot' | 'largest' | 'rim'
  /** Error of the height and of the diameter read there, from and to over the cameras considered. */
  heightMm: [number, number]
  diameterMm: [number, number]
}

export interface ErrorCase {
  /** Camera distance and height above the foot, mm. */
  distance: number
  height: number
}

/** Largest places of a piece that readings are judged at, mm. */
export interface PieceExtent {
  height: number
  footRadius: number
  largestRadius: number
  largestAt: number
  rimRadius: number
}

/** Cameras that are likely when nothing is known: from three to fifteen heights away, from level with the foot to half a height above the rim. */
export function likelyCameras(height: number): ErrorCase[] {
  return [3, 5, 8, 15].flatMap((d) =>
    [0, 0.5, 1, 1.5].map((h) => ({ distance: d * height, height: h * height })),
  )
}

/**
 * What a reading by parallel rays, scaled by the height on the axis, gets wrong when the camera really stood at the
 * given places, aimed at the middle of the piece.
 */
export function distantErrors(extent: PieceExtent, cameras: readonly ErrorCase[]): ReadingError[] {
  const places = placesOf(extent)
  const errors = places.map((p) => ({ place: p.place, heightMm: [0, 0], diameterMm: [0, 0] }) as ReadingError)
  cameras.forEach((camera, k) => {
    const view = aimed(camera, extent.height / 2)
    const foot = project(view, [0, 0, 0])
    const top = project(view, [0, 0, extent.height])
    const mm = extent.height / (foot.y - top.y)
    places.forEach(({ r, z }, i) => {
      // The visible side of an upright surface, as an outline shows it.
      const s = Math.min(0.99, r / camera.distance)
      const p = project(view, [r * Math.sqrt(1 - s * s), -r * s, z])
      widen(errors[i]!.heightMm, (foot.y - p.y) * mm - z, k === 0)
      widen(errors[i]!.diameterMm, 2 * (p.x - foot.x) * mm - 2 * r, k === 0)
    })
  })
  return errors
}

/**
 * What a near view still gets wrong when its tilt and focal length are off by their standard errors: the largest
 * change of a reading, as from -e to +e.
 */
export function nearErrors(
  extent: PieceExtent,
  view: NearView,
  sd: { pitch: number; focal: number; scale: number },
): ReadingError[] {
  const f = view.eye.f
  const plumb = { foot: project(view, [0, 0, 0]), top: project(view, [0, 0, extent.height]) }
  const variant = (pitch: number, focal: number): View => {
    const eye = makeEye(focal, view.eye.centre, plumb, pitch)
    const raw: NearView = { kind: 'near', lens: view.lens, eye, distance: 1, height: 0 }
    // The known height keeps its length, whatever the camera.
    const z = (p: { x: number; y: number }) => toPlane(raw, p).z
    const k = extent.height / (z(plumb.top) - z(plumb.foot))
    return { ...raw, distance: k, height: -z(plumb.foot) * k }
  }
  const T = pitchOf(view)
  const variants = [
    variant(T + sd.pitch, f),
    variant(T - sd.pitch, f),
    variant(T, f * (1 + sd.focal / f)),
    variant(T, f * (1 - sd.focal / f)),
  ]
  return placesOf(extent).map(({ place, r, z }) => {
    const p = project(view, [...sidePoint(view, r), z])
    let dz = 0
    let dd = 0
    for (const other of variants) {
      const q = toPlane(other, p)
      dz = Math.max(dz, Math.abs(q.z - z))
      dd = Math.max(dd, Math.abs(2 * q.x - 2 * r))
    }
    const eZ = Math.hypot(dz, sd.scale * z)
    const eD = Math.hypot(dd, sd.scale * 2 * r)
    return { place, heightMm: [-eZ, eZ], diameterMm: [-eD, eD] }
  })
}

function sidePoint(view: NearView, r: number): [number, number] {
  const s = Math.min(0.99, r / view.distance)
  return [r * Math.sqrt(1 - s * s), -r * s]
}

/** The pitch of a view's eye: how far its line of sight, turned to the axis, looks down. */
export function pitchOf({ eye }: NearView): number {
  const ahead = Math.hypot(eye.away[2], eye.up[2])
  return Math.asin(-eye.up[2] / ahead)
}

function placesOf(e: PieceExtent): { place: ReadingError['place']; r: number; z: number }[] {
  return [
    { place: 'foot', r: e.footRadius, z: 0 },
    { place: 'largest', r: e.largestRadius, z: e.largestAt },
    { place: 'rim', r: e.rimRadius, z: e.height },
  ]
}

/** A camera aimed at a height of the axis; px of any size, so the focal length is too. */
function aimed({ distance, height }: ErrorCase, at: number): NearView {
  const f = 10_000
  const pitch = Math.atan2(height - at, distance)
  const centre = { x: 0, y: 0 }
  const eye = makeEye(f, centre, { foot: { x: 0, y: 1000 }, top: { x: 0, y: -1000 } }, pitch)
  return { kind: 'near', lens: null, eye, distance, height }
}

function widen(range: [number, number], value: number, first: boolean): void {
  range[0] = first ? value : Math.min(range[0], value)
  range[1] = first ? value : Math.max(range[1], value)
}

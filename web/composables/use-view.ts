import { computed, watch, type Ref } from 'vue'
import type { PicturePoint } from '../../core/conventions'
import { focalOf, type PictureFrame } from '../../core/calibrate/calibrate'
import { project, toPicture, toPlane, toUprightPlane, type PlanePoint } from '../../core/camera/view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'

/** Screen px within a pane. */
export interface ScreenPoint {
  sx: number
  sy: number
}

const LEAST_SCREEN_PX_PER_PICTURE_PX = 0.01
const MOST_SCREEN_PX_PER_PICTURE_PX = 64
/** Free space around what "fit" shows, as a share of the pane. */
const FIT_MARGIN = 0.06
/** The height scale covers this much of the solid pane, px. */
const RULER_PX = 56

/** Picture -> the upright, scaled picture that the screen shows: the similarity of the frame. */
function toUpright({ origin, up, mmPerPx }: PictureFrame, p: PicturePoint): PlanePoint {
  const dx = p.x - origin.x
  const dy = p.y - origin.y
  return { x: (-dx * up.y + dy * up.x) * mmPerPx, z: (dx * up.x + dy * up.y) * mmPerPx }
}

function fromUpright({ origin, up, mmPerPx }: PictureFrame, p: PlanePoint): PicturePoint {
  const x = p.x / mmPerPx
  const z = p.z / mmPerPx
  return { x: origin.x - x * up.y + z * up.x, y: origin.y + x * up.x + z * up.y }
}

/**
 * Ways between picture, piece and screen, through the one height scale that both panes share. The screen shows the
 * picture by a similarity; the piece is seen through the solved view, so that a near camera's levels are the ellipses
 * they are and heights are read on the axis.
 */
export function useView() {
  const bench = useBench()
  const piece = usePiece()
  const frame = computed(() => piece.derived.calibration.frame)
  /** Screen pixels for one picture pixel. */
  const magnification = computed(() => bench.view.pxPerMm * frame.value.mmPerPx)

  const seen = computed(() => piece.derived.calibration.view)
  /** The lens' focal length as it is known, 35 mm equivalent and px; null when it isn't. */
  const focal = computed(() => {
    const { photo, calibration } = piece.document
    const px = photo && focalOf(calibration, photo)
    return px ? { mm: calibration.view.focalLength35mm ?? photo.focalLength35mm!, px } : null
  })

  /** The ways to the screen as plain functions: what is reactive is read once, not once for each of thousands of points. */
  const ways = computed(() => {
    const { pxPerMm, groundY, photoAxisX } = bench.view
    const [frameNow, seenNow] = [frame.value, seen.value]
    const picture = (p: PicturePoint, axisX = photoAxisX): ScreenPoint => {
      const q = toUpright(frameNow, p)
      return { sx: axisX + q.x * pxPerMm, sy: groundY - q.z * pxPerMm }
    }
    const plane = (p: PlanePoint, axisX = photoAxisX) => picture(toPicture(seenNow, p), axisX)
    return { picture, plane }
  })
  const pictureToScreen = (p: PicturePoint, axisX?: number): ScreenPoint => ways.value.picture(p, axisX)
  const screenToPicture = (s: ScreenPoint, axisX = bench.view.photoAxisX): PicturePoint =>
    fromUpright(frame.value, {
      x: (s.sx - axisX) / bench.view.pxPerMm,
      z: (bench.view.groundY - s.sy) / bench.view.pxPerMm,
    })
  /** The side of the piece -> screen, and back. */
  const planeToScreen = (p: PlanePoint, axisX?: number): ScreenPoint => ways.value.plane(p, axisX)
  const screenToPlane = (s: ScreenPoint, axisX = bench.view.photoAxisX): PlanePoint =>
    toPlane(seen.value, screenToPicture(s, axisX))
  /** Heights on the axis -> screen y, and back: the height scale. */
  const heightToScreen = (z: number): number => pictureToScreen(project(seen.value, [0, 0, z]), 0).sy
  const screenToHeight = (sy: number): number =>
    toUprightPlane(seen.value, screenToPicture({ sx: 0, sy }, 0), 0).z

  /** Picture -> screen as [a b c d e f] for a canvas with the axis at `axisX`. */
  function pictureMatrix(axisX: number): [number, number, number, number, number, number] {
    const o = pictureToScreen({ x: 0, y: 0 }, axisX)
    const x = pictureToScreen({ x: 1, y: 0 }, axisX)
    const y = pictureToScreen({ x: 0, y: 1 }, axisX)
    return [x.sx - o.sx, x.sy - o.sy, y.sx - o.sx, y.sy - o.sy, o.sx, o.sy]
  }

  /** Zooms by a factor about a screen height, keeping `sx` of the given pane in place. */
  function zoom(factor: number, at: ScreenPoint, pane: 'photo' | 'solid'): void {
    const { view } = bench
    bench.viewMoved = true
    const wanted = magnification.value * factor
    const limited = Math.min(MOST_SCREEN_PX_PER_PICTURE_PX, Math.max(LEAST_SCREEN_PX_PER_PICTURE_PX, wanted))
    const f = limited / magnification.value
    view.pxPerMm *= f
    view.groundY = at.sy + (view.groundY - at.sy) * f
    if (pane === 'photo') view.photoAxisX = at.sx + (view.photoAxisX - at.sx) * f
    else view.solidAxisX = at.sx + (view.solidAxisX - at.sx) * f
  }

  function pan(dx: number, dy: number, pane: 'photo' | 'solid'): void {
    bench.viewMoved = true
    bench.view.groundY += dy
    if (pane === 'photo') bench.view.photoAxisX += dx
    else bench.view.solidAxisX += dx
  }

  /** Shows the piece when it is drawn to its end, otherwise the whole photo: the stroke still has to go somewhere. */
  function fit(
    photoPane: { width: number; height: number },
    solidPane: { width: number; height: number },
  ): void {
    const { measures, calibration, openEnds } = piece.derived
    const box = measures && calibration.known.scale && openEnds.length === 0 ? pieceBox() : photoBox()
    const w = (box.x1 - box.x0) / (1 - 2 * FIT_MARGIN)
    const h = (box.z1 - box.z0) / (1 - 2 * FIT_MARGIN)
    const k = Math.min(photoPane.width / w, photoPane.height / h)
    const { view } = bench
    bench.viewMoved = false
    view.pxPerMm = k
    view.groundY = photoPane.height / 2 + ((box.z0 + box.z1) / 2) * k
    view.photoAxisX = photoPane.width / 2 - ((box.x0 + box.x1) / 2) * k
    view.solidAxisX = (solidPane.width + RULER_PX) / 2
  }

  function pieceBox() {
    const m = piece.derived.measures!
    const r = 1.35 * m.maxRadiusMm
    const air = 0.06 * m.heightMm
    return { x0: -r, x1: r, z0: m.lowestMm - air, z1: m.highestMm + air }
  }

  function photoBox() {
    const { photo } = piece.document
    const box = photo?.crop ?? { x: 0, y: 0, width: photo?.width ?? 1000, height: photo?.height ?? 1000 }
    const corners = [box.x, box.x + box.width].flatMap((x) =>
      [box.y, box.y + box.height].map((y) => toUpright(frame.value, { x, y })),
    )
    const xs = corners.map((c) => c.x)
    const zs = corners.map((c) => c.z)
    return { x0: Math.min(...xs), x1: Math.max(...xs), z0: Math.min(...zs), z1: Math.max(...zs) }
  }

  return {
    frame,
    seen,
    focal,
    magnification,
    heightToScreen,
    screenToHeight,
    planeToScreen,
    screenToPlane,
    pictureToScreen,
    screenToPicture,
    pictureMatrix,
    zoom,
    pan,
    fit,
  }
}

/**
 * When a changed calibration moves the ground beneath the view, keeps the picture where the eye has it: the same
 * magnification, and the picture point at the middle of the photo pane stays there.
 */
export function keepPictureInPlace(pane: Ref<{ width: number; height: number }>): void {
  const bench = useBench()
  const piece = usePiece()
  watch(
    () => piece.derived.calibration.frame,
    (now: PictureFrame, before: PictureFrame) => {
      const { view } = bench
      const middle = { sx: pane.value.width / 2, sy: pane.value.height / 2 }
      const point = fromUpright(before, {
        x: (middle.sx - view.photoAxisX) / view.pxPerMm,
        z: (view.groundY - middle.sy) / view.pxPerMm,
      })
      view.pxPerMm *= before.mmPerPx / now.mmPerPx
      const p = toUpright(now, point)
      view.photoAxisX = middle.sx - p.x * view.pxPerMm
      view.groundY = middle.sy + p.z * view.pxPerMm
    },
    { flush: 'sync' },
  )
}

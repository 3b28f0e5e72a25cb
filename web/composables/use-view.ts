import { computed, watch, type Ref } from 'vue'
import type { PicturePoint } from '../../core/conventions'
import { toPicture, toPlane, type PictureFrame, type PlanePoint } from '../../core/calibrate/frame'
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

/** Ways between picture, axis plane and screen, through the one height scale that both panes share. */
export function useView() {
  const bench = useBench()
  const piece = usePiece()
  const frame = computed(() => piece.derived.calibration.frame)
  /** Screen pixels for one picture pixel. */
  const magnification = computed(() => bench.view.pxPerMm * frame.value.mmPerPx)

  const planeToScreen = (p: PlanePoint, axisX = bench.view.photoAxisX): ScreenPoint => ({
    sx: axisX + p.x * bench.view.pxPerMm,
    sy: bench.view.groundY - p.z * bench.view.pxPerMm,
  })
  const screenToPlane = (s: ScreenPoint, axisX = bench.view.photoAxisX): PlanePoint => ({
    x: (s.sx - axisX) / bench.view.pxPerMm,
    z: (bench.view.groundY - s.sy) / bench.view.pxPerMm,
  })
  const pictureToScreen = (p: PicturePoint) => planeToScreen(toPlane(frame.value, p))
  const screenToPicture = (s: ScreenPoint) => toPicture(frame.value, screenToPlane(s))

  /** Picture -> screen as [a b c d e f] for a canvas with the axis at `axisX`. */
  function pictureMatrix(axisX: number): [number, number, number, number, number, number] {
    const at = (x: number, y: number) => planeToScreen(toPlane(frame.value, { x, y }), axisX)
    const o = at(0, 0)
    const x = at(1, 0)
    const y = at(0, 1)
    return [x.sx - o.sx, x.sy - o.sy, y.sx - o.sx, y.sy - o.sy, o.sx, o.sy]
  }

  /** Zooms by a factor about a screen height, keeping `sx` of the given pane in place. */
  function zoom(factor: number, at: ScreenPoint, pane: 'photo' | 'solid'): void {
    const { view } = bench
    const wanted = magnification.value * factor
    const limited = Math.min(MOST_SCREEN_PX_PER_PICTURE_PX, Math.max(LEAST_SCREEN_PX_PER_PICTURE_PX, wanted))
    const f = limited / magnification.value
    view.pxPerMm *= f
    view.groundY = at.sy + (view.groundY - at.sy) * f
    if (pane === 'photo') view.photoAxisX = at.sx + (view.photoAxisX - at.sx) * f
    else view.solidAxisX = at.sx + (view.solidAxisX - at.sx) * f
  }

  function pan(dx: number, dy: number, pane: 'photo' | 'solid'): void {
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
    const width = photo?.width ?? 1000
    const height = photo?.height ?? 1000
    const corners = [0, width].flatMap((x) => [0, height].map((y) => toPlane(frame.value, { x, y })))
    const xs = corners.map((c) => c.x)
    const zs = corners.map((c) => c.z)
    return { x0: Math.min(...xs), x1: Math.max(...xs), z0: Math.min(...zs), z1: Math.max(...zs) }
  }

  return {
    frame,
    magnification,
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
      const point = toPicture(before, {
        x: (middle.sx - view.photoAxisX) / view.pxPerMm,
        z: (view.groundY - middle.sy) / view.pxPerMm,
      })
      view.pxPerMm *= before.mmPerPx / now.mmPerPx
      const p = toPlane(now, point)
      view.photoAxisX = middle.sx - p.x * view.pxPerMm
      view.groundY = middle.sy + p.z * view.pxPerMm
    },
    { flush: 'sync' },
  )
}

import type { PictureFrame } from '../../../core/calibrate/calibrate'
import { toPicture, type View } from '../../../core/camera/view'
import type { SolidCamera } from '../../composables/use-solid-scene'

/** Where a panel shows the piece: px. */
export interface Panel {
  x: number
  y: number
  width: number
  height: number
  pxPerMm: number
  /** Of the axis and of the ground, within the panel. */
  axisX: number
  groundY: number
}

export type Matrix = [number, number, number, number, number, number]

/** Photo px -> panel px, by the similarity that the screen uses too: axis upright, one scale. */
export function photoMatrix(
  { origin, up, mmPerPx }: PictureFrame,
  { pxPerMm, axisX, groundY }: Panel,
): Matrix {
  const k = mmPerPx * pxPerMm
  const across = { x: -up.y, y: up.x }
  return [
    k * across.x, -k * up.x, k * across.y, -k * up.y,
    axisX - k * (origin.x * across.x + origin.y * across.y), groundY + k * (origin.x * up.x + origin.y * up.y),
  ] // prettier-ignore
}

/** Three panels side by side that show a piece at one scale, within a picture of some width, px. */
export function comparisonPanels(
  width: number,
  piece: { lowestMm: number; highestMm: number; maxRadiusMm: number },
): { panels: [Panel, Panel, Panel]; height: number; words: number } {
  const gap = Math.round(width / 60)
  const own = Math.floor((width - 4 * gap) / 3)
  const tall = piece.highestMm - piece.lowestMm
  const breadth = 2 * piece.maxRadiusMm * 1.3
  const pxPerMm = Math.min(own / breadth, (1.6 * own) / (1.16 * tall))
  const high = Math.round(1.16 * tall * pxPerMm)
  const words = Math.round(width / 28)
  const panel = (k: number): Panel => ({
    x: gap + k * (own + gap),
    y: gap,
    width: own,
    height: high,
    pxPerMm,
    axisX: own / 2,
    groundY: 0.08 * tall * pxPerMm + piece.highestMm * pxPerMm,
  })
  return { panels: [panel(0), panel(1), panel(2)], height: high + 2 * gap + words, words }
}

/** Draws the photo into a panel, and over it, where it is given, the half-profile on both sides. */
export function drawPhotoPanel(
  context: CanvasRenderingContext2D,
  photo: ImageBitmap,
  panel: Panel,
  frame: PictureFrame,
  curve: { view: View; points: Float64Array; dim: number } | null,
): void {
  context.save()
  context.beginPath()
  context.rect(panel.x, panel.y, panel.width, panel.height)
  context.clip()
  context.translate(panel.x, panel.y)
  const matrix = photoMatrix(frame, panel)
  context.save()
  context.globalAlpha = curve ? 1 - curve.dim : 1
  context.transform(...matrix)
  context.imageSmoothingQuality = 'high'
  context.drawImage(photo, 0, 0)
  context.restore()
  if (curve) {
    const [a, b, c, d, e, f] = matrix
    const thick = Math.max(1.5, panel.width / 260)
    context.lineJoin = 'round'
    for (const [colour, breadth] of [
      ['rgb(255 255 255 / 0.88)', 2.2 * thick],
      ['#b5451b', thick],
    ] as const) {
      context.strokeStyle = colour
      context.lineWidth = breadth
      for (const side of [1, -1]) {
        context.beginPath()
        for (let i = 0; i < curve.points.length; i += 2) {
          const p = toPicture(curve.view, { x: side * curve.points[i]!, z: curve.points[i + 1]! })
          context.lineTo(a * p.x + c * p.y + e, b * p.x + d * p.y + f)
        }
        context.stroke()
      }
    }
  }
  context.restore()
}

/** The camera of the third panel: the photo's own where it is known, else from the side. */
export function panelCamera(panel: Panel, frame: PictureFrame, view: View, middleZ: number): SolidCamera {
  return {
    azimuth: 0,
    elevation: 0,
    pxPerMm: panel.pxPerMm,
    axisX: panel.axisX,
    middleY: panel.groundY - middleZ * panel.pxPerMm,
    middleZ,
    near: view.kind === 'near' ? { view, matrix: photoMatrix(frame, panel) } : null,
  }
}

import type { PicturePoint } from '../../core/conventions'
import type { PictureFrame } from '../../core/calibrate/calibrate'
import type { Calibration, Ring } from '../../core/calibrate/calibration'
import type { KnownSize } from '../../core/calibrate/known-size'
import { ellipseHandles, ellipseOf, ellipsePoints } from '../../core/camera/ellipse-of'
import type { Command } from '../../core/piece/commands'
import type { PieceDocument } from '../../core/piece/schema'

/** A mark of the calibration that can be moved. */
export type Mark =
  | { of: 'plumb'; end: 'foot' | 'top' }
  | { of: 'ground' }
  | { of: 'size'; id: string; end: 'a' | 'b' }
  | { of: 'pair'; id: string; end: 'left' | 'right' }
  | { of: 'ring'; id: string; end: RingEnd }
  | { of: 'lens'; edge: number; point: number }
export type RingEnd = 'left' | 'right' | 'near' | 'far'

/** A mark as text, for test ids and keys. */
export function markKey(mark: Mark): string {
  return Object.values(mark).join(':')
}

export function describeMark(mark: Mark, { knownSizes, rings }: Calibration): string {
  return `${nameOf(mark, knownSizes, rings)}; arrow keys move it by one pixel`
}

function nameOf(mark: Mark, sizes: readonly KnownSize[], rings: readonly Ring[]): string {
  switch (mark.of) {
    case 'plumb':
      return mark.end === 'foot' ? 'Lower end of the plumb line' : 'Upper end of the plumb line'
    case 'ground':
      return 'Ground line'
    case 'size': {
      const at = sizes.findIndex((s) => s.id === mark.id)
      const which = sizes.length > 1 ? `known size ${at + 1}` : 'the known size'
      return `${mark.end === 'a' ? 'First' : 'Second'} mark of ${which}`
    }
    case 'pair':
      return `${mark.end === 'left' ? 'Left' : 'Right'} edge of a pair`
    case 'ring':
      return `${mark.end} end of the ${rings.find((r) => r.id === mark.id)?.place ?? ''} ring`
    case 'lens':
      return `Mark ${mark.point + 1} of straight edge ${mark.edge + 1}`
  }
}

/** The line the rings lie about, in the picture. */
export function axisLineOf(frame: PictureFrame) {
  return { at: frame.origin, up: frame.up }
}

/** Standard error of an ellipse laid by hand, px (common practice, no source). */
const HAND_RING_SD = 1.5

/** A ring laid by hand through its widest points and its lowest place. */
export function handRing(
  id: string,
  place: Ring['place'],
  [left, right, near]: readonly [PicturePoint, PicturePoint, PicturePoint],
  frame: PictureFrame,
): Ring | null {
  const { at, up } = axisLineOf(frame)
  const u = (p: PicturePoint) => -(p.x - at.x) * up.y + (p.y - at.y) * up.x
  const v = (p: PicturePoint) => (p.x - at.x) * up.x + (p.y - at.y) * up.y
  const v0 = (v(left) + v(right)) / 2
  const a = Math.abs(u(left) - u(right)) / 2
  const b = Math.abs(v(near) - v0)
  if (!(a > 2) || !(b > 0.5)) return null
  const points = ellipsePoints({ v0, a, b }, { at, up })
  return { id, place, points, sdPx: HAND_RING_SD, by: 'hand' }
}

function movedRing(ring: Ring, end: RingEnd, to: PicturePoint, frame: PictureFrame): Ring | null {
  const axis = axisLineOf(frame)
  const ellipse = ellipseOf(ring.points, axis)
  if (!ellipse) return null
  const u = Math.abs(-(to.x - axis.at.x) * axis.up.y + (to.y - axis.at.y) * axis.up.x)
  const v = (to.x - axis.at.x) * axis.up.x + (to.y - axis.at.y) * axis.up.y
  const { v0, a, b } = ellipse
  // The opposite end stays where it is.
  const low = end === 'near' ? v : v0 - b
  const high = end === 'far' ? v : v0 + b
  const next =
    end === 'left' || end === 'right'
      ? { v0, a: Math.max(2, u), b }
      : { v0: (low + high) / 2, a, b: Math.max(0.5, (high - low) / 2) }
  return { ...ring, points: ellipsePoints(next, axis), sdPx: HAND_RING_SD, by: 'hand' }
}

/** The command that puts a mark at a place, or null when there is no such mark. */
export function moveMark(
  mark: Mark,
  to: PicturePoint,
  { calibration }: PieceDocument,
  frame: PictureFrame,
): Command | null {
  const { plumb, ground, knownSizes, pairs, rings, lens } = calibration
  switch (mark.of) {
    case 'ground':
      return ground && { type: 'set-ground', ground: to }
    case 'plumb':
      return (
        plumb && {
          type: 'set-plumb',
          plumb: { foot: plumb.foot, top: plumb.top, by: 'hand', [mark.end]: to },
        }
      )
    case 'size': {
      const size = knownSizes.find((s) => s.id === mark.id)
      return size ? { type: 'set-known-size', size: { ...size, [mark.end]: to } } : null
    }
    case 'pair':
      return {
        type: 'set-pairs',
        pairs: pairs.map((p) => (p.id === mark.id ? { ...p, [mark.end]: to } : p)),
      }
    case 'ring': {
      const ring = rings.find((r) => r.id === mark.id)
      const moved = ring && movedRing(ring, mark.end, to, frame)
      return moved ? { type: 'set-ring', ring: moved } : null
    }
    case 'lens': {
      if (!lens) return null
      const edges = lens.edges.map((e, i) =>
        i === mark.edge ? e.map((p, k) => (k === mark.point ? to : p)) : e,
      )
      return { type: 'set-lens', lens: { ...lens, edges } }
    }
  }
}

/** All marks of a calibration with their places in the picture; where they lie on each other, the first is taken. */
export function marksOf(calibration: Calibration, frame: PictureFrame): { mark: Mark; at: PicturePoint }[] {
  const { plumb, ground, knownSizes, pairs, rings, lens } = calibration
  const out: { mark: Mark; at: PicturePoint }[] = []
  for (const { id, a, b } of knownSizes) {
    out.push({ mark: { of: 'size', id, end: 'a' }, at: a }, { mark: { of: 'size', id, end: 'b' }, at: b })
  }
  for (const { id, left, right } of pairs) {
    out.push(
      { mark: { of: 'pair', id, end: 'left' }, at: left },
      { mark: { of: 'pair', id, end: 'right' }, at: right },
    )
  }
  for (const ring of rings) {
    const ellipse = ellipseOf(ring.points, axisLineOf(frame))
    if (!ellipse) continue
    for (const [end, at] of Object.entries(ellipseHandles(ellipse, axisLineOf(frame))))
      out.push({ mark: { of: 'ring', id: ring.id, end: end as RingEnd }, at })
  }
  lens?.edges.forEach((edge, i) =>
    edge.forEach((at, k) => out.push({ mark: { of: 'lens', edge: i, point: k }, at })),
  )
  if (plumb) {
    out.push({ mark: { of: 'plumb', end: 'foot' }, at: plumb.foot })
    out.push({ mark: { of: 'plumb', end: 'top' }, at: plumb.top })
  }
  if (ground) out.push({ mark: { of: 'ground' }, at: ground })
  return out
}

/** Arrow keys move a mark by one picture pixel, with Shift by ten, as seen with the piece upright. */
export function nudgeMark(
  mark: Mark,
  at: PicturePoint,
  event: KeyboardEvent,
  piece: { document: PieceDocument; dispatch(command: Command, mergeKey?: string): void },
  frame: PictureFrame,
): void {
  const step = event.shiftKey ? 10 : 1
  const dx = event.key === 'ArrowRight' ? step : event.key === 'ArrowLeft' ? -step : 0
  const dz = event.key === 'ArrowUp' ? step : event.key === 'ArrowDown' ? -step : 0
  if (dx === 0 && dz === 0) return
  event.preventDefault()
  const { up } = frame
  const to = { x: at.x - dx * up.y + dz * up.x, y: at.y + dx * up.x + dz * up.y }
  const command = moveMark(mark, to, piece.document, frame)
  if (command) piece.dispatch(command, `nudge ${markKey(mark)}`)
}

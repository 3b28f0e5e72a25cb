import { ref, shallowRef } from 'vue'
import type { PicturePoint } from '../../core/conventions'
import { newKnownSize, type KnownSizeKind } from '../../core/calibrate/known-size'
import { toPicture, toPlane } from '../../core/camera/view'
import { fitLens } from '../../core/camera/lens'
import { applyCommand, type Command } from '../../core/piece/commands'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench, type Tool } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { handRing, marksOf, moveMark, type Mark } from './calibration-marks'
import { newId } from './new-id'

/** Clicks a tool needs; tools without an entry take as many as one likes. */
const CLICKS: Partial<Record<Tool, number>> = {
  plumb: 2,
  ground: 1,
  size: 2,
  pairs: 2,
  level: 2,
  ring: 3,
  dividers: 2,
  crop: 2,
}

/** Marks within this angle of the axis are meant as a height, within it of the square to it as a diameter. */
const KIND_ANGLE = (15 * Math.PI) / 180
/** A height of at least this share of the plumb line is taken for the whole piece's. */
const OVERALL_SHARE = 0.9

/** Placing and moving all marks of the calibration. */
export function useCalibrationTools() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  /** Clicks of the tool in hand so far. */
  const clicks = shallowRef<readonly PicturePoint[]>([])
  /** A mark under way: shown, but not in the document, so that the picture doesn't turn beneath the hand. */
  const moved = shallowRef<Command | null>(null)
  /** Id of the size marked last, so that the panel can put the cursor into its field. */
  const sizeMarked = ref<string | null>(null)
  const problem = ref('')

  const frame = () => view.frame.value
  const handles = () =>
    marksOf(piece.document.calibration, frame()).map(({ mark, at }) => ({
      mark,
      at: view.pictureToScreen(at),
    }))

  /** Uses the chosen tool at a place; a finished tool hands over to the next one that is needed. */
  function place(at: ScreenPoint): void {
    const p = view.screenToPicture(at)
    problem.value = ''
    clicks.value = [...clicks.value, p]
    if (clicks.value.length < (CLICKS[bench.tool] ?? Infinity)) return
    const done = clicks.value
    clicks.value = []
    finish(bench.tool, done)
  }

  /** Whether the tool in hand sets two ends, and neither is set yet. */
  const canBeDrawn = () => CLICKS[bench.tool] === 2 && clicks.value.length === 0

  function finish(tool: Tool, done: readonly PicturePoint[]): void {
    const [a, b, c] = done as [PicturePoint, PicturePoint, PicturePoint]
    switch (tool) {
      case 'plumb': {
        // Of two clicks the one nearer to the foot of the picture as it stands is the foot end.
        const [foot, top] = along(a) <= along(b) ? [a, b] : [b, a]
        piece.dispatch({ type: 'set-plumb', plumb: { foot, top, by: 'hand' } })
        break
      }
      case 'ground':
        piece.dispatch({ type: 'set-ground', ground: a })
        break
      case 'size':
        placeSize(a, b)
        return
      case 'pairs': {
        const [left, right] = across(a) <= across(b) ? [a, b] : [b, a]
        piece.dispatch({
          type: 'set-pairs',
          pairs: [...piece.document.calibration.pairs, { id: newId(), left, right }],
        })
        // One pair after the other: the tool stays in hand.
        return
      }
      case 'level':
        turnLevel(a, b)
        break
      case 'ring':
        placeRing([a, b, c])
        break
      case 'dividers':
        bench.dividers = { a, b }
        return
      case 'crop':
        placeCrop(a, b)
        break
    }
    bench.tool = nextTool()
  }

  const along = (q: PicturePoint) => q.x * frame().up.x + q.y * frame().up.y
  const across = (q: PicturePoint) => -q.x * frame().up.y + q.y * frame().up.x

  function placeSize(a: PicturePoint, second: PicturePoint): void {
    const id = newId()
    const kind = guessKind(a, second)
    const b = kind === 'diameter' ? levelled(a, second) : second
    piece.dispatch({ type: 'set-known-size', size: newKnownSize({ id, kind, a, b }) })
    bench.tool = 'none'
    bench.chosenSize = id
    sizeMarked.value = id
  }

  /**
   * The second mark of a diameter at the level of the first one, as the view sees levels; and as far from the axis when
   * it is nearly so already, to within what a hand sets on the screen.
   */
  function levelled(a: PicturePoint, b: PicturePoint): PicturePoint {
    if (!piece.derived.calibration.known.axis) return b
    const first = toPlane(view.seen.value, a)
    const other = toPlane(view.seen.value, b)
    const near = Math.abs(first.x + other.x) * bench.view.pxPerMm < SYMMETRIC_PX
    return toPicture(view.seen.value, { x: near ? -first.x : other.x, z: first.z })
  }

  function guessKind(a: PicturePoint, b: PicturePoint): KnownSizeKind {
    const dz = Math.abs(along(a) - along(b))
    const dx = Math.abs(across(a) - across(b))
    const limit = Math.tan(KIND_ANGLE)
    if (dz <= limit * dx) return 'diameter'
    if (dx > limit * dz) return 'length'
    const { plumb, knownSizes } = piece.document.calibration
    const whole = plumb ? Math.abs(along(plumb.top) - along(plumb.foot)) : Infinity
    return dz >= OVERALL_SHARE * whole && !knownSizes.some((s) => s.kind === 'overall') ? 'overall' : 'height'
  }

  /** Turns the plumb line so that a drawn line comes to lie level or upright, whichever is nearer. */
  function turnLevel(a: PicturePoint, b: PicturePoint): void {
    const { up } = frame()
    const l = Math.hypot(b.x - a.x, b.y - a.y)
    if (l < 10) {
      problem.value =
        'That line is too short to tell a direction; draw it over the whole width of the foot or rim.'
      return
    }
    let d = { x: (b.x - a.x) / l, y: (b.y - a.y) / l }
    const upright = Math.abs(d.x * up.x + d.y * up.y) > Math.SQRT1_2
    if (!upright) d = { x: d.y, y: -d.x }
    if (d.x * up.x + d.y * up.y < 0) d = { x: -d.x, y: -d.y }
    setDirection(d)
  }

  /** Gives the plumb line a direction, about its middle (or the middle of the picture). */
  function setDirection(d: PicturePoint): void {
    const { calibration, photo } = piece.document
    const { plumb } = calibration
    const size = photo ?? { width: 1000, height: 1000 }
    const { up } = frame()
    const half = plumb
      ? Math.hypot(plumb.top.x - plumb.foot.x, plumb.top.y - plumb.foot.y) / 2
      : 0.4 * (Math.abs(up.x) * size.width + Math.abs(up.y) * size.height)
    const m = plumb
      ? { x: (plumb.top.x + plumb.foot.x) / 2, y: (plumb.top.y + plumb.foot.y) / 2 }
      : { x: size.width / 2, y: size.height / 2 }
    piece.dispatch({
      type: 'set-plumb',
      plumb: {
        foot: { x: m.x - half * d.x, y: m.y - half * d.y },
        top: { x: m.x + half * d.x, y: m.y + half * d.y },
        by: 'hand',
      },
    })
  }

  function placeRing(points: [PicturePoint, PicturePoint, PicturePoint]): void {
    const { plumb, rings } = piece.document.calibration
    const v = (along(points[0]) + along(points[1])) / 2
    const share = plumb ? (v - along(plumb.foot)) / (along(plumb.top) - along(plumb.foot)) : 0
    const place = share < 0.15 ? 'foot' : share > 0.85 ? 'rim' : 'band'
    const same = place === 'band' ? undefined : rings.find((r) => r.place === place)
    const ring = handRing(same?.id ?? newId(), place, points, frame())
    if (ring) piece.dispatch({ type: 'set-ring', ring })
    else
      problem.value =
        'That ellipse has no width or no height. Click its left end, its right end, then its lowest place.'
  }

  function placeCrop(a: PicturePoint, b: PicturePoint): void {
    const { photo } = piece.document
    if (!photo) return
    const x0 = Math.max(0, Math.min(a.x, b.x))
    const y0 = Math.max(0, Math.min(a.y, b.y))
    const x1 = Math.min(photo.width, Math.max(a.x, b.x))
    const y1 = Math.min(photo.height, Math.max(a.y, b.y))
    if (x1 - x0 < LEAST_CROP_PX || y1 - y0 < LEAST_CROP_PX) {
      problem.value = `A crop of less than ${LEAST_CROP_PX} px a side leaves nothing to measure; click two opposite corners around the piece.`
      return
    }
    piece.dispatch({ type: 'crop-photo', crop: { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } })
  }

  /** Ends an edge that takes any number of clicks and refits the lens. */
  function endEdge(): void {
    const edge = [...clicks.value]
    clicks.value = []
    if (bench.tool !== 'lens' || edge.length === 0) return
    if (edge.length < 3) {
      problem.value = 'A straight edge needs at least three marks; two are always straight.'
      return
    }
    refitLens([...(piece.document.calibration.lens?.edges ?? []), edge])
  }

  function refitLens(edges: PicturePoint[][]): void {
    const { photo, calibration } = piece.document
    if (!photo) return
    const centre = { x: photo.width / 2, y: photo.height / 2 }
    const unitPx =
      calibration.lens?.unitPx ?? view.focal.value?.px ?? Math.hypot(photo.width, photo.height) / 2
    try {
      const { lens } = fitLens(edges, { unitPx, centre })
      piece.dispatch({ type: 'set-lens', lens: { k1: lens.k1, k2: lens.k2, unitPx, by: 'marks', edges } })
    } catch (error) {
      problem.value = (error as Error).message
    }
  }

  function nextTool(): Tool {
    const { plumb, ground, knownSizes } = piece.document.calibration
    if (bench.tool !== 'plumb' && bench.tool !== 'ground') return 'none'
    return !plumb ? 'plumb' : !ground ? 'ground' : knownSizes.length === 0 ? 'size' : 'none'
  }

  /** Shows a mark elsewhere without changing the document. */
  function drag(mark: Mark, at: ScreenPoint): void {
    moved.value = moveMark(mark, view.screenToPicture(at), piece.document, frame())
  }

  function drop(): void {
    const command = moved.value
    moved.value = null
    if (command?.type === 'set-lens' && command.lens) refitLens(command.lens.edges)
    else if (command) piece.dispatch(command)
  }

  function cancel(): void {
    clicks.value = []
    moved.value = null
    problem.value = ''
  }

  /** The calibration with a mark that is being dragged in its new place. */
  const shown = () =>
    moved.value ? applyCommand(piece.document, moved.value).calibration : piece.document.calibration

  return {
    clicks,
    moved,
    shown,
    sizeMarked,
    problem,
    handles,
    place,
    canBeDrawn,
    endEdge,
    refitLens,
    setDirection,
    drag,
    drop,
    cancel,
  }
}

export type CalibrationTools = ReturnType<typeof useCalibrationTools>

/** Marks whose distances from the axis differ by less than this on the screen are meant to be alike, px. */
const SYMMETRIC_PX = 1.5
/** Smaller crops can't hold a piece worth measuring, px. */
const LEAST_CROP_PX = 32

import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import {
  centreOf,
  focalOf,
  LEAST_PLUMB_LENGTH_PX,
  lensOf,
  upAfterTurns,
} from '../../../core/calibrate/calibrate'
import type { Calibration, PlumbLine } from '../../../core/calibrate/calibration'
import { newKnownSize } from '../../../core/calibrate/known-size'
import type { PicturePoint } from '../../../core/conventions'
import type { AxisLine } from '../../../core/outline/axis-line'
import { applyToCalibration, type TakeFound } from '../../../core/piece/commands'
import { keptByHand, storedSide } from '../../../core/piece/outline'
import type { PiecePhoto } from '../../../core/piece/schema'
import { solvedOf } from '../../../core/piece/solved'
import { ringsTellLens } from '../../../core/camera/closing-ends'
import type { PhotoSearch } from '../../../core/camera/search-photo'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { photoClient, pixelsOf } from '../../workers/photo-client'
import type { SearchRequest } from '../../workers/protocol'
import { readAhead, settleAhead } from '../../workers/read-ahead'
import { Stopped } from '../../workers/worker-client'
import { newId } from '../new-id'

/** The one of the four directions that a direction is nearest to. */
const nearestQuarter = ({ x, y }: PicturePoint): PicturePoint =>
  Math.abs(x) > Math.abs(y) ? { x: Math.sign(x), y: 0 } : { x: 0, y: Math.sign(y) }

/** The axis that a hand has set; one that was found is looked for again. */
function handsAxis({ plumb }: Calibration): AxisLine | null {
  if (!plumb || plumb.by === 'found') return null
  const [dx, dy] = [plumb.top.x - plumb.foot.x, plumb.top.y - plumb.foot.y]
  const length = Math.hypot(dx, dy)
  if (length < LEAST_PLUMB_LENGTH_PX) return null
  return {
    at: { x: (plumb.foot.x + plumb.top.x) / 2, y: (plumb.foot.y + plumb.top.y) / 2 },
    up: { x: dx / length, y: dy / length },
  }
}

/** Places in the picture that are one for every purpose. */
const SAME_PX = 0.01
const isSame = (p: PicturePoint, q: PicturePoint) => Math.hypot(p.x - q.x, p.y - q.y) < SAME_PX
const liesElsewhere = (a: Pick<PlumbLine, 'foot' | 'top'>, b: Pick<PlumbLine, 'foot' | 'top'>) =>
  !isSame(a.foot, b.foot) || !isSame(a.top, b.top)

/** What a press would ask for changes no more for so long when it is searched ahead, ms. */
const SETTLED_MS = 500

/** What was found, and in which photo. */
type FoundInPhoto = PhotoSearch & { sha256: string }

/** The search of the photo for axis, foot and rings: one at a time, with progress and stop. */
export const useSearch = defineStore('search', () => {
  const running = ref(false)
  /** The search is over and what it found is being taken over, which can't be stopped. */
  const taking = ref(false)
  const fraction = ref(0)
  const problem = ref('')
  /** What the last search of this photo found. */
  const found = shallowRef<FoundInPhoto | null>(null)

  /** What a press would ask for as the calibration stands; an axis that a hand has set is kept or looked for anew. */
  function requestOf(photo: PiecePhoto, keepAxis: boolean): SearchRequest {
    const piece = usePiece()
    const { calibration, guides } = piece.document
    return {
      ...pixelsOf(photo),
      up: piece.derived.calibration.known.axis
        ? nearestQuarter(useView().frame.value.up)
        : upAfterTurns(photo.quarterTurns),
      lens: lensOf(calibration, photo),
      eye: eye(photo),
      axis: keepAxis ? handsAxis(calibration) : null,
      guides: guides ?? null,
    }
  }

  /** What is being searched for the user. */
  let pressed = ''
  /** Whoever presses for what is searched already sees how far it is. */
  const progressOf = (request: SearchRequest) => {
    const key = JSON.stringify(request)
    return (f: number) => {
      if (running.value && pressed === key) fraction.value = f
    }
  }

  let waiting: ReturnType<typeof setTimeout> | undefined
  /** Lets the worker search while nobody waits for it yet, once what a press would ask for has settled. */
  function searchAhead(keepAxis: boolean): void {
    clearTimeout(waiting)
    waiting = setTimeout(() => {
      const { photo, guides, outline } = usePiece().document
      if (!photo || running.value) return
      const request = requestOf(photo, keepAxis)
      // Whoever has an outline may never press again, and whoever guides the search changes it with every stroke.
      const ahead = photoClient.call((worker) =>
        guides || outline
          ? worker.prepare(pixelsOf(photo))
          : worker.searchAhead(request, proxy(progressOf(request))),
      )
      // What goes wrong here is said when a search is asked for.
      ahead.catch(() => undefined)
    }, SETTLED_MS)
  }

  /**
   * Searches the photo as the calibration stands and takes over what was found: one wait for whoever has pressed.
   * @param keepAxis an axis that a hand has set is kept; else it is looked for anew
   * @returns null when it was stopped, failed or the piece was left
   */
  async function searchAndTake<T>(
    keepAxis: boolean,
    take: (found: FoundInPhoto) => Promise<T>,
  ): Promise<T | null> {
    const { photo } = usePiece().document
    if (!photo || running.value) return null
    clearTimeout(waiting)
    running.value = true
    fraction.value = 0
    problem.value = ''
    try {
      const result = await search(photo, keepAxis)
      taking.value = true
      return result && (await take(result))
    } finally {
      running.value = taking.value = false
    }
  }

  async function search(photo: PiecePhoto, keepAxis: boolean): Promise<FoundInPhoto | null> {
    const piece = usePiece()
    const { id } = piece
    try {
      const request = requestOf(photo, keepAxis)
      pressed = JSON.stringify(request)
      const result = await photoClient.call((worker) => worker.search(request, proxy(progressOf(request))))
      // The piece may have been left while the search ran.
      if (piece.id !== id || piece.document.photo?.sha256 !== photo.sha256) return null
      return { ...result, sha256: photo.sha256 }
    } catch (error) {
      if (!(error instanceof Stopped)) problem.value = (error as Error).message
      return null
    }
  }

  function eye(photo: PiecePhoto): SearchRequest['eye'] {
    const { calibration } = usePiece().document
    const { view, knownSizes } = calibration
    const height = knownSizes.find((size) => size.on && size.kind === 'overall' && size.mm)?.mm
    const away =
      view.distanceMm && height ? { times: view.distanceMm / height, size: 'height' as const } : null
    return { f: focalOf(calibration, photo), centre: centreOf(photo), away }
  }

  /** Finds axis, foot and rings for the calibration. @returns the id of a known size that wants its length */
  const run = () =>
    searchAndTake(false, async (result) => {
      const size = await takeCamera(cameraOf(result, groundBy(result)), result)
      // Said only when the calibration has it, and the field for the height is about to be there.
      found.value = result
      return size
    })

  /** A foot without its ring is a guess that doesn't overrule a ground line. */
  const groundBy = ({ foot, rings }: PhotoSearch) =>
    usePiece().document.calibration.ground && !rings.some((r) => r.place === 'foot') ? null : foot

  /**
   * What the calibration takes of a search.
   * @param ground where the foot stands; null keeps what is set
   */
  function cameraOf({ plumb, foot, top, rings, focal }: PhotoSearch, ground: PicturePoint | null): TakeFound {
    const { calibration, photo } = usePiece().document
    const isLensKnown = !!photo && focalOf(calibration, photo) !== null
    return {
      type: 'take-found',
      plumb: { ...plumb, by: 'found' },
      ground,
      rings: rings.map((r) => ({ ...r, id: newId(), by: 'found' as const })),
      overall: calibration.knownSizes.length
        ? null
        : newKnownSize({ id: newId(), kind: 'overall', a: foot, b: top }),
      focal,
      near: isLensKnown || ringsTellLens({ focal, rings }),
    }
  }

  /** Lets the calibration follow what was found. @returns as `run` */
  async function takeCamera(asFound: TakeFound, { outline }: PhotoSearch): Promise<string | null> {
    const piece = usePiece()
    const bench = useBench()
    const { id, document } = piece
    const command = await settleAhead(document, asFound, outline)
    // Something else may have been changed meanwhile; what was found in this photo stays true.
    if (piece.id !== id || piece.document.photo !== document.photo) return null
    piece.dispatch(command)
    // What was found is drawn before the field for its height is: both at once would hold the page up.
    await new Promise((resolve) => setTimeout(resolve))
    bench.tool = 'none'
    if (command.overall) bench.chosenSize = command.overall.id
    return command.overall?.id ?? null
  }

  /** What the calibration takes of a search for the outline, if anything. */
  async function cameraBeside(result: PhotoSearch): Promise<TakeFound | null> {
    const { document, derived } = usePiece()
    const settled = (ground: PicturePoint | null) =>
      settleAhead(document, cameraOf(result, ground), result.outline)
    // Without an axis neither edge says anything of a half-profile; the search has found it as well.
    if (!derived.calibration.known.axis) return settled(groundBy(result))
    const { plumb, ground } = document.calibration
    if (plumb?.by !== 'found') return null
    // In another crop, or guided by hand, it may have found another piece, or this one's axis at last.
    const camera = await settled(!ground || isSame(ground, plumb.foot) ? result.foot : null)
    return liesElsewhere(camera.plumb, plumb) ? camera : null
  }

  /** Finds both edges and lets the half-profile follow them. */
  const findOutline = () => searchAndTake(true, takeOutline)

  async function takeOutline(result: FoundInPhoto): Promise<void> {
    const piece = usePiece()
    const bench = useBench()
    const { id, document } = piece
    const camera = await cameraBeside(result)
    const edges = {
      left: storedSide(result.outline.left),
      right: storedSide(result.outline.right),
      blur: Number.isFinite(result.outline.left.blur) ? result.outline.left.blur : 1,
    }
    const kept = keptByHand(document.outline, edges)
    const solved = solvedOf(camera ? applyToCalibration(document, camera) : document)
    await readAhead({ ...edges, ...kept }, solved!.view, kept.fitMm)
    if (piece.id !== id || piece.document.photo !== document.photo) return
    found.value = result
    piece.dispatch({ type: 'take-outline', ...edges, idPrefix: newId(), camera })
    if (camera?.overall) bench.chosenSize = camera.overall.id
    bench.tool = 'none'
  }

  return {
    running,
    taking,
    fraction,
    problem,
    found,
    requestOf,
    searchAhead,
    run,
    findOutline,
    stop: () => photoClient.stop(),
  }
})

import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { lensOf, upAfterTurns } from '../../../core/calibrate/calibrate'
import { newKnownSize } from '../../../core/calibrate/known-size'
import type { PicturePoint } from '../../../core/conventions'
import type { PhotoSearch } from '../../../core/camera/search-photo'
import { api } from '../../api/client'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { photoClient } from '../../workers/photo-client'
import { Stopped } from '../../workers/worker-client'
import { newId } from '../new-id'

/** The one of the four directions that a direction is nearest to. */
const nearestQuarter = ({ x, y }: PicturePoint): PicturePoint =>
  Math.abs(x) > Math.abs(y) ? { x: Math.sign(x), y: 0 } : { x: 0, y: Math.sign(y) }

/** The search of the photo for axis, foot and rings: one at a time, with progress and stop. */
export const useSearch = defineStore('search', () => {
  const running = ref(false)
  const fraction = ref(0)
  const problem = ref('')
  /** What the last search of this photo found. */
  const found = shallowRef<(PhotoSearch & { sha256: string }) | null>(null)

  /** Lets the worker read the pixels while nobody waits for them yet. */
  function prepare(): void {
    const { photo } = usePiece().document
    if (!photo) return
    const request = { url: api.photoUrl(photo.sha256), crop: photo.crop }
    // What goes wrong here is said when a search is asked for.
    photoClient.call((worker) => worker.prepare(request)).catch(() => undefined)
  }

  async function run(): Promise<string | null> {
    const piece = usePiece()
    const bench = useBench()
    const view = useView()
    const { photo, calibration } = piece.document
    if (!photo || running.value) return null
    running.value = true
    fraction.value = 0
    problem.value = ''
    const { id } = piece
    try {
      const centre = { x: photo.width / 2, y: photo.height / 2 }
      const request = {
        url: api.photoUrl(photo.sha256),
        crop: photo.crop,
        up: piece.derived.calibration.known.axis
          ? nearestQuarter(view.frame.value.up)
          : upAfterTurns(photo.quarterTurns),
        lens: lensOf(calibration, photo),
        eye: view.focal.value && !calibration.view.cropped ? { f: view.focal.value.px, centre } : null,
      }
      const result = await photoClient.call((worker) =>
        worker.search(
          request,
          proxy((f: number) => (fraction.value = f)),
        ),
      )
      // The piece may have been left while the search ran.
      if (piece.id !== id || piece.document.photo?.sha256 !== photo.sha256) return null
      found.value = { ...result, sha256: photo.sha256 }
      const { plumb, foot, top, rings } = result
      const overall = calibration.knownSizes.length
        ? null
        : newKnownSize({ id: newId(), kind: 'overall', a: foot, b: top })
      piece.dispatch({
        type: 'take-found',
        plumb: { ...plumb, by: 'found' },
        // A foot without its ring is a guess that doesn't overrule a ground line.
        ground: calibration.ground && !rings.some((r) => r.place === 'foot') ? null : foot,
        rings: rings.map((r) => ({ ...r, id: newId(), by: 'found' as const })),
        overall,
        near: request.eye !== null,
      })
      bench.tool = 'none'
      if (overall) bench.chosenSize = overall.id
      return overall?.id ?? null
    } catch (error) {
      if (!(error instanceof Stopped)) problem.value = (error as Error).message
      return null
    } finally {
      running.value = false
    }
  }

  return { running, fraction, problem, found, prepare, run, stop: () => photoClient.stop() }
})

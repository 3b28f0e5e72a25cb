import { computed, ref } from 'vue'
import { archive } from '../../../core/formats/archive'
import { writeWebpAnimation } from '../../../core/formats/webp-animation'
import { laidDown, lyingOn } from '../../../core/solid/laid-down'
import { formatLength } from '../../../core/units/format-length'
import { api } from '../../api/client'
import { boundsOf, paintSolids, pictureBytes } from '../../composables/solid-picture'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { download } from '../download'
import { plainFileName } from '../../../core/piece/file-name'
import { useShownSolids } from '../solid/use-shown-solids'
import { comparisonPanels, drawPhotoPanel, panelCamera } from './comparison'

export type PictureKind = 'solid' | 'comparison' | 'turntable' | 'frames'

/** Around the solid, as a share of the picture. */
const MARGIN = 0.08
/** One turn takes this long, ms. */
const TURN_MS = 3600
const NEUTRAL = '#d6d1c7'

/** Pictures of the solid as it is shown, beside the photo, and turning. */
export function usePictures() {
  const bench = useBench()
  const piece = usePiece()
  const { solids, looks } = useShownSolids()
  const busy = ref<PictureKind | ''>('')
  const progress = ref(0)
  const problem = ref('')
  let stopped = false
  const base = computed(() => plainFileName(piece.whole.name))

  /** As they are seen from above: standing, or laid on their side about their middle. */
  const placed = computed(() => {
    if (!piece.whole.solid.lies || bench.solid.elevation === 0) return solids.value
    const { low, high } = boundsOf(solids.value)
    const up = lyingOn(solids.value.map(({ buffers }) => buffers.positions))
    return solids.value.map(({ buffers, ...rest }) => {
      const positions = laidDown(buffers.positions, up).map((v, i) => (i % 3 ? v : v - (low + high) / 2))
      return { ...rest, buffers: { ...buffers, positions, normals: laidDown(buffers.normals) } }
    })
  })
  const bounds = computed(() => boundsOf(placed.value))

  /** A picture of the solid from where it is looked at, turned by an angle. */
  function paint(size: number, ground: string | null, turn = 0): HTMLCanvasElement {
    const { azimuth, elevation } = bench.solid
    const { low, high, reach } = bounds.value
    const tall = (high - low) * Math.cos(elevation) + 2 * reach * Math.abs(Math.sin(elevation))
    const pxPerMm = (size * (1 - 2 * MARGIN)) / Math.max(tall, 2 * reach)
    const middleZ = (low + high) / 2
    const camera = {
      azimuth: azimuth + turn,
      elevation,
      pxPerMm,
      axisX: size / 2,
      middleY: size / 2,
      middleZ,
      near: null,
    }
    const deep = placed.value === solids.value ? reach : (high - low) / 2
    const shadow = { z: low, across: 2 * reach, deep: 2 * deep }
    return paintSolids({ solids: placed.value, looks: looks.value, camera, width: size, height: size, ground, shadow, ink: '#2b2723' }) // prettier-ignore
  }

  async function photoBitmap(): Promise<ImageBitmap> {
    const { photo } = piece.whole
    const response = photo && (await fetch(api.photoUrl(photo.sha256)))
    if (!response?.ok) throw new Error('The photo could not be read. Reload the page and try again.')
    return createImageBitmap(await response.blob(), { imageOrientation: 'from-image' })
  }

  async function comparison(width: number): Promise<HTMLCanvasElement> {
    const { measures, solid, calibration } = piece.wholeDerived
    if (!measures || !solid) throw new Error('There is no solid yet.')
    const { frame, view } = calibration
    const { panels, height, words } = comparisonPanels(width, measures)
    const canvas = Object.assign(document.createElement('canvas'), { width, height })
    const context = canvas.getContext('2d')
    if (!context) throw new Error('This browser can’t draw a picture as large. Choose a smaller one.')
    context.fillStyle = NEUTRAL
    context.fillRect(0, 0, width, height)
    const photo = await photoBitmap()
    const points = solid.flat.points
    drawPhotoPanel(context, photo, panels[0], frame, null)
    drawPhotoPanel(context, photo, panels[1], frame, { view, points, dim: 0.45 })
    photo.close()
    const [, , third] = panels
    const middleZ = (measures.lowestMm + measures.highestMm) / 2
    const shown = paintSolids({ solids: solids.value, looks: looks.value, camera: panelCamera(third, frame, view, middleZ), width: third.width, height: third.height, ground: NEUTRAL, shadow: null, ink: '#2b2723' }) // prettier-ignore
    context.drawImage(shown, third.x, third.y)
    context.fillStyle = '#2b2723'
    context.textBaseline = 'middle'
    const { unit } = piece.whole
    const { factor } = piece.whole.calibration.finish
    const size = (mm: number) => formatLength(mm * factor, { unit, ...(unit === 'mm' && { decimals: 1 }) })
    const line = height - words / 2 - width / 200
    context.font = `600 ${Math.round(words * 0.42)}px "Figtree Variable", sans-serif`
    context.fillText(piece.whole.name, panels[0].x, line)
    context.font = `400 ${Math.round(words * 0.36)}px "Figtree Variable", sans-serif`
    context.fillText('with its half-profile', panels[1].x, line)
    context.fillText(`${size(measures.heightMm)} tall, ⌀ ${size(2 * measures.maxRadiusMm)}`, third.x, line)
    return canvas
  }

  async function frames(
    count: number,
    size: number,
    ground: string | null,
    mediaType: 'image/webp' | 'image/png',
  ): Promise<Uint8Array[]> {
    const out: Uint8Array[] = []
    for (let k = 0; k < count; k++) {
      if (stopped) throw new Error('Stopped; nothing was written.')
      out.push(await pictureBytes(paint(size, ground, (2 * Math.PI * k) / count), mediaType))
      progress.value = (k + 1) / count
      // The page stays alive meanwhile.
      await new Promise((resolve) => setTimeout(resolve))
    }
    return out
  }

  async function save(
    kind: PictureKind,
    size: number,
    ground: 'none' | 'neutral',
    count: number,
  ): Promise<void> {
    busy.value = kind
    problem.value = ''
    progress.value = 0
    stopped = false
    const colour = ground === 'neutral' ? NEUTRAL : null
    try {
      if (kind === 'solid') download(await pictureBytes(paint(size, colour), 'image/png'), `${base.value}.png`, 'image/png') // prettier-ignore
      if (kind === 'comparison') download(await pictureBytes(await comparison(Math.round(1.5 * size)), 'image/png'), `${base.value}.comparison.png`, 'image/png') // prettier-ignore
      if (kind === 'turntable') {
        const stills = await frames(count, size, colour, 'image/webp')
        const bytes = writeWebpAnimation({
          frames: stills,
          width: size,
          height: size,
          frameMs: TURN_MS / count,
        })
        download(bytes, `${base.value}.turntable.webp`, 'image/webp')
      }
      if (kind === 'frames') {
        const stills = await frames(count, size, colour, 'image/png')
        const named = stills.map(
          (bytes, k) => [`${base.value}-${String(k + 1).padStart(3, '0')}.png`, bytes] as const,
        )
        download(archive(Object.fromEntries(named)), `${base.value}.frames.zip`, 'application/zip')
      }
    } catch (error) {
      problem.value = (error as Error).message
    }
    busy.value = ''
  }

  return { base, busy, progress, problem, save, stop: () => void (stopped = true) }
}

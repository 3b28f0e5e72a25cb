import { expose, transfer } from 'comlink'
import { fittedWhole } from '../../core/piece/follow-outline'
import { DELIVERABLES, deliverTogether } from '../../core/piece/deliver'
import { likelyAxis, placeProfile } from '../../core/incoming/half-profile'
import { readDrawing } from '../../core/incoming/read-drawing'
import { writeLineUp } from '../../core/piece/line-up-sheet'
import { readOutline, usualFit } from '../../core/piece/outline'
import { fitCurve } from '../../core/profile/fit-curve'
import { assemblyFigures } from '../../core/measure/assembly-figures'
import { build } from '../../core/piece/build'
import { isAssembled } from '../../core/piece/plan-assembly'
import { checkSilhouette } from '../../core/piece/silhouette-check'
import type { PieceDocument } from '../../core/piece/schema'
import { loadFonts } from './fonts'
import { loadPictures } from './laid-pictures'
import { loadKernel } from './kernel'
import { deviationOf, thicknessOf, type ValueAt } from '../../core/measure/paint'
import type { SolidProfile } from '../../core/piece/derive'
import type { PaintWish, SolidWorker } from './protocol'

const kernelFor = (document: PieceDocument) => (isAssembled(document) ? loadKernel() : undefined)

function painter(wish: PaintWish, { segments, hollow }: SolidProfile): ValueAt | undefined {
  if (wish.by === 'thickness') return hollow ? thicknessOf(hollow.outside, hollow.inside) : undefined
  if (wish.by !== 'deviation') return undefined
  const { points, states } = readOutline(wish.outline, wish.view)
  return deviationOf(hollow?.outside ?? segments, {
    points: Float64Array.from(points.flat()),
    seen: (i) => states[i] !== 'assumed',
  })
}

const worker: SolidWorker = {
  async build(making, solid, cutOpen, paint, onStep) {
    const kernel = isAssembled(making) ? await loadKernel() : undefined
    const { assembly, ...built } = build(making, solid, {
      kernel,
      cutOpen,
      onStep,
      paint: painter(paint, solid),
      mapped: paint.by === 'pattern',
      cage: paint.by === 'cage' ? paint : undefined,
    })
    const buffers = built.solids.flatMap(({ buffers: b, values }) => [
      b.positions,
      b.normals,
      b.indices,
      ...(values ? [values] : []),
    ])
    const figures = assembly && assemblyFigures(assembly)
    return transfer({ ...built, figures }, buffers.map((b) => b.buffer as ArrayBuffer)) // prettier-ignore
  },
  readAhead(outline, view, toleranceMm) {
    const read = readOutline(outline, view)
    const within = toleranceMm ?? usualFit(read)
    return { read, toleranceMm: within, curve: fittedWhole(read, within) }
  },
  fitRun(points, toleranceMm) {
    let count = 0
    const held = { start: true, end: true }
    return fitCurve(points, { toleranceMm, held, newId: () => String(count++) })
  },
  silhouette: checkSilhouette,
  readDrawing({ name, text }, wish) {
    const drawn = readDrawing(name, text)
    const axis = wish.axis ?? likelyAxis(drawn)
    const mmPerUnit = wish.mmPerUnit ?? drawn.mmPerUnit ?? 1
    let count = 0
    const prefix = Math.random().toString(36).slice(2, 8)
    const placed = placeProfile(drawn, { mmPerUnit, axis, newId: () => `${prefix}-${count++}` })
    return { axis, mmPerUnit, said: drawn.mmPerUnit !== null, placed }
  },
  async lineUp(wish, format, paper, timeStamp) {
    const bytes = await writeLineUp(wish, format, { paper, timeStamp, fonts: loadFonts })
    return transfer(bytes, [bytes.buffer])
  },
  async deliver(document, wanted, baseName, options, onProgress) {
    const kernel = await kernelFor(document)
    const pictures = wanted.includes('glb') ? await loadPictures(document) : undefined
    const [name, bytes] = await deliverTogether(document, wanted, baseName, {
      pictures,
      ...options,
      kernel,
      fonts: loadFonts,
      onProgress,
    })
    const { mediaType } = name.endsWith('.zip') ? { mediaType: 'application/zip' } : DELIVERABLES[wanted[0]!]
    return { name, blob: new Blob([bytes], { type: mediaType }) }
  },
}

expose(worker)

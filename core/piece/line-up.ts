import { filledTo, fillRange } from '../measure/capacity'
import { moments } from '../measure/moments'
import { profileMeasures } from '../measure/profile-measures'
import { silhouetteOf } from '../profile/sides'
import type { Segment } from '../profile/segments'
import { derive } from './derive'
import { finishedSegments } from './finished'
import { materialOf } from './materials'
import { isAssembled, vesselShare } from './plan-assembly'
import type { PieceDocument } from './schema'

/** A piece among others, at its finished size. */
export interface LineUpEntry {
  name: string
  /** Finished ÷ measured. */
  factor: number
  heightMm: number
  maxDiameterMm: number
  /** Lowest point of the curve: it stands there. */
  lowestMm: number
  /** Of the exact curve, without what parts change. */
  volumeMm3: number
  hasParts: boolean
  /** Brim-full; null for what isn't hollow. */
  capacityMm3: number | null
  material: string | null
  massG: number | null
  /** Standard error of its lengths from the calibration, as a share. */
  relativeSe: number | null
  segments: Segment[]
  /** The outside, closed over its mouth [r z ...]. */
  silhouette: Float64Array
  /** The photo, and the matrix [a b c d e f] from its px to finished mm from the axis at the foot, y down. */
  photo: { sha256: string; width: number; height: number; matrix: readonly number[] } | null
}

/** What a line-up shows of a piece; null while it has no solid or no scale. */
export function lineUpEntry(document: PieceDocument): LineUpEntry | null {
  const { solid, calibration } = derive(document)
  if (!solid || !calibration.known.scale) return null
  const { factor } = document.calibration.finish
  const segments = finishedSegments(document, solid.segments)
  const { heightMm, maxRadiusMm, lowestMm, volumeMm3 } = profileMeasures(segments)
  const inside = solid.hollow && finishedSegments(document, solid.hollow.inside)
  const share = vesselShare(document)
  const material = materialOf(document.solid.material ?? null)
  return {
    name: document.name,
    factor,
    heightMm,
    maxDiameterMm: 2 * maxRadiusMm,
    lowestMm,
    volumeMm3,
    hasParts: isAssembled(document),
    capacityMm3:
      inside && filledTo(inside, fillRange(inside).brimMm, share && ((z) => share(z / factor))).volumeMm3,
    material: material?.name ?? null,
    massG: material && (material.density * moments(segments).volumeMm3) / 1000,
    relativeSe: calibration.scale?.relativeSe ?? null,
    segments,
    silhouette: silhouetteOf(segments),
    photo: photoOf(document, calibration.frame),
  }
}

function photoOf(
  { photo, calibration }: PieceDocument,
  { origin, up, mmPerPx }: ReturnType<typeof derive>['calibration']['frame'],
): LineUpEntry['photo'] {
  if (!photo) return null
  const m = mmPerPx * calibration.finish.factor
  const across = { x: -up.y, y: up.x }
  const matrix = [
    m * across.x, -m * up.x, m * across.y, -m * up.y,
    -m * (origin.x * across.x + origin.y * across.y), m * (origin.x * up.x + origin.y * up.y),
  ] // prettier-ignore
  return { sha256: photo.sha256, width: photo.width, height: photo.height, matrix }
}

/** What sets a variant apart from the piece it comes from. */
export interface Variant {
  name: string
  /** Null: as it was. */
  material: string | null
  /** Finished ÷ the finished size it had. */
  factor: number
}

/** The same shape under another name, of another material or size. */
export function variantOf(document: PieceDocument, { name, material, factor }: Variant): PieceDocument {
  const { finish } = document.calibration
  const grown = {
    factor: finish.factor * factor,
    text: factor === 1 ? finish.text : `variant of ${document.name}`.slice(0, 60),
  }
  return {
    ...document,
    name: name.trim().slice(0, 120) || document.name,
    calibration: { ...document.calibration, finish: grown },
    solid: { ...document.solid, material: material ?? document.solid.material },
  }
}

/** What may be made to agree between pieces. */
export type AgreedSize = 'height' | 'diameter'

/** The document with the finished size at which its height or largest ⌀ is so many mm; `text` says why. */
export function agreedWith(
  document: PieceDocument,
  size: AgreedSize,
  targetMm: number,
  text: string,
): PieceDocument {
  const { measures } = derive(document)
  if (!measures) return document
  const own = size === 'height' ? measures.heightMm : 2 * measures.maxRadiusMm
  const finish = { factor: targetMm / own, text: text.slice(0, 60) }
  return { ...document, calibration: { ...document.calibration, finish } }
}

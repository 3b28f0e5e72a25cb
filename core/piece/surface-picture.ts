import { radiusAt } from '../measure/profile-measures'
import type { FlatProfile } from '../profile/flatten'
import { meanRadius, type Mapping } from '../solid/shading'
import type { SurfacePicture, Zone } from './schema'

/** A picture as it lies on a surface. */
export interface LaidPicture {
  sha256: string
  mediaType: SurfacePicture['mediaType']
  /** Files that lie exactly over it, by SHA-256: see the document's schema. */
  roughness?: string
  normals?: string
  /** [a b c d e f]: texture coordinates u, v in mm -> s = a u + b v + c to the right, t = d u + e v + f up, 1 a picture. */
  matrix: readonly [number, number, number, number, number, number]
}

/**
 * Where a picture lies: its middle opposite the seam, its lower edge on the zone's lower level (the foot, on the body), as wide as it is
 * said to be at the surface's own radius; then moved up and around, and turned about its middle. It repeats beyond its edges.
 */
export function laidPicture(
  picture: SurfacePicture,
  flat: FlatProfile,
  { way }: Pick<Mapping, 'way'>,
  zone: Pick<Zone, 'fromMm' | 'toMm'> | null,
): LaidPicture {
  const { sha256, mediaType, acrossMm, turn, upMm, aroundMm } = picture
  const tallMm = (acrossMm * picture.height) / picture.width
  // Straight lines along the grain are as far apart as at the mean radius; at the zone's own they are so much farther.
  const grown = way === 'straight' && zone ? zoneRadius(flat, zone) / meanRadius(flat.points) : 1
  const from = zone ? wayUpTo(flat, zone.fromMm) : 0
  // Place on the surface, mm: x = grown · v - around to the right of the middle, y = u - from - up above the lower edge.
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const [w, h] = [1 / acrossMm, 1 / tallMm]
  const [x0, y0] = [-aroundMm, -from - upMm - tallMm / 2]
  return {
    sha256,
    mediaType,
    ...(picture.roughness && { roughness: picture.roughness.sha256 }),
    ...(picture.normals && { normals: picture.normals.sha256 }),
    matrix: [
      s * w, c * grown * w, (c * x0 + s * y0) * w + 0.5,
      c * h, -s * grown * h, (c * y0 - s * x0) * h + 0.5,
    ],
  } // prettier-ignore
}

/** Radius at the middle of a zone, mm; 1 where the piece doesn't reach there. */
export function zoneRadius(flat: FlatProfile, { fromMm, toMm }: Pick<Zone, 'fromMm' | 'toMm'>): number {
  return radiusAt(flat, (fromMm + toMm) / 2) || 1
}

/** Way along the chain to where it first rises past a height, mm. */
function wayUpTo({ points: p }: FlatProfile, z: number): number {
  let way = 0
  for (let i = 0; i + 3 < p.length; i += 2) {
    const [z0, z1] = [p[i + 1]!, p[i + 3]!]
    const length = Math.hypot(p[i + 2]! - p[i]!, z1 - z0)
    if (z0 <= z && z1 > z) return way + (length * (z - z0)) / (z1 - z0)
    way += length
  }
  return 0
}

import { CoreError } from '../errors'
import type { FlatProfile } from '../profile/flatten'
import { boxMapped, creased } from './creased'
import { filletedTo, type Distance } from './fillet-to-body'
import { plateMesh, tubeMesh, type Plate, type Tube } from './fitting'
import { lidTriangles } from './lid'
import type { Mesh } from './mesh'
import { shadingBuffers, type ShadingBuffers } from './shading'
import { sideError } from './sides'
import { threadMesh, type Thread } from './thread'

/** What a part can be, in its own frame: its axis is z, its origin the middle of its foot where nothing else is said. Lengths in mm, angles in radians. */
export type PartShape =
  | { kind: 'turned'; flat: FlatProfile }
  /** A cylinder, or a cone, straight up. */
  | { kind: 'cylinder'; diameterMm: number; topDiameterMm: number; heightMm: number }
  /** Its origin is its middle. */
  | { kind: 'ball'; diameterMm: number }
  /** `widthMm` across (own y), `depthMm` outwards (own x). */
  | { kind: 'block'; widthMm: number; depthMm: number; heightMm: number }
  /** What lies between two planes through the axis, two heights, and outside of a ⌀. */
  | { kind: 'sector'; fromMm: number; toMm: number; innerDiameterMm: number; angle: number }
  /** A slot right across the piece, open above: so wide, its floor through the origin. */
  | { kind: 'slot'; widthMm: number }
  /** All that lies farther out than the origin, between two heights. */
  | { kind: 'flat'; fromMm: number; toMm: number }
  | ({ kind: 'thread' } & Thread)
  /** In the plane of the photo, as drawn. */
  | ({ kind: 'tube' } & Tube)
  | ({ kind: 'plate' } & Plate)

export interface ShapeOptions {
  /** Sides of what is round. */
  sides: number
  /** Beyond this distance from the origin there is nothing to work on, mm. */
  reachMm: number
  /** Of the body that it is added to, in the part's own frame: what a fillet leads over to. */
  body?: Distance
}

/**
 * The part as a closed mesh with normals.
 * @throws CoreError `part-size` for sizes that give no body, and what `threadMesh` throws
 */
export function partMesh(shape: PartShape, options: ShapeOptions): ShadingBuffers {
  const buffers = plainMesh(shape, options)
  return buffers.uvs ? buffers : boxMapped(buffers)
}

/** What is turned is unrolled from behind its own +x. */
const MAPPING = { seam: Math.PI, way: 'straight' } as const

function plainMesh(shape: PartShape, options: ShapeOptions): ShadingBuffers {
  const { sides, reachMm } = options
  switch (shape.kind) {
    case 'turned':
      return shadingBuffers(shape.flat, sides, undefined, MAPPING)
    case 'cylinder': {
      const { diameterMm: d, topDiameterMm: top, heightMm: h } = shape
      requireSizes({ '⌀': Math.max(d, top), height: h })
      const points = [0, 0, ...(d > 0 ? [d / 2, 0] : []), ...(top > 0 ? [top / 2, h] : []), 0, h]
      return shadingBuffers(sharp(points), sides, undefined, MAPPING)
    }
    case 'ball':
      requireSizes({ '⌀': shape.diameterMm })
      return shadingBuffers(ballProfile(shape.diameterMm / 2, sides), sides, undefined, MAPPING)
    case 'block': {
      const { widthMm: w, depthMm: d, heightMm: h } = shape
      requireSizes({ width: w, depth: d, height: h })
      return creased(extruded([-d / 2, -w / 2, d / 2, -w / 2, d / 2, w / 2, -d / 2, w / 2], 0, h))
    }
    case 'sector':
      return creased(sectorMesh(shape, sides, reachMm))
    case 'slot': {
      requireSizes({ width: shape.widthMm })
      const [w, far] = [shape.widthMm / 2, 2 * reachMm]
      return creased(extruded([-far, -w, far, -w, far, w, -far, w], 0, far))
    }
    case 'flat': {
      requireSizes({ height: shape.toMm - shape.fromMm })
      const far = 2 * reachMm
      return creased(extruded([0, -far, far, -far, far, far, 0, far], shape.fromMm, shape.toMm))
    }
    case 'thread':
      return creased(threadMesh(shape, sides))
    case 'tube':
      return creased(ledOver(tubeMesh(shape, Math.max(8, Math.ceil(sides / 2))), shape, options))
    case 'plate':
      return creased(ledOver(plateMesh(shape), shape, options))
  }
}

/** A fitting with its fillet, where it has one and meets a body. */
function ledOver(fitting: Mesh, { filletMm }: { filletMm?: number }, { body }: ShapeOptions): Mesh {
  return filletMm && body ? filletedTo(fitting, body, filletMm) : fitting
}

function requireSizes(sizes: Record<string, number>): void {
  for (const [name, value] of Object.entries(sizes))
    if (!(value > 0))
      throw new CoreError({ code: 'part-size', message: `Its ${name} must be more than 0.`, where: name })
}

/** A profile whose every point is a corner. */
function sharp(points: number[]): FlatProfile {
  const count = points.length / 2
  return {
    points: Float64Array.from(points),
    corner: new Uint8Array(count).fill(1),
    segmentStart: Uint32Array.from({ length: count }, (_, k) => k),
  }
}

/** Half a circle about the origin, its chords as fine as the sides. */
function ballProfile(radius: number, sides: number): FlatProfile {
  const chords = Math.max(4, 2 * Math.ceil(sides / 4))
  const points = new Float64Array(2 * (chords + 1))
  for (let k = 0; k <= chords; k++) {
    const angle = Math.PI * (k / chords - 0.5)
    points.set([k % chords === 0 ? 0 : radius * Math.cos(angle), radius * Math.sin(angle)], 2 * k)
  }
  const corner = new Uint8Array(chords + 1)
  corner[0] = corner[chords] = 1
  return { points, corner, segmentStart: Uint32Array.of(0, chords) }
}

/** An outline [x y ...], counter-clockwise, raised from one height to another. */
export function extruded(outline: readonly number[], from: number, to: number): Mesh {
  const n = outline.length / 2
  const positions = new Float64Array(6 * n)
  for (let i = 0; i < n; i++) {
    positions.set([outline[2 * i]!, outline[2 * i + 1]!, from], 3 * i)
    positions.set([outline[2 * i]!, outline[2 * i + 1]!, to], 3 * (n + i))
  }
  const triangles: number[] = []
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n
    triangles.push(i, j, n + j, i, n + j, n + i)
  }
  const lid = lidTriangles(outline)
  for (let i = 0; i < lid.length; i += 3) {
    const [a, b, c] = [lid[i]!, lid[i + 1]!, lid[i + 2]!]
    triangles.push(n + a, n + b, n + c, c, b, a)
  }
  return { positions, triangles: Uint32Array.from(triangles) }
}

function sectorMesh(shape: PartShape & { kind: 'sector' }, sides: number, reachMm: number): Mesh {
  const { fromMm, toMm, innerDiameterMm, angle } = shape
  requireSizes({ height: toMm - fromMm, angle })
  if (angle >= 2 * Math.PI)
    throw new CoreError({ code: 'part-size', message: 'A sector is less than a full turn.', where: 'angle' })
  const steps = Math.max(1, Math.round((angle * sides) / (2 * Math.PI)))
  // The outside keeps clear of the piece even in the middle of its chords.
  const far = (2 * reachMm) / Math.cos(Math.min(1.4, angle / steps / 2))
  const inner = innerDiameterMm / 2
  const outline: number[] = []
  const at = (radius: number, k: number) => {
    const a = (angle * k) / steps
    outline.push(radius * Math.cos(a), radius * Math.sin(a))
  }
  for (let k = 0; k <= steps; k++) at(far, k)
  if (inner > sideError(inner, sides)) for (let k = steps; k >= 0; k--) at(inner, k)
  else outline.push(0, 0)
  return extruded(outline, fromMm, toMm)
}

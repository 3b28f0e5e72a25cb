import type { Assembly } from '../solid/assemble'
import type { Mesh } from '../solid/mesh'
import type { Quantities } from './body'
import { meshArea, meshVolume } from './mesh-measures'
import { meshPrinting, type MeshPrinting } from './mesh-printing'

/** Figures of one solid that booleans made. */
export interface SolidFigures extends Quantities {
  id: string
  /** Bodies it consists of. */
  pieces: number
  /** To the body, mm; 0 where they touch or overlap; null where there is none near, and for the body. */
  gapMm: number | null
  overlapMm3: number
  triangles: number
  printing: MeshPrinting
}

export interface AssemblyFigures {
  solids: SolidFigures[]
  /** The body's mesh before anything was done to it. */
  plain: Quantities
}

/** What there is to say of an assembly, without its meshes. */
export function assemblyFigures({ solids, plain }: Assembly): AssemblyFigures {
  return {
    plain: quantities(plain),
    solids: solids.map(({ id, pieces, gapMm, overlapMm3, mesh }) => ({
      ...quantities(mesh),
      id,
      pieces,
      gapMm,
      overlapMm3,
      triangles: mesh.triangles.length / 3,
      printing: meshPrinting(mesh),
    })),
  }
}

const quantities = (mesh: Mesh): Quantities => ({
  volumeMm3: meshVolume(mesh),
  areaMm2: meshArea(mesh),
  centre: centroid(mesh),
})

/**
 * The body with its parts: exact where it is turned, from the mesh where it isn't. What booleans changed is taken from the
 * meshes, the rest from the exact curve, so that flat sides err only in what was changed.
 * @param exact of the revolved body, as `bodyQuantities` gives it
 */
export function correctedBody(exact: Quantities, { plain, solids }: AssemblyFigures): Quantities {
  const after = solids[0]!
  const volumeMm3 = exact.volumeMm3 + after.volumeMm3 - plain.volumeMm3
  const moment = (q: Quantities, k: number) => q.volumeMm3 * q.centre[k]!
  const along = [0, 1, 2].map((k) => moment(exact, k) + moment(after, k) - moment(plain, k))
  return {
    volumeMm3,
    areaMm2: exact.areaMm2 + after.areaMm2 - plain.areaMm2,
    centre: along.map((m) => m / volumeMm3) as [number, number, number],
  }
}

/** Centre of gravity of what a closed mesh encloses: the mean of its signed tetrahedra's, weighted by their volumes. */
export function centroid({ positions: p, triangles: t }: Mesh): [number, number, number] {
  let [x, y, z, six] = [0, 0, 0, 0]
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [3 * t[i]!, 3 * t[i + 1]!, 3 * t[i + 2]!]
    const volume =
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) +
      p[a + 1]! * (p[b + 2]! * p[c]! - p[b]! * p[c + 2]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!)
    six += volume
    x += volume * (p[a]! + p[b]! + p[c]!)
    y += volume * (p[a + 1]! + p[b + 1]! + p[c + 1]!)
    z += volume * (p[a + 2]! + p[b + 2]! + p[c + 2]!)
  }
  return [x / (4 * six), y / (4 * six), z / (4 * six)]
}

import type { Mesh } from '../solid/mesh'

/** What a printer has to do with a mesh, as it stands. */
export interface MeshPrinting {
  /** Breadth along x and y, and height, mm. */
  box: [x: number, y: number, z: number]
  /** Area of what leans out by more than so many degrees from upright, by degree from 0 to 90, mm²; what rests on the plate is none of it. */
  hangingMm2: number[]
}

/** What lies this near to the lowest place, as a share of the height, rests on the plate. */
const ON_PLATE = 1e-4

/** Box and overhangs of a closed mesh, one pass over its triangles. */
export function meshPrinting({ positions: p, triangles: t }: Mesh): MeshPrinting {
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (let i = 0; i < p.length; i++) {
    low[i % 3] = Math.min(low[i % 3]!, p[i]!)
    high[i % 3] = Math.max(high[i % 3]!, p[i]!)
  }
  const box = [0, 1, 2].map((k) => high[k]! - low[k]!) as MeshPrinting['box']
  const plate = low[2]! + ON_PLATE * box[2]
  // By whole degrees first, then summed from the ceiling down.
  const byDegree = new Float64Array(91)
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [3 * t[i]!, 3 * t[i + 1]!, 3 * t[i + 2]!]
    if (Math.max(p[a + 2]!, p[b + 2]!, p[c + 2]!) <= plate) continue
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!]
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!]
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    const twice = Math.hypot(nx, ny, nz)
    if (nz >= 0 || twice === 0) continue
    const lean = (180 / Math.PI) * Math.asin(Math.min(1, -nz / twice))
    // A lean of exactly the limit is allowed; rounding is not what decides.
    byDegree[Math.min(90, Math.floor(lean - 1e-6))]! += twice / 2
  }
  const hangingMm2 = Array.from(byDegree)
  for (let k = 89; k >= 0; k--) hangingMm2[k]! += hangingMm2[k + 1]!
  return { box, hangingMm2 }
}

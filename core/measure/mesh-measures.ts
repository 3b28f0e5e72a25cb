import type { Mesh } from '../solid/mesh'

/** Signed volume, mm³: positive when the faces look outwards. Sum of signed tetrahedra (divergence theorem). */
export function meshVolume(mesh: Mesh): number {
  const { positions: p, triangles: t } = mesh
  let six = 0
  for (let i = 0; i < t.length; i += 3) {
    const a = 3 * t[i]!
    const b = 3 * t[i + 1]!
    const c = 3 * t[i + 2]!
    six +=
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) +
      p[a + 1]! * (p[b + 2]! * p[c]! - p[b]! * p[c + 2]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!)
  }
  return six / 6
}

/** Surface area, mm². */
export function meshArea(mesh: Mesh): number {
  const { positions: p, triangles: t } = mesh
  let twice = 0
  for (let i = 0; i < t.length; i += 3) {
    const a = 3 * t[i]!
    const b = 3 * t[i + 1]!
    const c = 3 * t[i + 2]!
    const ux = p[b]! - p[a]!
    const uy = p[b + 1]! - p[a + 1]!
    const uz = p[b + 2]! - p[a + 2]!
    const vx = p[c]! - p[a]!
    const vy = p[c + 1]! - p[a + 1]!
    const vz = p[c + 2]! - p[a + 2]!
    twice += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx)
  }
  return twice / 2
}

/**
 * True when every edge is met exactly twice, in opposite directions: the mesh is closed and consistently oriented.
 * Decided by indices alone.
 */
export function isClosedAndOriented(mesh: Mesh): boolean {
  const { triangles: t } = mesh
  const vertices = mesh.positions.length / 3
  const directed = new Set<number>()
  for (let i = 0; i < t.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const a = t[i + k]!
      const b = t[i + ((k + 1) % 3)]!
      const key = a * vertices + b
      if (a === b || directed.has(key)) return false
      directed.add(key)
    }
  }
  for (const key of directed) {
    const a = Math.floor(key / vertices)
    const b = key - a * vertices
    if (!directed.has(b * vertices + a)) return false
  }
  return directed.size > 0
}

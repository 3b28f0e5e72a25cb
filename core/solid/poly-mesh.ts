import type { PolyMesh } from './cage'
import type { Mesh } from './mesh'

/** The faces as triangles about their first corners: cages have quads and triangles only, and nearly flat ones. */
export function trianglesOfPoly({ positions, faces }: PolyMesh): Mesh {
  const triangles: number[] = []
  for (const f of faces) for (let i = 1; i + 1 < f.length; i++) triangles.push(f[0]!, f[i]!, f[i + 1]!)
  return { positions, triangles: Uint32Array.from(triangles) }
}

/** The edges of the faces as lines [x y z x y z ...], each once. */
export function edgesOfPoly({ positions: p, faces }: PolyMesh): Float32Array {
  const lines: number[] = []
  for (const f of faces)
    f.forEach((a, i) => {
      const b = f[(i + 1) % f.length]!
      // The neighbour's face runs along the same edge the other way.
      if (a < b) lines.push(p[3 * a]!, p[3 * a + 1]!, p[3 * a + 2]!, p[3 * b]!, p[3 * b + 1]!, p[3 * b + 2]!)
    })
  return Float32Array.from(lines)
}

/**
 * A closed triangle mesh. One position index a point: a pole is one vertex and the seam is not doubled.
 * `positions` is [x y z ...] in mm; `triangles` holds three vertex indices each, counter-clockwise from outside.
 */
export interface Mesh {
  positions: Float64Array
  triangles: Uint32Array
}

export function vertexCount(mesh: Mesh): number {
  return mesh.positions.length / 3
}

export function triangleCount(mesh: Mesh): number {
  return mesh.triangles.length / 3
}

/** Several meshes as one: for formats that know no parts. */
export function joinedMesh(meshes: readonly Mesh[]): Mesh {
  if (meshes.length === 1) return meshes[0]!
  const total = (key: keyof Mesh) => meshes.reduce((n, mesh) => n + mesh[key].length, 0)
  const positions = new Float64Array(total('positions'))
  const triangles = new Uint32Array(total('triangles'))
  let [at, from] = [0, 0]
  for (const mesh of meshes) {
    positions.set(mesh.positions, at)
    triangles.set(
      mesh.triangles.map((v) => v + at / 3),
      from,
    )
    at += mesh.positions.length
    from += mesh.triangles.length
  }
  return { positions, triangles }
}

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

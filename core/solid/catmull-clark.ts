import type { PolyMesh } from './cage'

/**
 * One level of subdivision of a closed mesh: E. Catmull and J. Clark, "Recursively generated B-spline surfaces on arbitrary
 * topological meshes", Computer-Aided Design 10 (1978); edges that stay sharp for some levels after T. DeRose, M. Kass and
 * T. Truong, "Subdivision surfaces in character animation", SIGGRAPH 1998.
 */
export function catmullClark({ positions: p, faces, creases }: PolyMesh): PolyMesh {
  const vertices = p.length / 3
  const key = (a: number, b: number) => (a < b ? a * vertices + b : b * vertices + a)
  const sharp = new Map(creases.map((c) => [key(c.a, c.b), c.sharpness]))
  const edges = new Map<number, { a: number; b: number; faces: number[] }>()
  faces.forEach((face, f) =>
    face.forEach((a, i) => {
      const b = face[(i + 1) % face.length]!
      const known = edges.get(key(a, b))
      if (known) known.faces.push(f)
      else edges.set(key(a, b), { a, b, faces: [f] })
    }),
  )
  const at = (v: number): Vec => [p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!]
  const facePoints = faces.map((face) => mean(face.map(at)))
  const list = [...edges]
  const edgeNumber = new Map(list.map(([k], i) => [k, i]))
  const edgePoints = list.map(([k, e]) => {
    const middle = mean([at(e.a), at(e.b)])
    const smooth = mean([at(e.a), at(e.b), ...e.faces.map((f) => facePoints[f]!)])
    return mix(smooth, middle, Math.min(1, sharp.get(k) ?? 0))
  })
  const around = vertexRing(vertices, list)
  const moved = Array.from({ length: vertices }, (_, v) =>
    vertexPoint(v, at, around[v]!, facePoints, sharp, key),
  )

  const edgeFrom = vertices
  const faceFrom = vertices + list.length
  const next: number[][] = []
  faces.forEach((face, f) =>
    face.forEach((v, i) => {
      const [before, after] = [face[(i + face.length - 1) % face.length]!, face[(i + 1) % face.length]!]
      next.push([
        v,
        edgeFrom + edgeNumber.get(key(v, after))!,
        faceFrom + f,
        edgeFrom + edgeNumber.get(key(before, v))!,
      ])
    }),
  )
  return {
    positions: Float64Array.from([...moved, ...edgePoints, ...facePoints].flat()),
    faces: next,
    // Both halves of an edge stay sharp for one level less.
    creases: creases.flatMap(({ a, b, sharpness }) => {
      const middle = edgeFrom + (edgeNumber.get(key(a, b)) ?? 0)
      return sharpness > 1 ? [{ a, b: middle, sharpness: sharpness - 1 }, { a: b, b: middle, sharpness: sharpness - 1 }] : [] // prettier-ignore
    }),
  }
}

/** So many levels of subdivision. */
export function subdivided(mesh: PolyMesh, levels: number): PolyMesh {
  return levels > 0 ? subdivided(catmullClark(mesh), levels - 1) : mesh
}

type Vec = [number, number, number]
interface Edge {
  a: number
  b: number
  faces: number[]
}

function vertexRing(
  vertices: number,
  edges: readonly [number, Edge][],
): { edges: Edge[]; faces: Set<number> }[] {
  const around = Array.from({ length: vertices }, () => ({ edges: [] as Edge[], faces: new Set<number>() }))
  for (const [, e] of edges)
    for (const v of [e.a, e.b]) {
      around[v]!.edges.push(e)
      for (const f of e.faces) around[v]!.faces.add(f)
    }
  return around
}

/** Smooth, on a crease between its two sharp edges, or a corner that stays; blended while the sharpness runs out. */
function vertexPoint(
  v: number,
  at: (v: number) => Vec,
  { edges, faces }: { edges: Edge[]; faces: Set<number> },
  facePoints: readonly Vec[],
  sharp: ReadonlyMap<number, number>,
  key: (a: number, b: number) => number,
): Vec {
  const own = at(v)
  const n = edges.length
  if (n === 0) return own
  const f = mean([...faces].map((i) => facePoints[i]!))
  const r = mean(edges.map((e) => mean([at(e.a), at(e.b)])))
  const smooth = [0, 1, 2].map((k) => (f[k]! + 2 * r[k]! + (n - 3) * own[k]!) / n) as Vec
  const creased = edges.filter((e) => (sharp.get(key(e.a, e.b)) ?? 0) > 0)
  if (creased.length < 2) return smooth
  const sharpness = creased.reduce((sum, e) => sum + sharp.get(key(e.a, e.b))!, 0) / creased.length
  const ends = creased.map((e) => at(e.a === v ? e.b : e.a))
  const held = creased.length > 2 ? own : ([0, 1, 2].map((k) => (ends[0]![k]! + 6 * own[k]! + ends[1]![k]!) / 8) as Vec) // prettier-ignore
  return mix(smooth, held, Math.min(1, sharpness))
}

function mean(list: readonly Vec[]): Vec {
  const sum: Vec = [0, 0, 0]
  for (const p of list) for (let k = 0; k < 3; k++) sum[k]! += p[k]! / list.length
  return sum
}

const mix = (a: Vec, b: Vec, t: number): Vec => [0, 1, 2].map((k) => a[k]! + (b[k]! - a[k]!) * t) as Vec

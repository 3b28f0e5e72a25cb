/**
 * The shape of a made-up piece: a half-profile from straight lines, circular arcs and cubics, in mm.
 * Written for the photo maker alone; shares nothing with the app's own profile code, which it is there to test.
 */
export type Op =
  | { kind: 'line'; to: [number, number] }
  /** `bulge` is the tangent of a quarter of the arc's angle, positive counter-clockwise in the (r, z) plane. */
  | { kind: 'arc'; to: [number, number]; bulge: number }
  | { kind: 'cubic'; c1: [number, number]; c2: [number, number]; to: [number, number] }

export interface Shape {
  start: [number, number]
  /** In order, each with the name of its material. */
  ops: { op: Op; material: number }[]
  /** Index of the first op that belongs to the inside of a hollow piece; the outside ends there. */
  insideFrom?: number
}

/** The chain the pictures are computed from: truth itself, not an approximation of it. */
export interface Chain {
  r: Float64Array
  z: Float64Array
  /** Material of the chord that starts at this point. */
  material: Uint8Array
  /** Unit normals at both ends of each chord, [r z] pairs; smooth across gentle bends, split at sharp ones. */
  startNormal: Float64Array
  endNormal: Float64Array
  /** Op that each chord belongs to. */
  op: Uint16Array
}

const ARC_STEP = (1.5 * Math.PI) / 180
const CUBIC_STEPS = 60
/** Chords that bend by less than this are shaded as one surface. */
const SMOOTH_BEND = (25 * Math.PI) / 180

/** Small builder: `shape(0, 0).line(20, 0).arc(26, 6, 0.41).material(1)…` */
export class ShapeBuilder {
  private ops: Shape['ops'] = []
  private current = 0
  private inside: number | undefined

  constructor(private start: [number, number]) {}

  line(r: number, z: number): this {
    return this.push({ kind: 'line', to: [r, z] })
  }
  arc(r: number, z: number, bulge: number): this {
    return this.push({ kind: 'arc', to: [r, z], bulge })
  }
  cubic(c1: [number, number], c2: [number, number], to: [number, number]): this {
    return this.push({ kind: 'cubic', c1, c2, to })
  }
  material(index: number): this {
    this.current = index
    return this
  }
  /** What follows is the inside of a hollow piece. */
  hollow(): this {
    this.inside = this.ops.length
    return this
  }
  done(): Shape {
    return { start: this.start, ops: this.ops, insideFrom: this.inside }
  }
  private push(op: Op): this {
    this.ops.push({ op, material: this.current })
    return this
  }
}

export const shape = (r: number, z: number) => new ShapeBuilder([r, z])

/** Points of one op, without its start. */
export function sampleOp(from: [number, number], op: Op): [number, number][] {
  if (op.kind === 'line') return [op.to]
  if (op.kind === 'cubic') {
    return Array.from({ length: CUBIC_STEPS }, (_, i) => {
      const t = (i + 1) / CUBIC_STEPS
      const s = 1 - t
      const at = (k: 0 | 1) =>
        s ** 3 * from[k] + 3 * s * s * t * op.c1[k] + 3 * s * t * t * op.c2[k] + t ** 3 * op.to[k]
      return i + 1 === CUBIC_STEPS ? op.to : [at(0), at(1)]
    })
  }
  const { centre, radius, startAngle, sweep } = arcGeometry(from, op.to, op.bulge)
  const n = Math.max(2, Math.ceil(Math.abs(sweep) / ARC_STEP))
  return Array.from({ length: n }, (_, i) => {
    const a = startAngle + (sweep * (i + 1)) / n
    return i + 1 === n ? op.to : [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)]
  })
}

function arcGeometry(from: [number, number], to: [number, number], bulge: number) {
  const sweep = 4 * Math.atan(bulge)
  const dr = to[0] - from[0]
  const dz = to[1] - from[1]
  const chord = Math.hypot(dr, dz)
  const radius = Math.abs(chord / (2 * Math.sin(sweep / 2)))
  // Centre: from the middle of the chord to its left for a counter-clockwise arc below a half turn.
  const offset = chord / 2 / Math.tan(sweep / 2)
  const centre: [number, number] = [
    (from[0] + to[0]) / 2 - (dz / chord) * offset,
    (from[1] + to[1]) / 2 + (dr / chord) * offset,
  ]
  return { centre, radius, sweep, startAngle: Math.atan2(from[1] - centre[1], from[0] - centre[0]) }
}

/** The whole chain; with `outsideOnly` the part before the inside of a hollow piece. */
export function chainOf(shape: Shape, outsideOnly = false): Chain {
  const points: [number, number][] = [shape.start]
  const material: number[] = []
  const opOf: number[] = []
  let from = shape.start
  const ops = outsideOnly && shape.insideFrom !== undefined ? shape.ops.slice(0, shape.insideFrom) : shape.ops
  ops.forEach(({ op, material: m }, k) => {
    for (const p of sampleOp(from, op)) {
      points.push(p)
      material.push(m)
      opOf.push(k)
    }
    from = op.to
  })
  const n = points.length - 1
  const chain: Chain = {
    r: Float64Array.from(points, (p) => p[0]),
    z: Float64Array.from(points, (p) => p[1]),
    material: Uint8Array.from([...material, 0]),
    startNormal: new Float64Array(2 * n),
    endNormal: new Float64Array(2 * n),
    op: Uint16Array.from([...opOf, 0]),
  }
  const normal = (k: number): [number, number] => {
    const dr = points[k + 1]![0] - points[k]![0]
    const dz = points[k + 1]![1] - points[k]![1]
    const l = Math.hypot(dr, dz)
    return [dz / l, -dr / l]
  }
  for (let k = 0; k < n; k++) {
    const here = normal(k)
    const blend = (other: number): [number, number] => {
      if (other < 0 || other >= n) return here
      const there = normal(other)
      if (here[0] * there[0] + here[1] * there[1] < Math.cos(SMOOTH_BEND)) return here
      const sum: [number, number] = [here[0] + there[0], here[1] + there[1]]
      const l = Math.hypot(...sum)
      return [sum[0] / l, sum[1] / l]
    }
    chain.startNormal.set(blend(k - 1), 2 * k)
    chain.endNormal.set(blend(k + 1), 2 * k)
  }
  return chain
}

/** Volume of the revolved chain, mm³ (sum of frusta). */
export function chainVolume({ r, z }: Pick<Chain, 'r' | 'z'>): number {
  let v = 0
  for (let i = 0; i + 1 < r.length; i++) {
    v += (Math.PI * (z[i + 1]! - z[i]!) * (r[i]! ** 2 + r[i]! * r[i + 1]! + r[i + 1]! ** 2)) / 3
  }
  return v
}

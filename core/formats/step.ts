import { derivativeOn, endOf, startOf, type ArcSegment, type Segment } from '../profile/segments'
import { real, StepEntities, stepString } from './step-text'
import { encodeText } from './text'

export const step = {
  name: 'STEP',
  extension: 'step',
  mediaType: 'model/step',
  toBytes: writeStep,
} as const

/** What a file says of itself; the time stamp is passed in, so that the same piece gives the same bytes. */
export interface StepFacts {
  name: string
  /** ISO 8601. */
  timeStamp: string
}

/** Ends of the half-profile nearer to each other, or arcs' centres nearer to the axis, than this, mm, are one. */
const SAME_MM = 1e-9

/** A revolved solid: its half-profile closed and outwards oriented, from the axis to the axis. */
export interface StepSolid {
  name: string
  segments: readonly Segment[]
}

/**
 * Revolved half-profiles as exact solids (ISO 10303-21, AP214: one MANIFOLD_SOLID_BREP each, in mm): planes, cylinders, cones,
 * spheres and tori where lines and arcs are revolved, surfaces of revolution of the Bézier curve elsewhere. Each face runs
 * once round: its loop goes along the first circle, up the seam, back along the last circle and down the seam.
 */
export function writeStep(solids: readonly StepSolid[], facts: StepFacts): Uint8Array<ArrayBuffer> {
  const e = new StepEntities()
  const breps = solids.map(({ name, segments }) => {
    const rows = segments.filter((s) => distance(startOf(s), endOf(s)) > SAME_MM || s.kind !== 'line')
    const closed = e.addOwn(`CLOSED_SHELL('',(${shell(e, rows).join(',')}))`)
    return e.addOwn(`MANIFOLD_SOLID_BREP(${stepString(name)},${closed})`)
  })
  product(e, breps, facts.name)
  return encodeText(`ISO-10303-21;
HEADER;
FILE_DESCRIPTION((${stepString('Solid of revolution in millimetres, axis z, up')}),'2;1');
FILE_NAME(${stepString(`${facts.name}.step`)},${stepString(facts.timeStamp)},(''),(''),'Baldacchino','Baldacchino','');
FILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 10303 214 1 1 1 1 }'));
ENDSEC;
DATA;
${e.text()}
ENDSEC;
END-ISO-10303-21;
`)
}

const distance = (p: readonly [number, number], q: readonly [number, number]) =>
  Math.hypot(p[0] - q[0], p[1] - q[1])

/** One ring of the solid where two faces meet: its circle as an edge; a pole has none. */
interface Ring {
  r: number
  vertex: string
  circle: string | null
}

function shell(e: StepEntities, rows: readonly Segment[]): string[] {
  const z = e.direction(0, 0, 1)
  const x = e.direction(1, 0, 0)
  const ring = (r: number, height: number): Ring => {
    const vertex = e.addOwn(`VERTEX_POINT('',${e.point(r, 0, height)})`)
    if (r === 0) return { r, vertex, circle: null }
    const curve = e.addOwn(`CIRCLE('',${e.placement(e.point(0, 0, height), z, x)},${real(r)})`)
    return { r, vertex, circle: e.addOwn(`EDGE_CURVE('',${vertex},${vertex},${curve},.T.)`) }
  }
  const rings = [ring(0, startOf(rows[0]!)[1])]
  rows.forEach((s, k) => {
    const [r, height] = endOf(s)
    rings.push(ring(k === rows.length - 1 ? 0 : r, height))
  })
  return rows.map((s, k) => face(e, s, rings[k]!, rings[k + 1]!))
}

function face(e: StepEntities, s: Segment, from: Ring, to: Ring): string {
  const oriented = (edge: string, forward: boolean) => e.addOwn(`ORIENTED_EDGE('',*,*,${edge},${forward ? '.T.' : '.F.'})`) // prettier-ignore
  const loop = (edges: string[]) => e.addOwn(`EDGE_LOOP('',(${edges.join(',')}))`)
  const [, dz] = [endOf(s)[0] - startOf(s)[0], endOf(s)[1] - startOf(s)[1]]
  if (s.kind === 'line' && dz === 0) {
    // A disc or a ring: circles alone, the larger one outside.
    const circles = [from, to]
      .map(({ r, circle }, k) => ({ r, loop: circle && loop([oriented(circle, k === 0)]) }))
      .filter((c) => c.loop)
      .sort((a, b) => b.r - a.r)
    const bounds = circles.map((c, k) => e.addOwn(`${k === 0 ? 'FACE_OUTER_BOUND' : 'FACE_BOUND'}('',${c.loop!},.T.)`)) // prettier-ignore
    const up = endOf(s)[0] < startOf(s)[0] ? 1 : -1
    const plane = e.addOwn(`PLANE('',${e.placement(e.point(0, 0, startOf(s)[1]), e.direction(0, 0, up), e.direction(1, 0, 0))})`) // prettier-ignore
    return e.addOwn(`ADVANCED_FACE('',(${bounds.join(',')}),${plane},.T.)`)
  }
  const seam = e.addOwn(`EDGE_CURVE('',${from.vertex},${to.vertex},${profileCurve(e, s)},.T.)`)
  const edges = [
    ...(from.circle ? [oriented(from.circle, true)] : []),
    oriented(seam, true),
    ...(to.circle ? [oriented(to.circle, false)] : []),
    oriented(seam, false),
  ]
  const bound = e.addOwn(`FACE_OUTER_BOUND('',${loop(edges)},.T.)`)
  const { surface, outwards } = surfaceOf(e, s)
  return e.addOwn(`ADVANCED_FACE('',(${bound}),${surface},${outwards ? '.T.' : '.F.'})`)
}

/** The segment as a curve in the plane y = 0, run as the half-profile runs. */
function profileCurve(e: StepEntities, s: Segment): string {
  const [r, z] = startOf(s)
  if (s.kind === 'line') {
    const [dr, dz] = derivativeOn(s, 0)
    const size = Math.hypot(dr, dz)
    const along = e.add(`VECTOR('',${e.direction(dr / size, 0, dz / size)},1.)`)
    return e.addOwn(`LINE('',${e.point(r, 0, z)},${along})`)
  }
  if (s.kind === 'arc') {
    const { centre, radius, sweep } = s.arc
    // From x to z a circle turns about -y.
    const axis = e.direction(0, sweep > 0 ? -1 : 1, 0)
    return e.addOwn(`CIRCLE('',${e.placement(e.point(centre[0], 0, centre[1]), axis, e.direction(1, 0, 0))},${real(radius)})`) // prettier-ignore
  }
  const c = s.cubic
  const poles = [0, 2, 4, 6].map((i) => e.point(c[i]!, 0, c[i + 1]!))
  return e.addOwn(`B_SPLINE_CURVE_WITH_KNOTS('',3,(${poles.join(',')}),.UNSPECIFIED.,.F.,.F.,(4,4),(0.,1.),.UNSPECIFIED.)`) // prettier-ignore
}

/** The curve that a surface of revolution sweeps: of a circle that crosses the axis only its arc. */
function sweptCurve(e: StepEntities, s: Segment): string {
  const curve = profileCurve(e, s)
  if (s.kind !== 'arc') return curve
  // Its parameter is the angle from x, turning as the way does.
  const { from, sweep } = s.arc
  const start = sweep > 0 ? from : -from
  const ends = [start, start + Math.abs(sweep)].map((v) => `(PARAMETER_VALUE(${real(v)}))`)
  return e.addOwn(`TRIMMED_CURVE('',${curve},${ends.join(',')},.T.,.PARAMETER.)`)
}

/** The surface of a face, and whether its own normal points out of the solid. */
function surfaceOf(e: StepEntities, s: Segment): { surface: string; outwards: boolean } {
  const z = e.direction(0, 0, 1)
  const x = e.direction(1, 0, 0)
  if (s.kind === 'line') {
    const [[ar, az], [br, bz]] = [startOf(s), endOf(s)]
    const outwards = bz > az
    if (ar === br) return { surface: e.addOwn(`CYLINDRICAL_SURFACE('',${e.placement(e.point(0, 0, az), z, x)},${real(ar)})`), outwards } // prettier-ignore
    // Placed at its lower end, opening upwards or, turned over, downwards: the half angle is positive.
    const [low, high] = az < bz ? [startOf(s), endOf(s)] : [endOf(s), startOf(s)]
    const widens = high[0] > low[0]
    const [at, axis] = widens ? [low, z] : [high, e.direction(0, 0, -1)]
    const angle = Math.atan2(Math.abs(high[0] - low[0]), high[1] - low[1])
    return { surface: e.addOwn(`CONICAL_SURFACE('',${e.placement(e.point(0, 0, at[1]), axis, x)},${real(at[0])},${real(angle)})`), outwards } // prettier-ignore
  }
  if (s.kind === 'arc') {
    const plain = arcSurface(e, s, z, x)
    if (plain) return { surface: plain, outwards: s.arc.sweep > 0 }
  }
  const axis = e.add(`AXIS1_PLACEMENT('',${e.point(0, 0, 0)},${z})`)
  return { surface: e.addOwn(`SURFACE_OF_REVOLUTION('',${sweptCurve(e, s)},${axis})`), outwards: true }
}

/** A sphere or a torus; null where the circle crosses the axis, so that its torus would cross itself. */
function arcSurface(e: StepEntities, { arc }: ArcSegment, z: string, x: string): string | null {
  const { centre, radius } = arc
  const at = e.placement(e.point(0, 0, centre[1]), z, x)
  if (Math.abs(centre[0]) <= SAME_MM * Math.max(1, radius))
    return e.addOwn(`SPHERICAL_SURFACE('',${at},${real(radius)})`)
  if (centre[0] <= radius) return null
  return e.addOwn(`TOROIDAL_SURFACE('',${at},${real(centre[0])},${real(radius)})`)
}

/** What makes a part of the solid: product, shape, unit and precision. */
function product(e: StepEntities, solids: readonly string[], name: string): void {
  const title = stepString(name)
  const application = e.add(`APPLICATION_CONTEXT('core data for automotive mechanical design processes')`)
  e.addOwn(
    `APPLICATION_PROTOCOL_DEFINITION('international standard','automotive_design',2000,${application})`,
  )
  const context = e.add(`PRODUCT_CONTEXT('',${application},'mechanical')`)
  const part = e.addOwn(`PRODUCT(${title},${title},'',(${context}))`)
  e.addOwn(`PRODUCT_RELATED_PRODUCT_CATEGORY('part',$,(${part}))`)
  const formation = e.addOwn(`PRODUCT_DEFINITION_FORMATION('','',${part})`)
  const design = e.add(`PRODUCT_DEFINITION_CONTEXT('part definition',${application},'design')`)
  const definition = e.addOwn(`PRODUCT_DEFINITION('design','',${formation},${design})`)
  const shape = e.addOwn(`PRODUCT_DEFINITION_SHAPE('','',${definition})`)
  const length = e.add(`(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.))`)
  const angle = e.add(`(NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.))`)
  const solidAngle = e.add(`(NAMED_UNIT(*)SI_UNIT($,.STERADIAN.)SOLID_ANGLE_UNIT())`)
  const precision = e.add(`UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(1.E-6),${length},'distance_accuracy_value','edge and vertex precision')`) // prettier-ignore
  const units = e.add(`(GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((${precision}))GLOBAL_UNIT_ASSIGNED_CONTEXT((${length},${angle},${solidAngle}))REPRESENTATION_CONTEXT('part','3D'))`) // prettier-ignore
  const origin = e.placement(e.point(0, 0, 0), e.direction(0, 0, 1), e.direction(1, 0, 0))
  const representation = e.addOwn(
    `ADVANCED_BREP_SHAPE_REPRESENTATION(${title},(${[origin, ...solids].join(',')}),${units})`,
  )
  e.addOwn(`SHAPE_DEFINITION_REPRESENTATION(${shape},${representation})`)
}

import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
  type ISplineEntity,
} from 'dxf-parser'
import { CoreError } from '../errors'
import { arcOf } from '../profile/arc'
import { lineSegment, pointOn, type Segment } from '../profile/segments'
import { bezierPieces } from './bspline'
import { chainsOf } from './chain'
import { MOST_ELEMENTS, refusal, type DrawnCurve } from './drawn'

/** $INSUNITS of the DXF reference: inches, feet, mm, cm, m. */
const MM: Record<number, number> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000 }
/** The layer of this app's own files. */
const OURS = 'HALF-PROFILE'

/**
 * The longest chain of a DXF file (ASCII): lines, arcs, circles, polylines with bulges, and splines up to degree 3, joined where
 * their ends meet.
 * @throws CoreError `bad-dxf`, `nothing-drawn`, `bad-spline`, `too-much`
 */
export function readDxf(text: string): DrawnCurve {
  if (text.startsWith('AutoCAD Binary DXF'))
    throw new CoreError(refusal('bad-dxf', 'The file is binary DXF. Save it as ASCII DXF.'))
  const dxf = parsed(text)
  const all = dxf?.entities ?? []
  if (all.length > MOST_ELEMENTS) throw new CoreError(refusal('too-much', `The file holds ${all.length} elements, far more than a profile. Export the half-profile alone.`)) // prettier-ignore
  const ours = all.filter((e) => e.layer === OURS)
  const placed = ours.length > 0
  const others = new Map<string, number>()
  const segments = (placed ? ours : all).flatMap((entity) => {
    const read = segmentsOf(entity)
    if (!read) others.set(entity.type, (others.get(entity.type) ?? 0) + 1)
    return read ?? []
  })
  if (
    segments.some((s) =>
      [...(s.kind === 'arc' ? [...s.ends, s.arc.radius] : s.cubic)].some((v) => !Number.isFinite(v)),
    )
  )
    // prettier-ignore
    throw new CoreError(refusal('not-finite', 'The file holds numbers that are none. Export it again.'))
  const chains = chainsOf(segments)
  const longest = chains.find((chain) => !onAxis(chain)) ?? null
  if (!longest)
    throw new CoreError(refusal('nothing-drawn', `The file draws no line, arc, polyline or spline${others.size ? `, only ${[...others.keys()].join(', ')}` : ''}. Export the half-profile as one of these.`)) // prettier-ignore
  const rest = chains.length - 1 - chains.filter(onAxis).length
  const notes = [
    ...(rest > 0 ? [`Only the longest chain was taken; ${rest} others were left.`] : []),
    ...(others.size ? [`Left out: ${[...others].map(([kind, n]) => `${n} × ${kind}`).join(', ')}.`] : []),
  ]
  const unit = Number((dxf?.header as Record<string, unknown> | undefined)?.['$INSUNITS'])
  return { segments: longest, mmPerUnit: MM[unit] ?? null, placed, notes }
}

/** Lines along x = 0 are the axis, not the profile. */
const onAxis = (chain: readonly Segment[]) => chain.every((s) => s.kind === 'line' && s.cubic[0] === 0 && s.cubic[6] === 0) // prettier-ignore

function parsed(text: string) {
  try {
    return new DxfParser().parseSync(text)
  } catch (error) {
    const why = error instanceof Error ? error.message.slice(0, 120) : ''
    throw new CoreError(refusal('bad-dxf', `The file is no readable DXF${why ? ` (${why})` : ''}. Save it as ASCII DXF, R12 or R2000.`)) // prettier-ignore
  }
}

/** Null for a kind that is no part of a curve. */
function segmentsOf(entity: IEntity): Segment[] | null {
  switch (entity.type) {
    case 'LINE': {
      const [a, b] = (entity as ILineEntity).vertices
      return a && b ? [lineSegment([a.x, a.y], [b.x, b.y], 0)] : []
    }
    case 'ARC': {
      const { center, radius, startAngle, endAngle } = entity as IArcEntity
      const sweep = (endAngle - startAngle + 4 * Math.PI) % (2 * Math.PI)
      return arcs([center.x, center.y], radius, startAngle, sweep)
    }
    case 'CIRCLE': {
      const { center, radius } = entity as ICircleEntity
      return arcs([center.x, center.y], radius, -Math.PI / 2, 2 * Math.PI)
    }
    case 'LWPOLYLINE':
    case 'POLYLINE': {
      const { vertices, shape } = entity as ILwpolylineEntity & IPolylineEntity
      const points = (vertices ?? []).map((v) => ({ x: v.x, y: v.y, bulge: v.bulge || 0 }))
      if (shape && points.length > 1) points.push({ ...points[0]!, bulge: 0 })
      return points.slice(1).flatMap((to, i): Segment[] => {
        const from = points[i]!
        const [a, b] = [[from.x, from.y], [to.x, to.y]] as [[number, number], [number, number]] // prettier-ignore
        if (a[0] === b[0] && a[1] === b[1]) return []
        if (Math.abs(from.bulge) < 1e-9) return [lineSegment(a, b, 0)]
        return [{ kind: 'arc', index: 0, ends: [...a, ...b], arc: arcOf(a, b, from.bulge) }]
      })
    }
    case 'SPLINE': {
      const { degreeOfSplineCurve = 3, controlPoints = [], knotValues = [], fitPoints = [], rational } = entity as ISplineEntity & { rational?: boolean } // prettier-ignore
      if (rational) throw new CoreError(refusal('bad-spline', 'The file holds a rational spline (NURBS), whose weights can’t be read. Export it as arcs and plain splines.')) // prettier-ignore
      if (controlPoints.length === 0 && fitPoints.length > 1)
        return fitPoints
          .slice(1)
          .map((p, i) => lineSegment([fitPoints[i]!.x, fitPoints[i]!.y], [p.x, p.y], 0))
      return bezierPieces(degreeOfSplineCurve, controlPoints.map((p) => [p.x, p.y] as const), knotValues).map((cubic): Segment => ({ kind: 'cubic', index: 0, cubic })) // prettier-ignore
    }
    default:
      return null
  }
}

/** A circle in halves, as its ends must differ. */
function arcs(centre: [number, number], radius: number, from: number, sweep: number): Segment[] {
  const parts = sweep > 1.9 * Math.PI ? 2 : 1
  return Array.from({ length: parts }, (_, k): Segment => {
    const arc = { centre, radius, from: from + (sweep * k) / parts, sweep: sweep / parts }
    const whole: Segment = { kind: 'arc', index: 0, ends: [0, 0, 0, 0], arc }
    const at = (t: number) => [centre[0] + radius * Math.cos(arc.from + arc.sweep * t), centre[1] + radius * Math.sin(arc.from + arc.sweep * t)] as const // prettier-ignore
    return { ...whole, ends: [...at(0), ...at(1)] }
  }).filter((s) => pointOn(s, 0.5).every(Number.isFinite))
}

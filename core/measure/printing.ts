import type { Turn } from '../solid/revolve'
import { derivativeOn, pointOn, type Segment } from '../profile/segments'

/** A stretch of the surface that leans out over nothing. */
export interface Overhang {
  /** Heights, mm. */
  from: number
  to: number
  /** Steepest lean found in it, radians from upright; a quarter turn is a level ceiling. */
  most: number
  /** True for the inside of a hollow piece. */
  inside: boolean
}

/** Places looked at along each segment. */
const SAMPLES = 64
/** What lies this near to the lowest place, as a share of the height, rests on the plate. */
const ON_PLATE = 1e-4

/**
 * Where a piece printed upright leans out by more than an angle from upright: surface that looks down. The foot on the plate is
 * none. Stretches that follow each other along the half-profile are one.
 * @param segments closed and outwards oriented
 * @param limit radians from upright, in 0..π/2
 * @param insideFrom index of the first segment of the inside, where there is one
 */
export function overhangs(segments: readonly Segment[], limit: number, insideFrom = Infinity): Overhang[] {
  const all = segments.flatMap((s) => [pointOn(s, 0)[1], pointOn(s, 1)[1]])
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const plate = low + ON_PLATE * (high - low)
  const out: Overhang[] = []
  let open: Overhang | null = null
  segments.forEach((s, k) => {
    const inside = k >= insideFrom
    const steps = s.kind === 'line' ? 1 : SAMPLES
    for (let i = 0; i < steps; i++) {
      const [dr, dz] = derivativeOn(s, (i + 0.5) / steps)
      const [a, b] = [pointOn(s, i / steps)[1], pointOn(s, (i + 1) / steps)[1]]
      // The outward normal is (dz, -dr): it looks down where r grows, by so much from level.
      const lean = Math.atan2(dr, Math.abs(dz))
      // A lean of exactly the limit is allowed; rounding is not what decides.
      const hangs = lean > limit + 1e-9 && Math.max(a, b) > plate
      if (hangs && open && open.inside === inside) {
        open.from = Math.min(open.from, a, b)
        open.to = Math.max(open.to, a, b)
        open.most = Math.max(open.most, lean)
      } else if (hangs) {
        open = { from: Math.min(a, b), to: Math.max(a, b), most: lean, inside }
        out.push(open)
      } else open = null
    }
  })
  return out
}

/** A printer's room, mm. */
export interface Bed {
  width: number
  depth: number
  height: number
}

/** Breadth along x and y of a part of a turn that reaches from the axis to a radius, mm. */
export function boxOfTurn(radiusMm: number, { start, sweep }: Turn): [x: number, y: number] {
  const quarters = Array.from(
    { length: 8 },
    (_, k) => (Math.floor((2 * start) / Math.PI) + k) * (Math.PI / 2),
  )
  const angles = [start, ...quarters.filter((a) => a > start && a < start + sweep), start + sweep]
  const breadth = (along: (angle: number) => number) => {
    const places = [0, ...angles.map((a) => radiusMm * along(a))]
    return Math.max(...places) - Math.min(...places)
  }
  return [breadth(Math.cos), breadth(Math.sin)]
}

/** Whether what stands in a box fits a printer, turned as need be: standing, lying, or not at all. @param box mm, its height last */
export function boxFitsBed(
  [x, y, z]: readonly [number, number, number],
  bed: Bed,
): 'standing' | 'lying' | 'not' {
  const flat = (a: number, b: number) =>
    Math.min(a, b) <= Math.min(bed.width, bed.depth) && Math.max(a, b) <= Math.max(bed.width, bed.depth)
  if (flat(x, y) && z <= bed.height) return 'standing'
  return (flat(x, z) && y <= bed.height) || (flat(y, z) && x <= bed.height) ? 'lying' : 'not'
}

/** Whether a round piece fits a printer: standing, lying along one of the plate's sides, or not at all. */
export function fitsBed(diameterMm: number, heightMm: number, bed: Bed): 'standing' | 'lying' | 'not' {
  const plate = [bed.width, bed.depth]
  if (diameterMm <= Math.min(...plate) && heightMm <= bed.height) return 'standing'
  const lies = heightMm <= Math.max(...plate) && diameterMm <= Math.min(...plate) && diameterMm <= bed.height
  return lies ? 'lying' : 'not'
}

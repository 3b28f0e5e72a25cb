/** A circular arc in the plane of the half-profile. */
export interface Arc {
  /** [r, z], mm. */
  centre: readonly [number, number]
  radius: number
  /** Direction from the centre to its start, and how far it turns from there: positive to the left of the way. Radians. */
  from: number
  sweep: number
}

type Pair = readonly [number, number]

/**
 * An arc is kept as its ends and its bulge: the tangent of a quarter of its sweep, positive when it turns to the left. One
 * number, without a unit, that neither moving nor scaling the ends touches. The same figure describes arcs in DXF
 * polylines (group code 42).
 */
export function arcOf([ar, az]: Pair, [br, bz]: Pair, bulge: number): Arc {
  const [dr, dz] = [br - ar, bz - az]
  const aside = (1 - bulge * bulge) / (4 * bulge)
  const centre = [(ar + br) / 2 - dz * aside, (az + bz) / 2 + dr * aside] as const
  return {
    centre,
    radius: (Math.hypot(dr, dz) * (1 + bulge * bulge)) / (4 * Math.abs(bulge)),
    from: Math.atan2(az - centre[1], ar - centre[0]),
    sweep: 4 * Math.atan(bulge),
  }
}

export function arcPoint({ centre, radius, from, sweep }: Arc, t: number): [number, number] {
  const a = from + sweep * t
  return [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)]
}

/** Derivative by the share t of the sweep. */
export function arcDerivative({ radius, from, sweep }: Arc, t: number): [number, number] {
  const a = from + sweep * t
  return [-radius * sweep * Math.sin(a), radius * sweep * Math.cos(a)]
}

/** An angle as the same direction within ±π. */
export function wrapAngle(a: number): number {
  return a - 2 * Math.PI * Math.round(a / (2 * Math.PI))
}

const directionOf = (a: Pair, b: Pair) => Math.atan2(b[1] - a[1], b[0] - a[0])

/** Bulge of the arc from a through p to b; 0 when they lie on a line. The chords turn at p by half the sweep. */
export function bulgeThrough(a: Pair, p: Pair, b: Pair): number {
  return Math.tan(wrapAngle(directionOf(p, b) - directionOf(a, p)) / 2)
}

/** Bulge of the arc that leaves a in a direction and ends at b. Between tangent and chord lies half the sweep. */
export function bulgeLeaving(a: Pair, b: Pair, direction: number): number {
  return Math.tan(wrapAngle(directionOf(a, b) - direction) / 2)
}

/** Bulge of the arc that starts at a and arrives at b in a direction. */
export function bulgeArriving(a: Pair, b: Pair, direction: number): number {
  return Math.tan(wrapAngle(direction - directionOf(a, b)) / 2)
}

/** Bulge of the arc of a radius from a to b that turns as `like` does and is as long as it (more or less than half a circle); null when the ends are farther apart than the circle is wide. */
export function bulgeOfRadius(a: Pair, b: Pair, radius: number, like: number): number | null {
  const half = Math.hypot(b[0] - a[0], b[1] - a[1]) / 2
  if (!(radius >= half) || half === 0) return null
  const quarter = Math.asin(half / radius) / 2
  const bulge = Math.tan(Math.abs(like) > 1 ? Math.PI / 2 - quarter : quarter)
  return like < 0 ? -bulge : bulge
}

/** Where, as a share of the sweep, the arc is farthest along a coordinate (0 = r, 1 = z), either way. */
export function arcExtremes({ from, sweep }: Arc, coordinate: 0 | 1): number[] {
  const out: number[] = []
  for (let k = -4; k <= 4; k++) {
    const angle = k * Math.PI + (coordinate === 1 ? Math.PI / 2 : 0)
    const t = (angle - from) / sweep
    if (t > 0 && t < 1) out.push(t)
  }
  return out
}

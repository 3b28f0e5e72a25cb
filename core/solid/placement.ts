/** Where a part stands: its own axis against the axis of the piece. Angles in radians. */
export interface Placement {
  /** Height of its origin, mm. */
  z: number
  /** Distance of its origin from the axis, mm; negative lies on the other side. */
  r: number
  /** About the axis of the piece, from +x towards +y. */
  azimuth: number
  /** How far its own axis leans outwards: 0 stands upright, a quarter turn points straight outwards. */
  lean: number
  /** About its own axis. */
  turn: number
}

export const ON_AXIS: Placement = { z: 0, r: 0, azimuth: 0, lean: 0, turn: 0 }

/** A 4 x 4 matrix, column after column. */
export type Matrix = [
  number, number, number, number, number, number, number, number,
  number, number, number, number, number, number, number, number,
] // prettier-ignore

/**
 * From a part's own frame to the piece's: turned about its own axis, leant outwards, moved out and up, and carried round
 * to its azimuth and on by `further`.
 */
export function placementMatrix({ z, r, azimuth, lean, turn }: Placement, further = 0): Matrix {
  const [ct, st] = [Math.cos(turn), Math.sin(turn)]
  const [cl, sl] = [Math.cos(lean), Math.sin(lean)]
  const [ca, sa] = [Math.cos(azimuth + further), Math.sin(azimuth + further)]
  // Columns of lean · turn: what becomes of the own x, y and z; then carried round.
  const round = (x: number, y: number, height: number) => [ca * x - sa * y, sa * x + ca * y, height] as const
  const x = round(cl * ct, st, -sl * ct)
  const y = round(-cl * st, ct, sl * st)
  const up = round(sl, 0, cl)
  const origin = round(r, 0, z)
  return [...x, 0, ...y, 0, ...up, 0, ...origin, 1]
}

/** Where a place of the part's own frame lies in the piece's. */
export function placed(m: Matrix, x: number, y: number, z: number): [number, number, number] {
  return [
    m[0] * x + m[4] * y + m[8] * z + m[12],
    m[1] * x + m[5] * y + m[9] * z + m[13],
    m[2] * x + m[6] * y + m[10] * z + m[14],
  ]
}

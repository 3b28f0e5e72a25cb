import { wrapAngle } from './arc'
import { bulgeOf, endAngle, jointsOf, straightness, type Joint } from './fit-joints'
import type { FittedRun } from './fit-partition'
import type { Chain, Primitive } from './fit-primitives'
import type { Cubic } from './hobby'

export interface SettleOptions {
  toleranceMm: number
  /** Standard deviation of the points across the curve. */
  noiseMm: number
  /** Ends that stay exactly where the first and the last point are. */
  held: { start?: boolean; end?: boolean }
  /** Points at which a joint is a corner, however little it turns. */
  corners: ReadonlySet<number>
}

/** Handles start at least this share of their chord long. */
const LEAST_HANDLE = 0.02

type Pair = readonly [number, number]

/** Where the direction of a cubic's end comes from. */
type Angle =
  | { from: 'parameter'; index: number }
  | { from: 'run'; run: number; end: 0 | 1 }
  | { from: 'fixed'; angle: number }

export interface Model {
  start: number[]
  /** Step of each parameter for difference quotients. */
  sizes: number[]
  joints: Joint[]
  /** Parameters of a joint's coordinates; -1: it stays, on the axis or held. */
  index: { r: number; z: number }[]
  kinds: Primitive['kind'][]
  /** Parameter of each arc's bulge. */
  bulge: number[]
  /** Of each cubic: its ends' directions and the parameters of the logarithms of its handles' lengths. */
  cubics: ({ angles: [Angle, Angle]; lengths: [number, number] } | null)[]
}

/** The unknowns of a curve made of these runs: joints' coordinates, bulges, handles and their directions. */
export function modelOf(
  chain: Chain,
  runs: readonly FittedRun[],
  { toleranceMm, held, corners }: SettleOptions,
): Model {
  const joints = jointsOf(chain, runs, corners)
  const size = extentOf(chain)
  const model: Model = {
    start: [], sizes: [], joints, index: [], bulge: [], cubics: [],
    kinds: runs.map((r) => r.shape.kind),
  } // prettier-ignore
  const parameter = (value: number, step: number) => {
    model.sizes.push(step)
    return model.start.push(value) - 1
  }
  const last = runs.length
  const stays = (k: number) => (k === 0 && held.start) || (k === last && held.end)
  joints.forEach((joint, k) => {
    if (stays(k)) {
      const i = k === 0 ? 0 : chain.r.length - 1
      joint.r = chain.r[i]!
      joint.z = chain.z[i]!
      model.index.push({ r: -1, z: -1 })
      return
    }
    const { r, z } = joint
    const line = runs[k - 1]
    const straight = line ? straightness(line, joints[k - 1]!, joint, toleranceMm) : null
    const before = model.index[k - 1]
    const share = (coordinate: 'r' | 'z') => {
      // Held with the joint before: exactly its coordinate.
      if (before![coordinate] < 0) joint[coordinate] = joints[k - 1]![coordinate]
      return before![coordinate]
    }
    const onAxis = (k === 0 || k === last) && r === 0
    model.index.push({
      r: onAxis
        ? -1
        : straight === 'upright' && joints[k - 1]!.r > 0
          ? share('r')
          : parameter(r, 1e-6 * size),
      z: straight === 'level' ? share('z') : parameter(z, 1e-6 * size),
    })
  })
  runs.forEach(({ shape }, k) => {
    model.bulge.push(shape.kind === 'arc' ? parameter(bulgeOf(chain, runs[k]!, shape), 1e-6) : -1)
  })
  // Directions that two cubics share at a joint.
  const shared = new Map<number, number>()
  runs.forEach(({ shape }, k) => {
    if (shape.kind !== 'cubic') {
      model.cubics.push(null)
      return
    }
    const c = shape.cubic
    const chord = Math.hypot(c[6] - c[0], c[7] - c[1])
    const angle = (end: 0 | 1): Angle => {
      const joint = k + end
      const own = endAngle(c, end)
      const beyond = runs[end === 0 ? k - 1 : k + 1]
      if (!joints[joint]!.smooth) return { from: 'parameter', index: parameter(own, 1e-6) }
      if (!beyond) return { from: 'fixed', angle: Math.abs(wrapAngle(own)) < Math.PI / 2 ? 0 : Math.PI }
      if (beyond.shape.kind !== 'cubic')
        return { from: 'run', run: end === 0 ? k - 1 : k + 1, end: end === 0 ? 1 : 0 }
      if (!shared.has(joint)) shared.set(joint, parameter(own, 1e-6))
      return { from: 'parameter', index: shared.get(joint)! }
    }
    model.cubics.push({
      angles: [angle(0), angle(1)],
      lengths: [
        parameter(Math.log(Math.max(Math.hypot(c[2] - c[0], c[3] - c[1]), LEAST_HANDLE * chord)), 1e-6),
        parameter(Math.log(Math.max(Math.hypot(c[6] - c[4], c[7] - c[5]), LEAST_HANDLE * chord)), 1e-6),
      ],
    })
  })
  return model
}

function extentOf({ r, z }: Chain): number {
  let [low, high, wide] = [Infinity, -Infinity, 0]
  for (let i = 0; i < r.length; i++) {
    low = Math.min(low, z[i]!)
    high = Math.max(high, z[i]!)
    wide = Math.max(wide, r[i]!)
  }
  return Math.max(high - low, wide)
}

/** Where a joint stands for given parameters. */
export function at(model: Model, x: ArrayLike<number>, joint: number): Pair {
  const { r, z } = model.index[joint]!
  const own = model.joints[joint]!
  return [r < 0 ? own.r : x[r]!, z < 0 ? own.z : x[z]!]
}

/** Direction of a line or an arc at one of its ends. */
export function runAngle(model: Model, x: ArrayLike<number>, run: number, end: 0 | 1): number {
  const [a, b] = [at(model, x, run), at(model, x, run + 1)]
  const chord = Math.atan2(b[1] - a[1], b[0] - a[0])
  if (model.kinds[run] === 'line') return chord
  const half = 2 * Math.atan(x[model.bulge[run]!]!)
  return end === 0 ? chord - half : chord + half
}

/** The cubic of a run for given parameters. */
export function cubicOf(model: Model, x: ArrayLike<number>, run: number): Cubic {
  const { angles, lengths } = model.cubics[run]!
  const [a, b] = [at(model, x, run), at(model, x, run + 1)]
  const [u, v] = angles.map(
    (angle) =>
    angle.from === 'fixed' ? angle.angle : angle.from === 'parameter' ? x[angle.index]! : runAngle(model, x, angle.run, angle.end), // prettier-ignore
  ) as [number, number]
  const [l, m] = [Math.exp(x[lengths[0]]!), Math.exp(x[lengths[1]]!)]
  return [
    a[0], a[1],
    a[0] + l * Math.cos(u), a[1] + l * Math.sin(u),
    b[0] - m * Math.cos(v), b[1] - m * Math.sin(v),
    b[0], b[1],
  ] // prettier-ignore
}

/** The parameters that a run's shape depends on. */
export function parametersOf(model: Model, run: number): number[] {
  const own = [run, run + 1].flatMap((k) => [model.index[k]!.r, model.index[k]!.z])
  const cubic = model.cubics[run]
  const all = [...own, model.bulge[run]!]
  if (cubic) {
    all.push(...cubic.lengths)
    for (const angle of cubic.angles) {
      if (angle.from === 'parameter') all.push(angle.index)
      if (angle.from === 'run') all.push(...parametersOf(model, angle.run))
    }
  }
  return [...new Set(all.filter((i) => i >= 0))]
}

/** Length of a run's chord before anything is settled, mm. */
export function chordOf({ joints }: Model, run: number): number {
  const [a, b] = [joints[run]!, joints[run + 1]!]
  return Math.hypot(b.r - a.r, b.z - a.z)
}

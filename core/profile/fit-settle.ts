import { solvePositive } from '../least-squares'
import { arcOf, wrapAngle } from './arc'
import { distancesFrom, largestOf, nearestOn, thinned, type Chain, type Primitive } from './fit-primitives'
import type { FittedRun } from './fit-partition'
import type { Cubic } from './hobby'
import { derivativeAt, pointAt } from './segments'

/** A joint of settled runs. */
export interface SettledNode {
  r: number
  z: number
  smooth: boolean
}

export interface SettleOptions {
  toleranceMm: number
  /** Standard deviation of the points across the curve. */
  noiseMm: number
  /** Ends that stay exactly where the first and the last point are. */
  held: { start?: boolean; end?: boolean }
  /** Points at which a joint is a corner, however little it turns. */
  corners: ReadonlySet<number>
}

/** The run from one settled node to the next. */
export type SettledRun = { kind: 'line' } | { kind: 'arc'; bulge: number } | { kind: 'cubic'; cubic: Cubic }

export interface Settled {
  nodes: SettledNode[]
  runs: SettledRun[]
}

/** Joints that turn by less than this, radians (8°), are smooth; two lines never are. */
const SMOOTH_TURN = (8 * Math.PI) / 180
/** Lines are laid level or upright when that moves their ends by no more than the tolerance, and by less than this, radians (1.5°). */
const NEAR_STRAIGHT = (1.5 * Math.PI) / 180
/** A smooth end on the axis must be this near to level, radians (20°). */
const POLE_TURN = (20 * Math.PI) / 180
/** Points of one run that count. */
const RUN_POINTS = 150
/** A tangent that is off may move the run's points by this share of their noise. */
const TANGENT_SHARE = 1e-3
/** A joint is held to where it was found by this share of its shorter run: only what else leaves it free. */
const SLIDE_SHARE = 0.15
/** Handles start at least this share of their chord long, */
const LEAST_HANDLE = 0.02
/** … and are held to what they started with by a factor of e to this. */
const HANDLE_SLACK = 1.5
const ROUNDS = 7

/**
 * Joins the runs of a partition: one least squares over all joints, bulges and handles, in which joints that hardly turn
 * have one tangent, near-level and near-upright lines are exactly so, and ends on the axis stay there.
 */
export function settle(chain: Chain, runs: readonly FittedRun[], options: SettleOptions): Settled {
  const { toleranceMm, noiseMm } = options
  const model = modelOf(chain, runs, options)
  const sigma = Math.max(noiseMm, toleranceMm / 5)
  const blocks = [
    ...runs.map((run, k) => runBlock(chain, run, k, model, sigma)),
    ...tangentBlocks(runs, model, sigma),
    ...slideBlocks(runs, model, sigma),
    ...handleBlocks(model),
  ]
  const x = minimise(model.start, blocks, model.sizes)
  return {
    nodes: model.joints.map(({ smooth }, k) => ({ r: at(model, x, k)[0], z: at(model, x, k)[1], smooth })),
    runs: runs.map((run, k): SettledRun => {
      if (run.shape.kind === 'line') return { kind: 'line' }
      if (run.shape.kind === 'arc') return { kind: 'arc', bulge: x[model.bulge[k]!]! }
      return { kind: 'cubic', cubic: cubicOf(model, x, k) }
    }),
  }
}

/** So many points beside a joint may belong to either run. */
const BESIDE = 6

/** Largest deviation of the points of each settled run, mm, and where. */
export function deviations(
  chain: Chain,
  runs: readonly FittedRun[],
  { nodes, runs: settled }: Settled,
  window: number,
) {
  const shapes = settled.map((run, k) => primitiveOf(run, nodes[k]!, nodes[k + 1]!))
  return runs.map(({ from, to }, k) => {
    const distances = distancesFrom(shapes[k]!, chain, thinned(from, to, Infinity))
    for (const [beside, first] of [
      [k - 1, from],
      [k + 1, Math.max(from, to - BESIDE)],
    ] as const) {
      if (!shapes[beside]) continue
      const other = distancesFrom(
        shapes[beside],
        chain,
        thinned(first, Math.min(to, first + BESIDE), Infinity),
      )
      other.forEach((d, i) => {
        if (Math.abs(d) < Math.abs(distances[first - from + i]!)) distances[first - from + i] = d
      })
    }
    const { most: off, where } = largestOf(distances, window)
    const most = Math.max(off, detourOf(shapes[k]!, chain, from, to))
    return { most, where: from + where, squares: distances.reduce((s, d) => s + d * d, 0) }
  })
}

const LENGTH_CHORDS = 24

/**
 * How far a cubic swings out where no point sees it, mm: a loop or a hook between two points makes it longer than the
 * way of the points by twice as much at least.
 */
function detourOf(shape: Primitive, { r, z }: Chain, from: number, to: number): number {
  if (shape.kind !== 'cubic') return 0
  let [length, way] = [0, 0]
  let before = pointAt(shape.cubic, 0)
  for (let k = 1; k <= LENGTH_CHORDS; k++) {
    const p = pointAt(shape.cubic, k / LENGTH_CHORDS)
    length += Math.hypot(p[0] - before[0], p[1] - before[1])
    before = p
  }
  for (let i = from + 1; i <= to; i++) way += Math.hypot(r[i]! - r[i - 1]!, z[i]! - z[i - 1]!)
  // The joints lie up to a point's distance beyond the run's own ends.
  const ends = Math.hypot(shape.cubic[0] - r[from]!, shape.cubic[1] - z[from]!) + Math.hypot(shape.cubic[6] - r[to]!, shape.cubic[7] - z[to]!) // prettier-ignore
  return (length - way - ends) / 2
}

function primitiveOf(run: SettledRun, a: SettledNode, b: SettledNode): Primitive {
  if (run.kind === 'cubic') return run
  if (run.kind === 'arc') return { kind: 'arc', ...arcOf([a.r, a.z], [b.r, b.z], run.bulge) }
  const length = Math.hypot(b.r - a.r, b.z - a.z) || 1
  return { kind: 'line', at: [a.r, a.z], along: [(b.r - a.r) / length, (b.z - a.z) / length] }
}

type Pair = readonly [number, number]

/** Where the direction of a cubic's end comes from. */
type Angle =
  | { from: 'parameter'; index: number }
  | { from: 'run'; run: number; end: 0 | 1 }
  | { from: 'fixed'; angle: number }

interface Model {
  start: number[]
  /** Step of each parameter for difference quotients. */
  sizes: number[]
  joints: { r: number; z: number; smooth: boolean }[]
  /** Parameters of a joint's coordinates; -1: it stays, on the axis or held. */
  index: { r: number; z: number }[]
  kinds: Primitive['kind'][]
  /** Parameter of each arc's bulge. */
  bulge: number[]
  /** Of each cubic: its ends' directions and the parameters of the logarithms of its handles' lengths. */
  cubics: ({ angles: [Angle, Angle]; lengths: [number, number] } | null)[]
}

function modelOf(
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

function straightness(
  { shape }: FittedRun,
  a: Pairish,
  b: Pairish,
  tolerance: number,
): 'level' | 'upright' | null {
  if (shape.kind !== 'line') return null
  const [dr, dz] = [Math.abs(b.r - a.r), Math.abs(b.z - a.z)]
  if (dz <= 2 * tolerance && Math.atan2(dz, dr) < NEAR_STRAIGHT) return 'level'
  return dr <= 2 * tolerance && Math.atan2(dr, dz) < NEAR_STRAIGHT ? 'upright' : null
}

interface Pairish {
  r: number
  z: number
}

function jointsOf(chain: Chain, runs: readonly FittedRun[], corners: ReadonlySet<number>): Model['joints'] {
  const last = chain.r.length - 1
  const place = (i: number): Pair => [chain.r[i]!, chain.z[i]!]
  const joints: Model['joints'] = []
  for (let k = 0; k <= runs.length; k++) {
    const [before, after] = [runs[k - 1], runs[k]]
    const i = after?.from ?? last
    if (!before || !after) {
      const run = (before ?? after)!
      const end = before ? 1 : 0
      const onAxis = chain.r[i] === 0
      const p = onAxis ? place(i) : onto(run.shape, place(i))
      const turn = Math.abs(Math.sin(directionAt(chain, run, end)))
      joints.push({ r: onAxis ? 0 : p[0], z: p[1], smooth: onAxis && run.shape.kind !== 'line' && turn < Math.sin(POLE_TURN) }) // prettier-ignore
      continue
    }
    const turn = wrapAngle(directionAt(chain, after, 0) - directionAt(chain, before, 1))
    const lines = before.shape.kind === 'line' && after.shape.kind === 'line'
    const crossing = lines ? crossingOf(before.shape, after.shape) : null
    const [p, q] = [onto(before.shape, place(i)), onto(after.shape, place(i))]
    const [r, z] = crossing ?? [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]
    joints.push({ r: Math.max(0, r), z, smooth: !lines && !corners.has(i) && Math.abs(turn) < SMOOTH_TURN })
  }
  return joints
}

function crossingOf(a: Primitive, b: Primitive): Pair | null {
  if (a.kind !== 'line' || b.kind !== 'line') return null
  const det = a.along[0] * b.along[1] - a.along[1] * b.along[0]
  if (Math.abs(det) < 0.05) return null
  const [dr, dz] = [b.at[0] - a.at[0], b.at[1] - a.at[1]]
  const t = (dr * b.along[1] - dz * b.along[0]) / det
  return [a.at[0] + t * a.along[0], a.at[1] + t * a.along[1]]
}

/** The place of a shape nearest to a point. */
function onto(shape: Primitive, [r, z]: Pair): Pair {
  if (shape.kind === 'line') {
    const t = (r - shape.at[0]) * shape.along[0] + (z - shape.at[1]) * shape.along[1]
    return [shape.at[0] + t * shape.along[0], shape.at[1] + t * shape.along[1]]
  }
  if (shape.kind === 'arc') {
    const [dr, dz] = [r - shape.centre[0], z - shape.centre[1]]
    const k = shape.radius / (Math.hypot(dr, dz) || 1)
    return [shape.centre[0] + k * dr, shape.centre[1] + k * dz]
  }
  const c = shape.cubic
  const nearStart = Math.hypot(c[0] - r, c[1] - z) < Math.hypot(c[6] - r, c[7] - z)
  return pointAt(c, nearestOn(c, r, z, nearStart ? 0 : 1))
}

/** Direction of the way at an end of a run, radians. */
function directionAt({ r, z }: Chain, { from, to, shape }: FittedRun, end: 0 | 1): number {
  if (shape.kind === 'cubic') return endAngle(shape.cubic, end)
  const [a, b] = [from, to]
  const chord = Math.atan2(z[b]! - z[a]!, r[b]! - r[a]!)
  if (shape.kind === 'line') {
    const along = Math.atan2(shape.along[1], shape.along[0])
    return Math.abs(wrapAngle(along - chord)) < Math.PI / 2 ? along : along + Math.PI
  }
  const i = end === 0 ? from : to
  const radial = Math.atan2(z[i]! - shape.centre[1], r[i]! - shape.centre[0])
  return radial + (Math.sign(turnOf({ r, z }, from, to, shape)) * Math.PI) / 2
}

/** By how much the way from..to turns about a centre, radians, positive to the left. */
function turnOf({ r, z }: Chain, from: number, to: number, { centre }: { centre: Pair }): number {
  let sum = 0
  let before = Math.atan2(z[from]! - centre[1], r[from]! - centre[0])
  for (let i = from + 1; i <= to; i++) {
    const now = Math.atan2(z[i]! - centre[1], r[i]! - centre[0])
    sum += wrapAngle(now - before)
    before = now
  }
  return sum
}

const bulgeOf = (chain: Chain, { from, to }: FittedRun, shape: { centre: Pair }) => Math.tan(turnOf(chain, from, to, shape) / 4) // prettier-ignore

function endAngle(c: Cubic, end: 0 | 1): number {
  const [dr, dz] = derivativeAt(c, end)
  return Math.atan2(dz, dr)
}

function at(model: Model, x: ArrayLike<number>, joint: number): Pair {
  const { r, z } = model.index[joint]!
  const own = model.joints[joint]!
  return [r < 0 ? own.r : x[r]!, z < 0 ? own.z : x[z]!]
}

/** Direction of a line or an arc at one of its ends. */
function runAngle(model: Model, x: ArrayLike<number>, run: number, end: 0 | 1): number {
  const [a, b] = [at(model, x, run), at(model, x, run + 1)]
  const chord = Math.atan2(b[1] - a[1], b[0] - a[0])
  if (model.kinds[run] === 'line') return chord
  const half = 2 * Math.atan(x[model.bulge[run]!]!)
  return end === 0 ? chord - half : chord + half
}

function cubicOf(model: Model, x: ArrayLike<number>, run: number): Cubic {
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

/** Residuals that depend on a few parameters only. */
interface Block {
  count: number
  parameters: number[]
  residuals: (x: ArrayLike<number>, out: Float64Array) => void
  /** Called with the parameters that were accepted. */
  accept?: (x: ArrayLike<number>) => void
}

function parametersOf(model: Model, run: number): number[] {
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

function runBlock(chain: Chain, run: FittedRun, k: number, model: Model, sigma: number): Block {
  const stride = Math.max(1, Math.ceil((run.to - run.from) / RUN_POINTS))
  const points: number[] = []
  for (let i = run.from; i <= run.to; i += stride) points.push(i)
  // Points left out are counted by those that stay.
  const weight = Math.sqrt(stride) / sigma
  const { kind } = run.shape
  const t = Float64Array.from(points, (_, i) => (points.length > 1 ? i / (points.length - 1) : 0))
  const place = (x: ArrayLike<number>) => {
    const cubic = cubicOf(model, x, k)
    points.forEach((i, n) => (t[n] = nearestOn(cubic, chain.r[i]!, chain.z[i]!, t[n]!)))
  }
  const residuals = (x: ArrayLike<number>, out: Float64Array) => {
    const [a, b] = [at(model, x, k), at(model, x, k + 1)]
    if (kind === 'cubic') {
      const cubic = cubicOf(model, x, k)
      points.forEach((i, n) => {
        const [p, q] = pointAt(cubic, t[n]!)
        const [dr, dz] = derivativeAt(cubic, t[n]!)
        const length = Math.hypot(dr, dz) || 1
        out[n] = (weight * ((chain.r[i]! - p) * dz - (chain.z[i]! - q) * dr)) / length
      })
      return
    }
    const bulge = kind === 'arc' ? x[model.bulge[k]!]! : 0
    if (Math.abs(bulge) > 1e-6) {
      const { centre, radius } = arcOf(a, b, bulge)
      points.forEach((i, n) => {
        const off = Math.hypot(chain.r[i]! - centre[0], chain.z[i]! - centre[1]) - radius
        out[n] = weight * (bulge > 0 ? off : -off)
      })
      return
    }
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
    const [dr, dz] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length]
    points.forEach((i, n) => (out[n] = weight * ((chain.r[i]! - a[0]) * dz - (chain.z[i]! - a[1]) * dr)))
  }
  const accept = kind === 'cubic' ? place : undefined
  return { count: points.length, parameters: parametersOf(model, k), residuals, accept }
}

/** Where lines and arcs meet smoothly, and where arcs meet the axis: one tangent. */
function tangentBlocks(runs: readonly FittedRun[], model: Model, sigma: number): Block[] {
  const blocks: Block[] = []
  const length = (k: number) => Math.hypot(model.joints[k + 1]!.r - model.joints[k]!.r, model.joints[k + 1]!.z - model.joints[k]!.z) // prettier-ignore
  model.joints.forEach(({ smooth }, k) => {
    if (!smooth) return
    const [before, after] = [k - 1, k]
    const firm = (run: number) => run >= 0 && run < runs.length && model.kinds[run] !== 'cubic'
    if (k === 0 || k === runs.length) {
      const run = k === 0 ? after : before
      if (!firm(run)) return
      const end = k === 0 ? 0 : 1
      const weight = length(run) / (TANGENT_SHARE * sigma)
      blocks.push({
        count: 1,
        parameters: parametersOf(model, run),
        residuals: (x, out) => (out[0] = weight * Math.sin(runAngle(model, x, run, end))),
      })
      return
    }
    if (!firm(before) || !firm(after)) return
    const weight = Math.min(length(before), length(after)) / (TANGENT_SHARE * sigma)
    blocks.push({
      count: 1,
      parameters: [...new Set([...parametersOf(model, before), ...parametersOf(model, after)])],
      residuals: (x, out) =>
        (out[0] = weight * wrapAngle(runAngle(model, x, after, 0) - runAngle(model, x, before, 1))),
    })
  })
  return blocks
}

function slideBlocks(runs: readonly FittedRun[], model: Model, sigma: number): Block[] {
  const length = (k: number) => Math.hypot(model.joints[k + 1]!.r - model.joints[k]!.r, model.joints[k + 1]!.z - model.joints[k]!.z) // prettier-ignore
  return model.joints.flatMap((joint, k) => {
    if (k === 0 || k === runs.length || !joint.smooth) return []
    const loose = SLIDE_SHARE * Math.min(length(k - 1), length(k)) + sigma
    const { r, z } = model.index[k]!
    return [
      {
        count: 2,
        parameters: [r, z].filter((i) => i >= 0),
        residuals: (x: ArrayLike<number>, out: Float64Array) => {
          const [p, q] = at(model, x, k)
          out[0] = (p - joint.r) / loose
          out[1] = (q - joint.z) / loose
        },
      },
    ]
  })
}

/** Handles of short runs, which few points hold, stay handles. */
function handleBlocks({ cubics, start }: Model): Block[] {
  return cubics.flatMap((cubic) =>
    (cubic?.lengths ?? []).map((index) => ({
      count: 1,
      parameters: [index],
      residuals: (x: ArrayLike<number>, out: Float64Array) =>
        (out[0] = (x[index]! - start[index]!) / HANDLE_SLACK),
    })),
  )
}

/** Levenberg-Marquardt over blocks: each is asked only for its own parameters' derivatives. */
function minimise(
  start: readonly number[],
  blocks: readonly Block[],
  steps: readonly number[],
): Float64Array {
  const n = start.length
  let x = Float64Array.from(start)
  const values = blocks.map((b) => new Float64Array(b.count))
  const moved = blocks.map((b) => new Float64Array(b.count))
  const slopes = blocks.map((b) => new Float64Array(b.count * b.parameters.length))
  const costOf = (at: Float64Array, out: Float64Array[]) => {
    let sum = 0
    blocks.forEach((block, k) => {
      block.residuals(at, out[k]!)
      for (const v of out[k]!) sum += v * v
    })
    return sum
  }
  blocks.forEach((b) => b.accept?.(x))
  let cost = costOf(x, values)
  let lambda = 1e-3
  for (let round = 0; round < ROUNDS; round++) {
    const normal = new Float64Array(n * n)
    const gradient = new Float64Array(n)
    const y = x.slice()
    blocks.forEach(({ parameters, count, residuals }, k) => {
      const [now, other, slope] = [values[k]!, moved[k]!, slopes[k]!]
      parameters.forEach((j, a) => {
        y[j] = x[j]! + steps[j]!
        residuals(y, other)
        y[j] = x[j]!
        const scale = 1 / steps[j]!
        const at = a * count
        let down = 0
        for (let i = 0; i < count; i++) {
          const v = (other[i]! - now[i]!) * scale
          slope[at + i] = v
          down += v * now[i]!
        }
        gradient[j]! += down
        for (let b = 0; b <= a; b++) {
          let sum = 0
          for (let i = 0; i < count; i++) sum += slope[at + i]! * slope[b * count + i]!
          normal[j * n + parameters[b]!]! += sum
          if (b < a) normal[parameters[b]! * n + j]! += sum
        }
      })
    })
    // Parameters that nothing depends on stay where they are.
    for (let j = 0; j < n; j++) if (normal[j * n + j] === 0) normal[j * n + j] = 1
    let done = true
    while (lambda < 1e9) {
      const damped = normal.slice()
      for (let j = 0; j < n; j++) damped[j * n + j]! *= 1 + lambda
      const step = solvePositive(damped, gradient, n)
      const next = step && x.map((v, j) => v - step[j]!)
      const nextCost = next ? costOf(next, moved) : Infinity
      if (nextCost < cost) {
        done = cost - nextCost < 1e-3 * cost
        x = next!
        lambda = Math.max(1e-9, lambda / 10)
        blocks.forEach((b) => b.accept?.(x))
        cost = costOf(x, values)
        break
      }
      lambda *= 10
    }
    if (done) break
  }
  return x
}

import { solvePositive } from '../least-squares'
import { fallOf, FOLLOWED, halvesOf, levelOf, type Ellipse } from './close-half'
import { normalCdf } from './edge-fit'
import { COLUMN_STEP, RING_COLUMNS, sampleAt, type Column, type RingColumns } from './ring-columns'
import { SOFTER } from './soft-steps'

/** Both halves of a ring are parted into so many stretches of columns each; what a stretch shows is averaged along the ring. */
export const STRETCHES = 6

/** The step that a stretch of a ring shows. */
export interface RingStep {
  /** How far out of the ring it lies, px. */
  off: number
  /** How far a ring of unit height has fallen there, and how far right of the axis it is, px. */
  fall: number
  u: number
  /** How much better light with a step explains what is seen than light that slopes only does: a logarithm of likelihoods. */
  gain: number
  /** The same of a step as soft as a shadow's border. */
  softGain: number
  /** Its height as a share of that of the way found. */
  share: number
}

/** The columns of a stretch, of those that a ring of such a half-width spans: the first, and the one after the last. */
export function stretchesOf(a: number, { wide }: Pick<RingColumns, 'wide'>): [number, number][] {
  const columns = Math.floor((FOLLOWED * a * RING_COLUMNS) / wide)
  const bound = (k: number) => Math.round((k * columns) / STRETCHES)
  return Array.from({ length: STRETCHES }, (_, k) => [bound(k), bound(k + 1)])
}

/** What lies within so many blurs, and px, of the way found shows that. */
const WAY_BLURS = 2.3
const WAY_PX = 0.5
/** Light is looked at so far on either side, px and blurs. */
const LOOK_PX = 2
const LOOK_BLURS = 4
/** A sample counts where so many of a stretch's columns show it, and a step with so much light inside of it, px. */
const MOST_COLUMNS = 0.6
const LEAST_INSIDE_PX = 1.5
/** Steps are looked for so far from the ring, px, so far apart; how much farther ones count. */
const FARTHEST_PX = 3
const OFF_STEP = 0.25
const NEARER = 8

/** The steps that the stretches of a ring show beyond the way found. */
export function ringSteps(columns: RingColumns, ring: Required<Ellipse>): RingStep[] {
  const stretches = stretchesOf(ring.a, columns)
  const halves = halvesOf(ring)
  return columns.sides.flatMap((side, k) => {
    const sign = k === 0 ? -1 : 1
    return stretches.flatMap(([from, to]) => {
      const places = side.slice(from, to).map((column, i): PlacedColumn => {
        const u = columns.uOf(from + i)
        return { column, u: sign * u, fall: fallOf(u / ring.a), level: levelOf(halves[k]!, u) }
      })
      return stepAlong(columns, places) ?? []
    })
  })
}

interface PlacedColumn {
  column: Column
  u: number
  fall: number
  /** Where the ring crosses it. */
  level: number
}

/** Light across a ring: samples at so many px out of it, averaged along it. */
interface LightAcross {
  at: number[]
  light: number[]
}

function stepAlong(columns: RingColumns, places: readonly PlacedColumn[]): RingStep | null {
  const { blur } = columns
  const lines = [0, 1, 2].map((colour) => lightAcross(columns, places, colour))
  const { at } = lines[0]!
  let best: { off: number; gain: number; height: number } | null = null
  let softGain = 0
  for (let off = -FARTHEST_PX; off <= FARTHEST_PX; off += OFF_STEP) {
    if (at.filter((x) => x < off - blur).length * COLUMN_STEP < LEAST_INSIDE_PX) continue
    const [fits, softFits] = [blur, SOFTER * blur].map((sigma) =>
      lines.map((line) => stepIn(line, off, sigma)),
    ) as [StepFit[], StepFit[]]
    const near = Math.exp((-off * off) / NEARER)
    const gainOf = (of: readonly StepFit[]) => at.length * of.reduce((sum, fit) => sum + fit.gain, 0) * near
    softGain = Math.max(softGain, gainOf(softFits))
    const gain = gainOf(fits)
    if (!best || gain > best.gain)
      best = { off, gain, height: Math.hypot(...fits.map(({ height }) => height)) }
  }
  if (!best) return null
  const { off, gain, height } = best
  const mean = (of: (p: PlacedColumn) => number) => places.reduce((sum, p) => sum + of(p), 0) / places.length
  const found = Math.hypot(
    ...[0, 1, 2].map((colour) => mean(({ column }) => stepOfWay(columns, column, colour))),
  )
  return {
    off,
    gain,
    softGain,
    fall: mean((p) => p.fall),
    u: mean((p) => p.u),
    share: height / Math.max(1e-6, found),
  }
}

function lightAcross(
  { blur, indexOf }: RingColumns,
  places: readonly PlacedColumn[],
  colour: number,
): LightAcross {
  const half = Math.round((LOOK_PX + LOOK_BLURS * blur) / COLUMN_STEP)
  const out: LightAcross = { at: [], light: [] }
  for (let i = -half; i <= half; i++) {
    let sum = 0
    let count = 0
    for (const { column, level } of places) {
      const v = level + i * COLUMN_STEP
      if (v - column.way < WAY_BLURS * blur + WAY_PX) continue
      const light = sampleAt(column.light[colour]!, indexOf(v))
      if (light === null) continue
      sum += light
      count++
    }
    if (count < MOST_COLUMNS * places.length) continue
    out.at.push(i * COLUMN_STEP)
    out.light.push(sum / count)
  }
  return out
}

/** How much light changes over the way found, in one colour. */
function stepOfWay({ blur, indexOf }: RingColumns, { way, light }: Column, colour: number): number {
  const at = (v: number) => sampleAt(light[colour]!, indexOf(v)) ?? 0
  return at(way + WAY_BLURS * blur) - at(way - WAY_BLURS * blur)
}

interface StepFit {
  height: number
  gain: number
}

/** A blurred step fitted beside level and slope, by least squares. */
function stepIn({ at, light }: LightAcross, off: number, blur: number): StepFit {
  const n = at.length
  const steps = at.map((x) => normalCdf((x - off) / blur))
  const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / n
  const [mx, my, ms] = [mean(at), mean(light), mean(steps)]
  let [xx, xy, xs, ss, sy, yy] = [0, 0, 0, 0, 0, 0]
  for (let i = 0; i < n; i++) {
    const [x, y, s] = [at[i]! - mx, light[i]! - my, steps[i]! - ms]
    xx += x * x
    xy += x * y
    xs += x * s
    ss += s * s
    sy += s * y
    yy += y * y
  }
  const left = (v: number) => Math.max(1e-12, v)
  const sloping = left(yy - (xy * xy) / xx)
  const [own, shared] = [left(ss - (xs * xs) / xx), sy - (xs * xy) / xx]
  return { height: shared / own, gain: Math.log(sloping / left(sloping - (shared * shared) / own)) }
}

/** Steps that lie farther off than this, px, count less, and so do those that explain less than this. */
const HUBER_PX = 0.5
const SURE_GAIN = 20
const ROUNDS = 6

/** By how much a ring's tip, height and lean must change to lie on its steps: a robust least-squares fit (Huber 1964); null where they don't tell. */
export function ringThrough(steps: readonly RingStep[]): { tip: number; b: number; lean: number } | null {
  let weights = steps.map(() => 1)
  let out: { tip: number; b: number; lean: number } | null = null
  for (let round = 0; round < ROUNDS; round++) {
    const normal = new Float64Array(9)
    const right = new Float64Array(3)
    steps.forEach(({ off, fall, u }, i) => {
      const row = [1, -fall, u]
      for (let p = 0; p < 3; p++) {
        right[p]! += weights[i]! * row[p]! * off
        for (let q = 0; q < 3; q++) normal[3 * p + q]! += weights[i]! * row[p]! * row[q]!
      }
    })
    const solved = solvePositive(normal, right, 3)
    if (!solved) return null
    const [tip, b, lean] = solved as unknown as [number, number, number]
    out = { tip, b, lean }
    weights = steps.map(({ off, fall, u, gain }) => {
      const rest = Math.abs(off - tip + b * fall - lean * u)
      return Math.min(1, HUBER_PX / Math.max(1e-9, rest)) * Math.min(1, gain / SURE_GAIN)
    })
  }
  return out
}

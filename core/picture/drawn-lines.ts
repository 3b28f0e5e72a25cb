import type { Tones } from './tones'

/** A drawn line: level or upright, one px wide, from one place along it to before another. */
export interface DrawnRun {
  isLevel: boolean
  /** Its row where it is level, else its column. */
  at: number
  from: number
  to: number
}

/** Every so many px along lines are looked at first; of a drawn one they differ by so many codes. */
const STRIDE = 12
const LIKE_LAST = 24
/** Lines are so long at least, as a share of the picture's longer side. */
const LEAST_LENGTH = 0.035
/** One of a line's runs is so long, with gaps of so many px. */
const LEAST_WHOLE = 0.05
const GAP_PX = 14
/** More runs than this are a pattern, in cloth or on a screen. */
const MOST_RUNS = 1500
/** Where a photographed line steps aside, runs end and begin within so many px. */
const STEP_PX = 12
/** What lies so many px to either side of a line is alike, to so many codes and this share of its contrast, which is so many codes at least. */
export const ASIDE = 4
const ALIKE = 8
const ALIKE_SHARE = 0.15
const CONTRAST = 18
/** Arrowheads are so long at most, px: lines end so far before others that they come to. */
const ARROW = 28
/** Along a line it, and what lies right beside it, is of one tone, to so many codes and this share of its contrast: nothing that was photographed is so straight. */
const EVEN = 7
const EVEN_SHARE = 0.06

/** Level and upright lines that somebody drew over a picture, each as the px rows or columns it covers. */
export function drawnLines(tones: Tones): DrawnRun[] {
  const runs = drawnRuns(tones)
  if (runs.length > MOST_RUNS) return []
  const lines = joined(runs)
  const whole = lines.filter((run) => !lines.some((other) => isStep(run, other)))
  const least = LEAST_WHOLE * Math.max(tones.width, tones.height)
  return whole.filter((run) => whole.some((other) => isBeside(run, other) && other.to - other.from >= least))
}

/** Whether two runs lie beside each other, as those of one line do. */
export const isBeside = (p: DrawnRun, q: DrawnRun) =>
  p.isLevel === q.isLevel && Math.abs(p.at - q.at) <= ASIDE && p.from < q.to && q.from < p.to

/** Whether a level line comes to an upright one, but for an arrowhead. */
export const isMet = (p: DrawnRun, q: DrawnRun) =>
  p.isLevel &&
  !q.isLevel &&
  p.from - ARROW <= q.at &&
  q.at <= p.to + ARROW &&
  q.from - ARROW <= p.at &&
  p.at <= q.to + ARROW

/** Whether one run goes on in another a px aside: that line isn't level, and was photographed. */
const isStep = (p: DrawnRun, q: DrawnRun) =>
  p.isLevel === q.isLevel &&
  Math.abs(p.at - q.at) === 1 &&
  (Math.abs(p.to - q.from) <= STEP_PX || Math.abs(q.to - p.from) <= STEP_PX)

/** Runs of the same row or column with short gaps between them, where they cross other lines or the piece's edge, as one. */
function joined(runs: readonly DrawnRun[]): DrawnRun[] {
  const inOrder = runs.toSorted(
    (p, q) => Number(p.isLevel) - Number(q.isLevel) || p.at - q.at || p.from - q.from,
  )
  const out: DrawnRun[] = []
  for (const run of inOrder) {
    const last = out.at(-1)
    if (last && last.isLevel === run.isLevel && last.at === run.at && run.from - last.to <= GAP_PX)
      last.to = run.to
    else out.push({ ...run })
  }
  return out
}

/** Level and upright lines a px wide that are even along so many px. */
function drawnRuns(tones: Tones): DrawnRun[] {
  const { width, height } = tones
  const least = Math.max(STRIDE, Math.round(LEAST_LENGTH * Math.max(width, height)))
  const runs: DrawnRun[] = []
  for (const isLevel of [true, false]) {
    const [count, lines] = isLevel ? [width, height] : [height, width]
    const [step, across] = isLevel ? [1, width] : [width, 1]
    for (const at of linesWithRidges(tones.data, { count, lines, step, across })) {
      const scan = { start: at * across, step, across, count }
      alongLine(tones.data, scan, least, (from, to) => runs.push({ isLevel, at, from, to }))
    }
  }
  return runs
}

/** Rows, or columns, where two px in a row of those that are looked at are ridges: few of all are, which is quick. */
function linesWithRidges(
  data: Uint8Array,
  { count, lines, step, across }: { count: number; lines: number; step: number; across: number },
): number[] {
  const last = new Int16Array(lines).fill(-1)
  const found = new Uint8Array(lines)
  for (let k = STRIDE >> 1; k < count; k += STRIDE)
    for (let at = ASIDE; at < lines - ASIDE; at++) {
      const i = k * step + at * across
      if (!isRidge(data, i, across)) {
        last[at] = -1
        continue
      }
      if (last[at]! >= 0 && Math.abs(last[at]! - data[i]!) <= LIKE_LAST) found[at] = 1
      last[at] = data[i]!
    }
  return [...found.keys()].filter((at) => found[at])
}

/** A line of px: where it begins, and how far on its next px lies, and the next line's. */
interface Scan {
  start: number
  step: number
  across: number
  count: number
}

/** Calls with the runs of a line of px that are drawn lines, at least so long. */
function alongLine(
  data: Uint8Array,
  { start, step, across, count }: Scan,
  least: number,
  found: (from: number, to: number) => void,
): void {
  let from = -1
  let [here, before, after, bound] = [0, 0, 0, 0]
  for (let k = 0, i = start; k <= count; k++, i += step) {
    const isOn = k < count && isRidge(data, i, across)
    if (from >= 0) {
      const goesOn =
        isOn &&
        Math.abs(data[i]! - here) <= bound &&
        Math.abs(data[i - across]! - before) <= bound &&
        Math.abs(data[i + across]! - after) <= bound
      if (goesOn) continue
      if (k - from >= least) found(from, k)
      from = -1
    }
    if (!isOn) continue
    from = k
    ;[here, before, after] = [data[i]!, data[i - across]!, data[i + across]!]
    bound = EVEN + EVEN_SHARE * Math.abs(here - data[i - ASIDE * across]!)
  }
}

/** Whether a px is darker or lighter than what lies to either side of it, which is alike. */
function isRidge(data: Uint8Array, i: number, across: number): boolean {
  const [p, q] = [data[i - ASIDE * across]!, data[i + ASIDE * across]!]
  const [dp, dq] = [data[i]! - p, data[i]! - q]
  if (dp > 0 !== dq > 0) return false
  const contrast = Math.min(Math.abs(dp), Math.abs(dq))
  return contrast >= CONTRAST && Math.abs(p - q) <= ALIKE + ALIKE_SHARE * contrast
}

/** The places of a run's px. */
export const placesOf = ({ isLevel, at, from, to }: DrawnRun, width: number): number[] =>
  Array.from({ length: to - from }, (_, k) => (isLevel ? at * width + from + k : (from + k) * width + at))

import type { PicturePoint } from '../conventions'
import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import type { AxisLine } from './axis-line'
import { isBar, standsBeside } from './bars'
import { SEE_THROUGH } from './best-silhouette'
import type { Candidate } from './candidate'
import { edgeMiddleAxes } from './edge-middles'
import { mayBeClear, type Evidence } from './evidence'
import { lineThroughMiddles } from './middles-line'
import { regionMiddleAxes } from './region-middles'
import { areaOf, findSilhouette, likeness, mirrored, rowMiddles, shareWithin, stripAbout, type Silhouette } from './silhouette' // prettier-ignore
import { sameLine, symmetryAxes, turn } from './symmetry'

/** The axis that is worth most, and others that might be it. */
export interface RankedAxes {
  best: AxisLine
  /** Worth at least a share of the best, by their worth. */
  others: AxisLine[]
  /** What is found about the best axis. */
  found: Candidate
  /** Straight bars that were found, by their worth; the best may be one. */
  bars: Silhouette[]
}

/** Others that are worth less than this share of the best axis are none. */
const MIGHT_BE = 0.5

/** What leads the search of the axis: what may be shadow is held back where that is known. */
const guideOf = ({ unshadowed, plane }: Evidence) => unshadowed ?? plane

/** The candidate whose silhouette has most edge that agrees left and right. */
export function bestAxis(
  sharp: Sharpness,
  evidence: Evidence,
  up: PicturePoint,
  onProgress?: (fraction: number) => void,
): RankedAxes {
  const guide = guideOf(evidence)
  const axes = symmetryAxes(sharp, guide, up)
  const more = (list: readonly AxisLine[]) => {
    for (const axis of list) if (!axes.some((known) => sameLine(axis, known))) axes.push(axis)
  }
  if (evidence.kind !== 'textured') more(regionMiddleAxes(guide, up))
  more(edgeMiddleAxes(sharp, up))
  let best: Candidate = { axis: axes[0]!, worth: 0, silhouette: null, even: 0 }
  const judged = axes.map((axis, i) => {
    onProgress?.(0.25 + (0.2 * i) / axes.length)
    const now = judgeAxis(sharp, evidence, axis, HOPELESS * best.worth)
    if (now.worth > best.worth) best = now
    return now
  })
  judged.sort((p, q) => q.worth - p.worth)
  const instead = (of: typeof isPartOf) => judged.find((other) => of(best, other, guide))
  const taken = instead(isPartOf) ?? instead(isBesideOf) ?? best
  const others = judged.filter(
    (other) =>
      other.worth >= MIGHT_BE * best.worth &&
      !sameLine(other.axis, taken.axis) &&
      !isPartOf(other, taken, guide),
  )
  const bars = judged.flatMap(({ silhouette }) => (silhouette && isBar(silhouette) ? [silhouette] : []))
  return { best: taken.axis, others: others.map(({ axis }) => axis), found: taken, bars }
}

/** An axis that is given; what is found about it is looked for only if somebody asks: where a ruler stands in the picture. */
export function givenAxis(sharp: Sharpness, evidence: Evidence, axis: AxisLine): RankedAxes {
  return {
    best: axis,
    others: [],
    get found() {
      return judgeAxis(sharp, evidence, axis, 0)
    },
    bars: [],
  }
}

/** What holds this share of a thing and is so many times as large has it on itself: a highlight, a label. */
const HELD = 0.9
const LARGER = 2
/**
 * … if this share of its rows has its edges evenly on both sides, and if it looks like piece within this share of its width about
 * its axis: between two pieces side by side the backdrop is seen.
 */
const EVEN = 0.5
const CORE = 1 / 3

/** Whether a thing lies on another, which is then the piece, even if its own edges are fainter. */
function isPartOf(
  { silhouette: part }: Candidate,
  { silhouette: whole, even }: Candidate,
  evidence: Plane,
): boolean {
  if (!part || !whole || even < EVEN || areaOf(whole) < LARGER * areaOf(part)) return false
  const core = { ...whole, half: whole.half.map((h) => CORE * h) }
  return shareWithin(part, whole) >= HELD && likeness(core, evidence, LIKENESS_STRIDE) > 0
}

/** What is so many times as large as what only stands beside it is the piece, … */
const MUCH_LARGER = 4
/** … even if it is fainter and so worth less, but this share, and has its edges evenly on both sides in this share of its rows. */
const WORTH_OF_LARGER = 0.5
const EVEN_OF_LARGER = 0.3

/** Whether a thing, a box or a coin whose edges are sharper, only stands beside another one. */
function isBesideOf(small: Candidate, large: Candidate, picture: Plane): boolean {
  if (!small.silhouette || !large.silhouette) return false
  return (
    large.worth >= WORTH_OF_LARGER * small.worth &&
    large.even >= EVEN_OF_LARGER &&
    areaOf(large.silhouette) >= MUCH_LARGER * areaOf(small.silhouette) &&
    standsBeside(small.silhouette, large.silhouette, picture)
  )
}

const AXIS_ROUNDS = 4
/** An axis that is worth less than this share of the best after its first round isn't bettered. */
const HOPELESS = 0.4
/** For what lies within a silhouette every so many px each way are looked at. */
const LIKENESS_STRIDE = 2
/** Middles of rows that lie farther off the line through them, px, don't speak for it. */
const AGREE_PX = 0.8
/** The search of an axis ends when a round moves it by less than this, px at the ends of the piece. */
const SETTLED_PX = 0.1

/**
 * Betters a candidate of the axis by the sharp edges of its own silhouette, and says what it is worth: the mean (geometric)
 * of the sharpness of all rows whose two edges lie evenly about it and of all that the silhouette runs along. A wrong axis finds some
 * edges, but few that agree; in a lossy picture few agree about the true one, but it runs along most. Before a plain backdrop it
 * also counts how much what lies within looks like a piece.
 */
function judgeAxis(sharp: Sharpness, evidence: Evidence, start: AxisLine, hopeless: number): Candidate {
  const guide = guideOf(evidence)
  let best: Candidate = { axis: start, worth: 0, silhouette: null, even: 0 }
  let axis = start
  let most = 0
  for (let round = 0; round < AXIS_ROUNDS; round++) {
    const strip = stripAbout(sharp, axis)
    const sums = mirrored(strip, guide)
    const opaque = findSilhouette(strip, sums)
    const clear = mayBeClear(evidence) ? findSilhouette(strip, sums, { seeThrough: SEE_THROUGH }) : opaque
    const silhouette = clear.edges > opaque.edges ? clear : opaque
    const rows = rowMiddles(sharp, silhouette)
    const line = lineThroughMiddles(rows)
    if (!line) break
    const agreeing = rows.filter((m) => Math.abs(m.offset - line.c - line.a * m.v) < AGREE_PX)
    const edges = agreeing.reduce((sum, { edge }) => sum + edge, 0)
    // The piece's lower edge and its shadow's lie evenly about a line too, but there is no piece between them.
    const piece = evidence.kind === 'plain' ? Math.max(0, likeness(silhouette, guide, LIKENESS_STRIDE)) : 0
    const worth = Math.sqrt(edges * silhouette.edges) * (1 + piece)
    const { at, up } = axis
    const moved = turn(up, Math.atan(line.a))
    axis = { at: { x: at.x - line.c * up.y, y: at.y + line.c * up.x }, up: moved }
    if (edges * (1 + piece) > most) {
      most = edges * (1 + piece)
      const even = agreeing.length / silhouette.half.filter((h) => h > 0).length
      best = { axis, worth, silhouette, even }
    }
    if (worth < hopeless) break
    if (Math.abs(line.c) + Math.abs(line.a) * silhouette.half.length < SETTLED_PX) break
  }
  return best
}

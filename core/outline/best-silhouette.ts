import type { Plane } from '../picture/raster'
import type { LabPicture } from '../picture/reduce'
import { withoutBareBulges, type ToldPiece } from './bulges'
import { colourEvidence } from './colour-evidence'
import { mayBeClear, wavers, type Evidence } from './evidence'
import { withoutBareKinks } from './kinks'
import { closedness, isClosed, ledOn } from './led-on'
import { OUTLINE_ENDS } from './open-ends'
import { withoutBareNotches, withoutRaggedNotches } from './notches'
import { withOuterLines } from './outer-lines'
import { oneSided, wholeSilhouette, withPartsBeyond } from './parted-silhouette'
import {
  findSilhouette,
  likeness,
  mirrored,
  onlyRows,
  outsideOf,
  rowsOf,
  silhouetteOf,
  type Silhouette,
  type Strip,
} from './silhouette'

/**
 * The silhouette about an axis from what the backdrop says; as if the piece were clear, through which a plain backdrop
 * shows; and with the colours inside and outside of that one, which tell the floor's shadow from the piece. What runs
 * well along edges on both sides is taken.
 */
export function bestSilhouette(
  strip: Strip,
  picture: LabPicture,
  evidence: Evidence,
  decided: (plane: Plane) => Plane,
): Silhouette {
  const usual = mirrored(strip, evidence.plane)
  const parted = wholeSilhouette(strip, usual, evidence.plane)
  const whole = parted.silhouette
  if (evidence.kind === 'cut-out') return whole
  const bare = mirrored(strip, evidence.bare)
  const bright = findSilhouette(strip, bare)
  const first = bright.edges > MAY_LOSE_WITH_SHADOW[evidence.kind] * whole.edges ? bright : whole
  const [base, sums] = first === whole ? [evidence.plane, usual] : [evidence.bare, bare]
  const clear = mayBeClear(evidence) ? findSilhouette(strip, sums, { seeThrough: SEE_THROUGH }) : first
  const isBetter =
    clear.edges > CLEARLY_BETTER * first.edges &&
    (isAsClear(clear, first) || addsClosedPart(strip, clear, first, evidence.plane))
  const plain = isBetter ? clear : first
  if (plain.edges === 0) return plain
  const colours = colourEvidence(picture, outsideOf(plain, picture.width))
  const share = evidence.kind === 'textured' ? 0.2 : 0.5
  const data = colours.data.map((v, i) => (1 - share) * v + share * base.data[i]!)
  const told = decided({ ...colours, data })
  const second = wholeSilhouette(strip, mirrored(strip, told), told).silhouette
  // Where rows of the piece look like the backdrop, colours that are learnt from it may part it again.
  const mayLose = plain === whole && parted.between.length > 0 ? 1 : MAY_LOSE[evidence.kind]
  const taken = second.edges > mayLose * plain.edges ? second : plain
  return [whole, clear].reduce((best, longer) => withClosedParts(strip, best, longer, evidence.plane), taken)
}

/** What closes a part beyond an end across, at least, where nothing closes that end, and where something does, from so much on. */
const CLOSES = 0.4
const CLOSES_AGAIN = 0.9
const IS_CLOSED = 0.5
/** How much such a part looks like piece, at least, and how wide it is, as a share of the silhouette: a line of the floor is narrower. */
const LIKE_PIECE = 0.15
const LEAST_WIDE = 0.2

/**
 * A silhouette with what another one has beyond its ends, where that looks like piece and an edge across closes it: a foot or a cap
 * whose sides are about as light as the backdrop. Shadows, grain and folds aren't closed across.
 */
function withClosedParts(strip: Strip, silhouette: Silhouette, longer: Silhouette, plane: Plane): Silhouette {
  const half = silhouette.half.slice()
  let isLonger = false
  for (const { run, at, own, down } of partsBeyond(silhouette, longer)) {
    if (run.to - run.from < LEAST_ADDED) continue
    const part = silhouetteOf(strip, onlyRows(longer.half, run))
    if (Math.max(...part.half) < LEAST_WIDE * Math.max(...silhouette.half)) continue
    const isShut = closedness(strip, silhouette.half, own, down) >= IS_CLOSED
    if (closedness(strip, longer.half, at, down) < (isShut ? CLOSES_AGAIN : CLOSES)) continue
    if (likeness(part, plane) < LIKE_PIECE) continue
    half.set(longer.half.subarray(run.from, run.to), run.from)
    isLonger = true
  }
  return isLonger ? silhouetteOf(strip, half) : silhouette
}

/** What one silhouette is longer by than another at either end: its rows, its own last row there, and the other's. */
function partsBeyond(silhouette: Silhouette, longer: Silhouette) {
  const [first, last] = rowsOf(longer)
  const [start, end] = rowsOf(silhouette)
  return [
    { run: { from: first, to: start }, at: first, own: start, down: -1 },
    { run: { from: end + 1, to: last + 1 }, at: last, own: end, down: 1 },
  ] as const
}

/** True when the rows that one silhouette has more than another show about as much edge as the others: grain of a floor shows less. */
function isAsClear(longer: Silhouette, other: Silhouette): boolean {
  const [rows, others] = [longer, other].map(({ half }) => half.filter((r) => r > 0).length) as [
    number,
    number,
  ]
  return longer.edges - other.edges > (AS_CLEAR * (rows - others) * other.edges) / Math.max(1, others)
}

/** A part that is closed by an edge across shows one side as clearly as the rest shows both, or by this share of it, and both by this one. */
const ONE_SIDED = 0.9
const BOTH_SIDES = 0.3
const LEAST_ADDED = 8

/**
 * True where a silhouette is longer than another at one end by a part that an edge across closes, of which one side at least is
 * as clear as the others' are, and which looks a little like piece: a cap as light as the wall.
 */
function addsClosedPart(strip: Strip, longer: Silhouette, other: Silhouette, plane: Plane): boolean {
  const [start, end] = rowsOf(other)
  const usual = other.edges / Math.max(1, end - start + 1)
  return partsBeyond(other, longer).some(({ run, at, down }) => {
    const rows = run.to - run.from
    if (rows < LEAST_ADDED || !isClosed(strip, longer.half, at, down)) return false
    if (oneSided(strip, longer.half, run) <= ONE_SIDED * usual) return false
    const part = silhouetteOf(strip, onlyRows(longer.half, run))
    return part.edges > BOTH_SIDES * usual * rows && likeness(part, plane) > 0
  })
}

/** Beside a silhouette that is found, the evidence counts this much: the edges lead now. */
const SNAP_WEIGHT = 0.08
const SNAP_STEP_COST = 1.6

/** Rows at an end that show no sharp edge stay where they look like piece by more than this: a dome in front of its own colour. */
const PIECE_WITHOUT_EDGE = 0.5
/** … but not where they are wider by this, px, than what an edge closes before them: a mortar joint above a dome is none of it. */
const WIDER_THAN_CLOSED = 4

/**
 * The silhouette on the sharp edges near it: what it took along of soft shadows falls off.
 * @param isMirrored it stands on its mirror image, into which its sides go on
 */
export function snapped(strip: Strip, evidence: Evidence, found: Silhouette, isMirrored = false): Silhouette {
  const { kind, plane, unshadowed } = evidence
  const sums = mirrored(strip, plane)
  const cleared = withoutBareBulges(
    strip,
    withoutRaggedNotches(strip, withoutBareNotches(strip, found)),
    // What it stands on is known then: the floor's lines end nothing of it.
    kind === 'textured' && !isMirrored,
    toldPiece(strip, evidence, sums),
  )
  const { half } = mayBeClear(evidence) ? withOuterLines(strip, cleared) : cleared
  const snap = findSilhouette(strip, sums, {
    weight: SNAP_WEIGHT,
    stepCost: SNAP_STEP_COST,
    near: half,
  })
  const [first, last] = rowsOf(snap)
  if (first < 0) return snap
  const kept = snap.half.slice()
  const keep = (from: number, to: number, down: 1 | -1) => {
    if (to <= from) return
    const end = down > 0 ? from - 1 : to
    const isWider = Math.max(...half.subarray(from, to)) > snap.half[end]! + WIDER_THAN_CLOSED
    if (isWider && isClosed(strip, snap.half, end, down)) return
    const rows = { ...snap, half: onlyRows(half, { from, to }) }
    if (likeness(rows, unshadowed ?? plane) > PIECE_WITHOUT_EDGE) kept.set(half.subarray(from, to), from)
  }
  const [start, end] = rowsOf({ half })
  keep(start, first, -1)
  // A textured backdrop doesn't tell the shadow on the floor from the piece.
  if (kind !== 'textured') keep(last + 1, end + 1, 1)
  const plain = withoutBareKinks(strip, withoutBareNotches(strip, { ...snap, half: kept }))
  const led = ledOn(strip, plain, isMirrored ? ['top'] : OUTLINE_ENDS)
  return led === plain ? plain : withPartsBeyond(strip, led, sums, plane)
}

/** What tells a bulge that is the piece's from one that was taken along; null before a plain backdrop that wavers. */
function toldPiece(strip: Strip, evidence: Evidence, sums: Float32Array): ToldPiece | null {
  const { firm, unshadowed } = evidence
  if (firm) return { sums: () => mirrored(strip, firm), isFirm: true }
  if (wavers(evidence)) return null
  return { sums: () => (unshadowed ? mirrored(strip, unshadowed) : sums), isFirm: false }
}

/** Without its shadow a piece keeps its edges; one that was taken for a shadow loses them, as many do before a backdrop of many colours. */
const MAY_LOSE_WITH_SHADOW = { plain: 0.95, textured: 1 }

/** What a pixel that looks like the backdrop says against a clear piece, as a share of what it says otherwise. */
export const SEE_THROUGH = 0.03
/** Taking a piece for clear is daring, so it must run along clearly more edge. */
const CLEARLY_BETTER = 1.03
/** … and the rows that this adds must show at least so much of the edge that the others do. */
const AS_CLEAR = 0.5
/** The silhouette by colours may lose edges that were the floor's and the wall's: few before a plain backdrop. */
const MAY_LOSE = { plain: 0.97, textured: 0.5 }

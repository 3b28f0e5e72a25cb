import { CoreError } from '../errors'
import { parametersAtHeight } from '../profile/at-height'
import { boxPoints } from '../profile/flatten'
import { partOf, pointOn, startOf, type Segment } from '../profile/segments'
import { plainMm } from '../units/format-length'
import { moments, type Moments } from './moments'

/** What a vessel holds up to a level. */
export interface Filling extends Moments {
  levelMm: number
}

/** Lowest place of the inside and its rim, mm. */
export function fillRange(inside: readonly Segment[]): { bottomMm: number; brimMm: number } {
  const heights = inside.flatMap((s) => boxPoints(s).map(([, z]) => z))
  return { bottomMm: Math.min(...heights), brimMm: startOf(inside[0]!)[1] }
}

/**
 * What the inside holds up to a height: of the exact curve, level on top.
 * @param inside the curve from the rim down to the axis
 * @param share of each section, by height, where the vessel is squeezed out of round
 */
export function filledTo(
  inside: readonly Segment[],
  levelMm: number,
  share?: (z: number) => number,
): Filling {
  const { volumeMm3, momentMm4 } = moments(below(inside, levelMm), share)
  // The inside runs down.
  return { levelMm, volumeMm3: -volumeMm3, momentMm4: -momentMm4 }
}

/** The parts of a curve below a height, in its order. */
export function below(segments: readonly Segment[], z: number): Segment[] {
  return segments.flatMap((s) => {
    const places = [0, ...parametersAtHeight(s, z), 1]
    return places.slice(1).flatMap((t, k) => {
      const from = places[k]!
      return t - from < 1e-12 || pointOn(s, (from + t) / 2)[1] > z ? [] : [partOf(s, from, t)]
    })
  })
}

/** Halvings from the whole height down to rounding. */
const HALVINGS = 52

/**
 * The level at which the inside holds a volume.
 * @throws CoreError `overflows` for more than it holds brim-full
 */
export function levelOf(
  inside: readonly Segment[],
  volumeMm3: number,
  share?: (z: number) => number,
): Filling {
  const { bottomMm, brimMm } = fillRange(inside)
  const full = filledTo(inside, brimMm, share)
  if (volumeMm3 > full.volumeMm3)
    throw new CoreError({
      code: 'overflows',
      message: `Brim-full it holds ${plainMm(full.volumeMm3 / 1000)} ml; ${plainMm(volumeMm3 / 1000)} ml would run over.`,
      where: 'volume',
      expected: `<= ${full.volumeMm3}`,
      received: String(volumeMm3),
    })
  let [low, high] = [bottomMm, brimMm]
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2
    if (filledTo(inside, middle, share).volumeMm3 < volumeMm3) low = middle
    else high = middle
  }
  return filledTo(inside, high, share)
}

import { alongAxis } from './axis-line'
import type { RankedAxes } from './best-axis'
import { besideOf, standsBeside } from './bars'
import { withoutBeside, type Beside, type Scene } from './beside'
import type { Candidate } from './candidate'
import type { Evidence } from './evidence'
import type { Ruler } from './rulers'

/** A scene with what its backdrop tells, and the axes that this tells. */
export interface RankedScene {
  scene: Scene
  evidence: Evidence
  axes: RankedAxes
}

/** So many bars without marks stand beside a piece, at most. */
const MOST_BARS = 3
/** Without a ruler, which its marks tell, what is left must be worth this share of what was found before. */
const LEAST_WITHOUT_RULER = 0.1
/** Without a bar it must be worth more, and this share of its rows have its edges evenly on both sides. */
const LEAST_WITHOUT_BAR = 0.25
const LEAST_EVEN = 0.4

/**
 * What is ranked once what only stands beside the piece, rulers and other straight bars, is taken out of the picture.
 * @param isPiece whether somebody said that piece stands there
 */
export function withoutBesides(
  first: RankedScene,
  rank: (scene: Scene) => RankedScene,
  rulers: readonly Ruler[],
  isPiece: (beside: Beside) => boolean,
): RankedScene {
  let now = first
  const without = (beside: Beside) => rank(withoutBeside(now.scene, beside))
  const likelier = (p: RankedScene, q: RankedScene) => (q.axes.found.worth > p.axes.found.worth ? q : p)
  for (const ruler of rulers) {
    const rests = ruler
      .filter((beside) => !isPiece(beside) && !isBandOf(beside, now.axes.found))
      .map(without)
      .filter(({ axes }) => isLeft(axes.found, now.axes.found, LEAST_WITHOUT_RULER))
    if (rests.length > 0) now = rests.reduce(likelier)
  }
  for (let n = 0; n < MOST_BARS; n++) {
    const { axes, scene } = now
    const picture = scene.sharp.x
    const rests = axes.bars.flatMap((bar) => {
      const beside = besideOf(bar, picture)
      if (isPiece(beside)) return []
      const rest = without(beside)
      const { found } = rest.axes
      const isClear = isLeft(found, axes.found, LEAST_WITHOUT_BAR) && found.even >= LEAST_EVEN
      return isClear && standsBeside(bar, found.silhouette!, picture) ? [rest] : []
    })
    if (rests.length === 0) break
    now = rests.reduce(likelier)
  }
  return now
}

const isLeft = ({ silhouette, worth }: Candidate, before: Candidate, share: number) =>
  silhouette !== null && worth >= share * before.worth

/** A ruler that lies across reaches beyond the piece on one side by this much of its half-width; a knurled lid doesn't. */
const WIDER = 1.15

/** Whether what lies beyond a line across a thing is no wider than that: its own part, with ribs at even distances. */
function isBandOf({ line, low, high }: Beside, { axis, silhouette }: Candidate): boolean {
  if (!silhouette || Math.abs(line.up.x * axis.up.x + line.up.y * axis.up.y) > 0.5) return false
  const crossing = alongAxis(line, axis.at)
  return Math.max(high - crossing, crossing - low) < WIDER * Math.max(...silhouette.half)
}

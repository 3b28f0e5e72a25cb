import { outerRadiusAt } from '../profile/at-height'
import { endOf, startOf, type Segment } from '../profile/segments'
import { arrow, line, roughWidth, text, type Mark, type Spot } from './drawing'
import { heightsOf, levelsOf, radiiOf } from './levels'
import type { Place } from './half-section'
import type { SheetPiece } from './section-piece'
import { sidesOf } from '../profile/sides'

type At = (r: number, z: number) => Spot

/** Height of the figures (ISO 3098), and between lines of them. */
const FIGURE = 2.5
const ROW = 5.2
/** Extension lines begin this far from what they measure and go on this far beyond the dimension line. */
const GAP = 1
const BEYOND = 1.5
/** From the view to the columns of figures. */
const COLUMN = 12
const MOST_LEVELS = 14
const MOST_RADII = 6
const MOST_INNER = 3
/** A narrower inside has no room for its figure, mm on the page. */
const LEAST_INNER = 9
/** From the rim to the dimension line of a mouth. */
const MOUTH_BESIDE = 5
/** From the axis to the dimension line of the floor. */
const FLOOR_BESIDE = 3.2

/** All dimensions of the view: ⌀ and radii on the left, heights on the right, the largest ⌀ below, inner ⌀ and the floor inside. */
export function dimensions(piece: SheetPiece, place: Place, at: At): Mark[] {
  const { segments } = piece.solids[0]!
  const { under, outer, inside } = sidesOf(segments)
  const apart = ROW / place.scale.factor
  const room = Math.floor(((place.highest - place.lowest) * place.scale.factor) / ROW) + 2
  const levels = levelsOf(outer, piece.stations, apart * 0.6).slice(0, Math.min(room, MOST_LEVELS))
  return [
    ...leaders(piece, place, at, outer, levels),
    ...heights(
      piece,
      place,
      at,
      heightsOf(outer, piece.stations, apart * 0.6).slice(0, Math.min(room, MOST_LEVELS)),
    ),
    ...largestBelow(piece, place),
    ...innerSizes(piece, place, at, inside),
    ...innerSizes(piece, place, at, under),
    ...(inside.length + under.length > 0 ? floorSize(piece, place, at, segments) : []),
  ]
}

/** Left: each ⌀ and radius with a leader to its place. */
function leaders(
  { lengthText }: SheetPiece,
  place: Place,
  at: At,
  outside: readonly Segment[],
  levels: readonly { r: number; z: number; name: string | null }[],
): Mark[] {
  const wanted = [
    ...levels.map(({ r, z, name }) => ({ tip: at(-r, z), words: `${name ? `${name} ` : ''}⌀ ${lengthText(2 * r)}` })), // prettier-ignore
    ...radiiOf(outside, 3 / place.scale.factor)
      .slice(0, MOST_RADII)
      .map(({ r, z, radius }) => ({ tip: at(-r, z), words: `R ${lengthText(radius)}` })),
  ].sort((a, b) => a.tip[1] - b.tip[1])
  const x = place.axisX - place.maxRadius * place.scale.factor - COLUMN
  const ys = spread(wanted.map((w) => w.tip[1]))
  return wanted.flatMap(({ tip, words }, k) => {
    const from: Spot = [x, ys[k]!]
    const short = fitted(words, x - 12)
    return [
      line([x - roughWidth(short, FIGURE) - 1, ys[k]!], from),
      line(from, tip),
      arrow(tip, [tip[0] - from[0], tip[1] - from[1]]),
      text([x - 1, ys[k]! - 0.9], short, { mm: FIGURE, anchor: 'end' }),
    ]
  })
}

/** A text cut to a width. */
function fitted(words: string, width: number): string {
  const most = Math.max(8, Math.floor(width / roughWidth('0', FIGURE)))
  return words.length <= most ? words : `…${words.slice(words.length - most + 1)}`
}

/** Places at least a row apart and not above `least`, as near to the wanted ones (which rise) as a sweep down and one up give. */
export function spread(wanted: readonly number[], least = -Infinity, row = ROW): number[] {
  const out = wanted.map((y, i) => Math.max(y, least + i * row))
  for (let i = 1; i < out.length; i++) out[i] = Math.max(out[i]!, out[i - 1]! + row)
  // Pushed down by half of what was pushed too far.
  const surplus = out.length ? (out.at(-1)! - wanted.at(-1)!) / 2 : 0
  if (surplus > 0) {
    out[out.length - 1]! -= surplus
    for (let i = out.length - 2; i >= 0; i--) out[i] = Math.min(out[i]!, out[i + 1]! - row)
    for (let i = 0; i < out.length; i++) out[i] = Math.max(out[i]!, least + i * row)
  }
  return out
}

/** Right: heights of the levels from the foot by superimposed running dimensions, then the overall height. */
function heights(
  { lengthText }: SheetPiece,
  place: Place,
  at: At,
  levels: readonly { r: number; z: number }[],
): Mark[] {
  const { lowest, highest, maxRadius, axisX, scale, groundY } = place
  const edge = axisX + maxRadius * scale.factor
  const x = edge + COLUMN
  const total = edge + 34
  const least = 0.5 / scale.factor
  const inner = levels.filter(({ z }) => z - lowest > least && highest - z > least).sort((a, b) => b.z - a.z)
  const top = at(0, highest)[1]
  const ys = spread(
    inner.map(({ z }) => at(0, z)[1]),
    top + 0.6 * ROW,
  )
  const marks: Mark[] = []
  inner.forEach(({ r, z }, k) => {
    const y = at(0, z)[1]
    const label = ys[k]!
    marks.push(line([axisX + r * scale.factor + GAP, y], [x + BEYOND, y]), arrow([x, y], [0, -1]))
    if (Math.abs(label - y) > 0.05) marks.push(line([x + BEYOND, y], [x + 4, label]))
    marks.push(text([x + (Math.abs(label - y) > 0.05 ? 4.6 : 2.2), label + FIGURE / 2], lengthText(z - lowest), { mm: FIGURE })) // prettier-ignore
  })
  if (inner.length > 0) {
    const upper = at(0, inner[0]!.z)[1]
    marks.push(line([x, groundY], [x, upper]), ring([x, groundY]))
  }
  marks.push(
    line([axisX + GAP + footRadius(place), groundY], [total + BEYOND, groundY]),
    line([axisX + GAP, top], [total + BEYOND, top]),
    line([total, groundY], [total, top]),
    arrow([total, groundY], [0, 1]),
    arrow([total, top], [0, -1]),
    text([total - 0.9, (top + groundY) / 2], lengthText(highest - lowest), { mm: FIGURE, anchor: 'middle', upwards: true }), // prettier-ignore
  )
  return marks
}

const footRadius = ({ maxRadius, scale }: Place) => maxRadius * scale.factor

/** The sign of an origin of running dimensions: a small circle. */
function ring([x, y]: Spot): Mark {
  const [r, k] = [0.9, 0.9 * 0.5523]
  return {
    kind: 'path',
    line: 'narrow',
    fill: 'paper',
    steps: [
      ['M', x + r, y],
      ['C', x + r, y + k, x + k, y + r, x, y + r],
      ['C', x - k, y + r, x - r, y + k, x - r, y],
      ['C', x - r, y - k, x - k, y - r, x, y - r],
      ['C', x + k, y - r, x + r, y - k, x + r, y],
      ['Z'],
    ],
  }
}

/** Below: the largest ⌀ of all, with both its extension lines. */
function largestBelow(
  { lengthText, solids }: SheetPiece,
  { axisX, groundY, scale, maxRadius, lowest }: Place,
): Mark[] {
  const y = groundY + 11
  const half = maxRadius * scale.factor
  const widest = Math.max(...solids.flatMap((s) => s.segments.flatMap((g) => [startOf(g), endOf(g)]).filter(([r]) => r > 0.98 * maxRadius).map(([, z]) => z)), lowest) // prettier-ignore
  const from = groundY - (widest - lowest) * scale.factor
  const ends = [axisX - half, axisX + half] as const
  return [
    ...ends.map((x) => line([x, Math.max(from, groundY - 2) + GAP], [x, y + BEYOND])),
    line([ends[0], y], [ends[1], y]),
    arrow([ends[0], y], [-1, 0]),
    arrow([ends[1], y], [1, 0]),
    text([axisX, y - 0.9], `⌀ ${lengthText(2 * maxRadius)}`, { mm: FIGURE, anchor: 'middle' }),
  ]
}

/** Inside: ⌀ from beyond the axis to the wall with one arrowhead, as half-sections have them. */
function innerSizes({ lengthText }: SheetPiece, place: Place, at: At, inside: readonly Segment[]): Mark[] {
  const { scale, axisX } = place
  const marks: Mark[] = []
  const fits = levelsOf(inside, [], (2 * ROW) / scale.factor).filter(
    ({ r }) => r * scale.factor > LEAST_INNER,
  )
  for (const { r, z } of fits.slice(0, MOST_INNER)) {
    // Not on the edge itself, where its own line runs.
    const own = [z - 3.2 / scale.factor, z + 3.2 / scale.factor, z]
      .map((h) => ({ h, r: outerRadiusAt(inside, h) }))
      .find((o) => o.r !== null && Math.abs(o.r - r) * scale.factor < 0.05)
    // A mouth that is nowhere upright: above the rim, where its edge is drawn up.
    if (!own?.r || own.h === z) {
      const edge =
        Math.abs(z - place.highest) * scale.factor < 1
          ? -1
          : Math.abs(z - place.lowest) * scale.factor < 1
            ? 1
            : 0
      const [x, y] = at(r, z)
      if (edge !== 0) {
        marks.push(...mouth([x, y], axisX, edge, `⌀ ${lengthText(2 * r)}`))
        continue
      }
    }
    const tip = own?.r ? at(own.r, own.h) : at(r, z)
    marks.push(line([axisX - 4, tip[1]], tip), arrow(tip, [1, 0]))
    marks.push(text([axisX + 1.5, tip[1] - 0.9], `⌀ ${lengthText(2 * r)}`, { mm: FIGURE }))
  }
  return marks
}

/** The ⌀ of a mouth beside the view: above the rim (-1), or below the foot (1). */
function mouth([x, y]: Spot, axisX: number, edge: -1 | 1, words: string): Mark[] {
  const level = y + edge * MOUTH_BESIDE
  return [
    line([x, y + edge * GAP], [x, level + edge * BEYOND]),
    line([axisX - 4, level], [x, level]),
    arrow([x, level], [1, 0]),
    text([axisX + 1.5, level - 0.9], words, { mm: FIGURE }),
  ]
}

/** How thick the piece is on the axis, where it is hollow from above or from below: beside the axis, on the side that isn't hatched. */
function floorSize(
  { lengthText }: SheetPiece,
  { axisX }: Place,
  at: At,
  segments: readonly Segment[],
): Mark[] {
  const [, below] = startOf(segments[0]!)
  const [, above] = endOf(segments.at(-1)!)
  const x = axisX - FLOOR_BESIDE
  const [y0, y1] = [at(0, above)[1], at(0, below)[1]]
  const words = lengthText(above - below)
  const extensions = [y0, y1].map((y) => line([axisX, y], [x - BEYOND, y]))
  const roomy = y1 - y0 > roughWidth(words, FIGURE) + 2
  return roomy
    ? [
        ...extensions,
        line([x, y0], [x, y1]),
        arrow([x, y0], [0, -1]),
        arrow([x, y1], [0, 1]),
        text([x - 0.9, (y0 + y1) / 2], words, { mm: FIGURE, anchor: 'middle', upwards: true }),
      ]
    : [
        ...extensions,
        line([x, y0 - 9], [x, y1 + 5]),
        arrow([x, y0], [0, 1]),
        arrow([x, y1], [0, -1]),
        text([x - 0.9, y0 - 5], words, { mm: FIGURE, anchor: 'end' }),
      ]
}

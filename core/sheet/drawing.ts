import { cubicsOf, startOf, type Segment } from '../profile/segments'

/** A position on a page, mm from its upper left corner, y down. */
export type Spot = readonly [x: number, y: number]

/** One step of a path, in mm on the page. */
export type Step =
  | readonly ['M' | 'L', number, number]
  | readonly ['C', number, number, number, number, number, number]
  | readonly ['Z']

/** Kinds of lines after ISO 128-2: continuous wide and narrow, long-dashed dotted narrow, and finest for hatching. */
export type Line = 'wide' | 'narrow' | 'chain' | 'fine'

/** Widths, mm: line group 0.5 of ISO 128-2, in which narrow lines have half the width of wide ones. */
export const LINE_WIDTH: Record<Line, number> = {
  wide: 0.5,
  narrow: 0.25,
  chain: 0.25,
  fine: 0.18,
}
/** Dashes and gaps, mm: 24 d, 3 d, a dot of half a line's width, 3 d (ISO 128-2). */
export const DASHES: Partial<Record<Line, readonly number[]>> = {
  chain: [6, 0.75, 0.125, 0.75],
}

export type Ink = 'ink' | 'soft' | 'paper'

export interface PathMark {
  kind: 'path'
  steps: readonly Step[]
  /** Absent: only filled. */
  line?: Line
  fill?: Ink
}
export interface TextMark {
  kind: 'text'
  at: Spot
  text: string
  /** Height of capitals, mm (ISO 3098). */
  mm: number
  anchor: 'start' | 'middle' | 'end'
  /** Reads upwards. */
  upwards?: boolean
  bold?: boolean
  ink?: Ink
}
/** Marks moved by `by`, of which only what lies in the box (of the page) is seen. */
export interface WindowMark {
  kind: 'window'
  box: Box
  by: Spot
  marks: readonly Mark[]
}
export type Mark = PathMark | TextMark | WindowMark

export interface Box {
  x: number
  y: number
  width: number
  height: number
}

/** A sheet of paper with what is on it, mm. */
export interface Page {
  width: number
  height: number
  marks: readonly Mark[]
}

export function line([x1, y1]: Spot, [x2, y2]: Spot, kind: Line = 'narrow'): PathMark {
  return { kind: 'path', line: kind, steps: [['M', x1, y1], ['L', x2, y2]] } // prettier-ignore
}

export function rectangle({ x, y, width, height }: Box, kind: Line = 'narrow'): PathMark {
  const steps: Step[] = [['M', x, y], ['L', x + width, y], ['L', x + width, y + height], ['L', x, y + height], ['Z']] // prettier-ignore
  return { kind: 'path', line: kind, steps }
}

export function text(
  at: Spot,
  words: string,
  options: Partial<Omit<TextMark, 'kind' | 'at' | 'text'>> = {},
): TextMark {
  return { kind: 'text', at, text: words, mm: 2.5, anchor: 'start', ...options }
}

/** Length and half breadth of arrowheads, mm: narrow, closed and filled, 15° (ISO 129-1). */
const ARROW: Spot = [3, 0.4]

/** A filled arrowhead whose tip is at `tip` and that points along `way` (any length). */
export function arrow([x, y]: Spot, [wx, wy]: Spot): PathMark {
  const length = Math.hypot(wx, wy)
  const [ux, uy] = [wx / length, wy / length]
  const [bx, by] = [x - ARROW[0] * ux, y - ARROW[0] * uy]
  const [sx, sy] = [-uy * ARROW[1], ux * ARROW[1]]
  return { kind: 'path', fill: 'ink', steps: [['M', x, y], ['L', bx + sx, by + sy], ['L', bx - sx, by - sy], ['Z']] } // prettier-ignore
}

/** A curve of the profile as steps, placed by an affine map; arcs as close cubics (4e-6 of the radius). */
export function curveSteps(segments: readonly Segment[], place: (r: number, z: number) => Spot): Step[] {
  const first = segments[0]
  if (!first) return []
  const steps: Step[] = [['M', ...place(...startOf(first))]]
  for (const segment of segments) {
    if (segment.kind === 'line') {
      steps.push(['L', ...place(segment.cubic[6], segment.cubic[7])])
      continue
    }
    for (const c of cubicsOf(segment))
      steps.push(['C', ...place(c[2], c[3]), ...place(c[4], c[5]), ...place(c[6], c[7])])
  }
  return steps
}

/** Width of a text, mm, about: signs of the font are half as wide as tall on average, capitals more. For layout only. */
export function roughWidth(words: string, mm: number): number {
  return words.length * mm * 0.78
}

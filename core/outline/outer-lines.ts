import { rowsOf, type Silhouette, type Strip } from './silhouette'

/** A line's edge is at least this sharp on both sides; the grain of a plain backdrop was seen to show up to 0.13. */
const LEAST_EDGE = 0.2
/** From row to row a line moves on by no more than this from where it was going, px, and is lost for no more than so many rows, … */
const ASIDE = 2
const MOST_GAP = 2
/** … or so many if one side shows an edge this sharp. */
const ONE_SIDE = 0.6
const MOST_ONE_SIDED = 6
/** It moves over and bends by these shares of how far off it is found. */
const MOVES = 1 / 2
const BENDS = 1 / 6
/** It leaves the silhouette where that recedes faster than it, and has come back where it is this near again, px. */
const BACK = 1.5
/** Lines that go this far out, px, over so many rows at least are believed. */
const LEAST_OUT = 4
const LEAST_ROWS = 5
/** So many rows tell where the line is going. */
const LEADING_ROWS = 6
/** A line this near to the silhouette, px, isn't seen beside its edge. */
const PARTED = 4

/**
 * The silhouette with notches filled past which a line runs that both sides show, from where the notch begins to where it ends. Before a
 * plain backdrop there is none but the piece's: thick glass shows the backdrop within it, and there the brightest edges are of what
 * shines through.
 */
export function withOuterLines(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  for (const down of [1, -1] as const) {
    const [from, to] = down > 0 ? [first, last] : [last, first]
    for (let row = from + LEADING_ROWS * down; (to - row) * down > 0; row += down) {
      const line = lineFrom(strip, half, { row, to, down })
      if (!line) continue
      line.forEach((r, k) => (half[row + k * down] = r))
      row += (line.length - 1) * down
    }
  }
  return { ...silhouette, half }
}

/** Half-widths of a line that goes on where the silhouette recedes, from a row to where both meet again; null where there is none. */
function lineFrom(
  { both, weaker, radii }: Strip,
  half: Float32Array,
  { row, to, down }: { row: number; to: number; down: 1 | -1 },
): number[] | null {
  const before = half[row - down]!
  let lean = (before - half[row - LEADING_ROWS * down]!) / (LEADING_ROWS - 1)
  if (half[row]! > before + lean - LEAST_OUT / 2) return null
  const line: number[] = []
  let at = before
  let gap = 0
  let oneSided = 0
  let out = 0
  for (let k = row; (to - k) * down >= 0; k += down) {
    at += lean
    if (at >= radii - ASIDE) return null
    if (line.length > 0 && half[k]! >= at - BACK) return isLine(line, out) ? line : null
    const i = k * (radii + 1)
    /** The clearest near where the line was going. Of the silhouette's own edge nothing is told. */
    const clearest = (edgeAt: (r: number) => number, least: number) => {
      let [found, best]: [number | null, number] = [null, least]
      for (let r = Math.round(at) - ASIDE; r <= Math.round(at) + ASIDE; r++)
        if (r > half[k]! + 1 && edgeAt(r) > best) [found, best] = [r, edgeAt(r)]
      return found
    }
    const byBoth = clearest((r) => weaker[i + r] ?? 0, LEAST_EDGE)
    const found = byBoth ?? clearest((r) => (both[i + r] ?? 0) - (weaker[i + r] ?? 0), ONE_SIDE)
    // Where both part it can't be told from the silhouette's edge.
    const isNear = half[k]! > at - PARTED
    if (byBoth !== null) gap = oneSided = 0
    else if (!isNear) {
      gap = found === null ? gap + 1 : 0
      oneSided++
    }
    if (gap > MOST_GAP || oneSided > MOST_ONE_SIDED) return null
    if (found !== null) {
      lean += BENDS * (found - at)
      at += MOVES * (found - at)
    }
    line.push(at)
    out = Math.max(out, at - half[k]!)
  }
  return null
}

const isLine = (line: readonly number[], out: number) => line.length >= LEAST_ROWS && out >= LEAST_OUT

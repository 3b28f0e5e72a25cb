import { outerRadiusAt } from '../profile/at-height'
import { boxPoints } from '../profile/flatten'
import { pointOn, type Segment } from '../profile/segments'
import { encodeText } from './text'

export const csv = {
  name: 'Diameters CSV',
  extension: 'csv',
  mediaType: 'text/csv',
  toBytes: writeCsv,
} as const

/** Both sides of a wall, or the outside alone. */
export interface Sides {
  outside: readonly Segment[]
  inside: readonly Segment[] | null
}

/** Rows over the height; heights of nodes come on top. */
const ROWS = 200

/**
 * Height, ⌀, inner ⌀ and wall (measured level, across) as a table in mm: at even heights, and just above and below each level
 * line, where the ⌀ jumps. Of several diameters at a height the outermost one of the outside, the outermost of the inside.
 */
export function writeCsv({ outside, inside }: Sides): Uint8Array<ArrayBuffer> {
  const box = outside.flatMap((s) => boxPoints(s).map(([, z]) => z))
  const [low, high] = [Math.min(...box), Math.max(...box)]
  const nudge = 1e-6 * (high - low)
  const even = Array.from({ length: ROWS + 1 }, (_, i) => low + ((high - low) * i) / ROWS)
  const nodes = [...outside, ...(inside ?? [])].flatMap((s) => [pointOn(s, 0)[1], pointOn(s, 1)[1]])
  const heights = [...even, ...nodes.flatMap((z) => [z - nudge, z + nudge])]
    .map((z) => Math.min(high - nudge, Math.max(low + nudge, z)))
    .sort((a, b) => a - b)
    .filter((z, i, all) => i === 0 || z - all[i - 1]! > nudge / 2)
  const lines = ['height_mm,diameter_mm,inner_diameter_mm,wall_mm']
  for (const z of heights) {
    const r = outerRadiusAt(outside, z)
    if (r === null) continue
    const own = inside ? outerRadiusAt(inside, z) : null
    const cells = [n(z), n(2 * r), own === null ? '' : n(2 * own), own === null ? '' : n(r - own)]
    lines.push(cells.join(','))
  }
  return encodeText(`${lines.join('\r\n')}\r\n`)
}

const n = (mm: number) => String(Number(mm.toFixed(5)))

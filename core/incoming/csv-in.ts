import Papa from 'papaparse'
import { CoreError } from '../errors'
import { lineSegment, type Segment } from '../profile/segments'
import { MOST_ELEMENTS, refusal, type DrawnCurve } from './drawn'

/** Names of columns in a few languages of workshops, lower case, without their unit. */
const COLUMNS = {
  height: /^(height|z|h|höhe|hauteur|altezza|altura)$/,
  diameter: /^(diameter|⌀|ø|d|durchmesser|diamètre|diametro|diámetro)$/,
  radius: /^(radius|r|rayon|raggio|radio)$/,
  inner: /^(inner diameter|inner ⌀|inner ø|inside diameter|id|innendurchmesser)$/,
} as const
const UNITS: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, inch: 25.4, inches: 25.4 }

/**
 * A table of heights and diameters (or radii), with a header or without one: then the first column is the height and the second
 * the ⌀. Commas, semicolons or tabs; decimal commas where fields are parted otherwise. An inner ⌀ makes a hollow piece.
 * @throws CoreError `bad-csv`, with the row
 */
export function readCsv(text: string): DrawnCurve {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, '').trim(), { delimitersToGuess: [';', '\t', ','], skipEmptyLines: true }) // prettier-ignore
  if (data.length > MOST_ELEMENTS) throw new CoreError(refusal('too-much', `The table has ${data.length} rows; up to ${MOST_ELEMENTS} are read.`)) // prettier-ignore
  const first = data[0] ?? []
  const headed = first.length > 0 && first.every((cell) => Number.isNaN(numberOf(cell)))
  const columns = headed ? columnsOf(first) : { height: 0, across: 1, inner: -1, half: false, unit: null }
  const rows = data.slice(headed ? 1 : 0).map((cells, k) => rowOf(cells, columns, k + (headed ? 2 : 1)))
  const points = rows.filter((row, i) => i === 0 || row.z !== rows[i - 1]!.z || row.r !== rows[i - 1]!.r)
  if (points.length < 2)
    throw new CoreError(refusal('bad-csv', 'The table needs two rows at least, each with a height and a ⌀.'))
  const upwards = points[0]!.z <= points.at(-1)!.z ? points : [...points].reverse()
  const outside = upwards.map(({ r, z }) => [r, z] as const)
  const within = upwards.flatMap(({ inner, z }) => (inner === null ? [] : [[inner, z] as const])).reverse()
  const chain = [[0, outside[0]![1]] as const, ...outside, ...(within.length > 1 ? within : []), [0, (within.length > 1 ? within : outside).at(-1)![1]] as const] // prettier-ignore
  const segments: Segment[] = []
  chain.slice(1).forEach((b, i) => {
    const a = chain[i]!
    if (a[0] !== b[0] || a[1] !== b[1]) segments.push(lineSegment([...a], [...b], i))
  })
  return { segments, mmPerUnit: columns.unit, placed: true, notes: headed ? [] : ['Without a header the first column was taken as height, the second as ⌀.'] } // prettier-ignore
}

interface Columns {
  height: number
  across: number
  inner: number
  /** The column across holds radii. */
  half: boolean
  unit: number | null
}

function columnsOf(header: readonly string[]): Columns {
  const cells = header.map((cell) => {
    const [, name = '', unit = ''] =
      /^(.*?)(?:[\s_[(]+(mm|cm|m|in|inch|inches)[\])]?)?$/i.exec(cell.trim().toLowerCase()) ?? []
    return { name: name.replace(/_/g, ' ').trim(), unit }
  })
  const find = (pattern: RegExp) => cells.findIndex(({ name }) => pattern.test(name))
  const [height, diameter, radius] = [find(COLUMNS.height), find(COLUMNS.diameter), find(COLUMNS.radius)]
  const across = diameter >= 0 ? diameter : radius
  if (height < 0 || across < 0)
    throw new CoreError(refusal('bad-csv', `The header says “${header.join(', ').slice(0, 80)}”; a column “height” and one “diameter” or “radius” are needed.`, 'row 1')) // prettier-ignore
  const unit = cells[height]!.unit
  return { height, across, inner: find(COLUMNS.inner), half: diameter < 0, unit: unit ? UNITS[unit]! : null }
}

function rowOf(cells: readonly string[], { height, across, inner, half }: Columns, row: number) {
  const read = (column: number, name: string) => {
    const value = numberOf(cells[column] ?? '')
    if (Number.isFinite(value) && (name === 'height' || value >= 0)) return value
    throw new CoreError(
      refusal('bad-csv', `Row ${row}: “${(cells[column] ?? '').slice(0, 30)}” is no ${name}.`, `row ${row}`),
    )
  }
  const own = inner >= 0 ? (cells[inner] ?? '').trim() : ''
  return {
    z: read(height, 'height'),
    r: read(across, half ? 'radius' : 'diameter') * (half ? 1 : 0.5),
    inner: own === '' ? null : read(inner, 'inner diameter') / 2,
  }
}

/** A number with point or comma; NaN for anything else. */
function numberOf(cell: string): number {
  const text = cell.trim().replace(',', '.')
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text) ? Number(text) : NaN
}

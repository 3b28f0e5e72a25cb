import { SaxesParser } from 'saxes'
import svgpath from 'svgpath'
import { CoreError } from '../errors'
import { arcOf } from '../profile/arc'
import type { Cubic } from '../profile/hobby'
import { lineSegment, type Segment } from '../profile/segments'
import { MOST_ELEMENTS, refusal, type DrawnCurve } from './drawn'

/** CSS units in mm (CSS Values and Units, level 3, section 5.2): an inch has 96 px. */
const MM: Record<string, number> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6, q: 0.25, px: 25.4 / 96, '': 25.4 / 96 } // prettier-ignore
const DEEPEST = 200

/**
 * The first path of an SVG file, with all transformations that apply to it; lines, circular arcs and Bézier curves as they are,
 * other arcs as close cubics. Where the file says how large it is (width with a unit, and viewBox), so does the result.
 * @throws CoreError `bad-svg`, `no-path`, `not-finite`, `too-much`
 */
export function readSvg(text: string): DrawnCurve {
  const { d, transforms, mmPerUnit, ours } = findPath(text)
  // Counted before they are read, which takes far longer.
  const [commands, numbers] = [d.match(/[a-df-z]/gi)?.length ?? 0, d.match(/[\s,-]\d/g)?.length ?? 0]
  if (commands > MOST_ELEMENTS || numbers > 7 * MOST_ELEMENTS)
    throw new CoreError(
      refusal('too-much', `The path has more than ${MOST_ELEMENTS} segments. Simplify it first.`),
    )
  const parsed = svgpath(d)
  if ((parsed as unknown as { err?: string }).err)
    throw new CoreError(refusal('bad-svg', `The path’s data is not understood (${(parsed as unknown as { err: string }).err}).`, 'path d')) // prettier-ignore
  for (const t of [...transforms].reverse()) parsed.transform(t)
  const notes: string[] = []
  const segments = segmentsOf(parsed, notes)
  if (segments.length === 0)
    throw new CoreError(refusal('no-path', 'The first path of the file draws nothing.'))
  return { segments, mmPerUnit, placed: ours, notes }
}

/** What the writer of this app says of its own files. */
const OURS = /^Half-profile in millimetres\. x: radius, axis at x = 0/

function findPath(text: string) {
  const parser = new SaxesParser()
  const stack: { name: string; transform: string; drawn: boolean; id: string }[] = []
  let found: { d: string; transforms: string[] } | null = null
  let own: { d: string; transforms: string[] } | null = null
  let [mmPerUnit, ours, words]: [number | null, boolean, string] = [null, false, '']
  let elements = 0
  parser.on('doctype', () => {
    // Entities are how small files grow without end; no drawing needs them.
    throw new CoreError(refusal('bad-svg', 'The file declares a document type, which may hide anything. Save it as plain SVG without one.')) // prettier-ignore
  })
  parser.on('error', (error) => {
    throw new CoreError(
      refusal('bad-svg', `The file is no well-formed SVG: ${error.message}. Export it again.`),
    )
  })
  parser.on('text', (t) => {
    if (stack.at(-1)?.name === 'desc' && words.length < 500) words += t
  })
  parser.on('opentag', ({ name, attributes }) => {
    const a = attributes as Record<string, string>
    if (++elements > MOST_ELEMENTS || stack.length >= DEEPEST)
      throw new CoreError(refusal('too-much', 'The file has more elements, or deeper ones, than any drawing of a profile. Export the half-profile alone.')) // prettier-ignore
    if (stack.length === 0) {
      if (name !== 'svg')
        throw new CoreError(refusal('bad-svg', `The file is XML, but no SVG: it begins with <${name}>.`))
      mmPerUnit = unitOf(a)
    }
    const parent = stack.at(-1)
    const drawn =
      (parent?.drawn ?? true) && !['defs', 'clipPath', 'mask', 'symbol', 'marker', 'pattern'].includes(name)
    stack.push({ name, transform: a['transform'] ?? '', drawn, id: a['id'] ?? '' })
    if (name !== 'path' || !drawn || !a['d']) return
    const place = { d: a['d'], transforms: stack.map((s) => s.transform).filter(Boolean) }
    found ??= place
    if (!own && stack.some((s) => s.id === 'half-profile')) own = place
  })
  parser.on('closetag', () => {
    if (stack.at(-1)?.name === 'desc') ours ||= OURS.test(words)
    stack.pop()
  })
  parser.write(text).close()
  const path = (ours ? own : null) ?? found
  if (!path) throw new CoreError(refusal('no-path', 'The file holds no path. Turn what is drawn into a path first, and export again.')) // prettier-ignore
  return { ...(path as { d: string; transforms: string[] }), mmPerUnit: mmPerUnit as number | null, ours }
}

function unitOf({ width = '', viewBox = '' }: Record<string, string>): number | null {
  const size = /^\s*([\d.eE+-]+)\s*([a-zA-Z]*)\s*$/.exec(width)
  const box = viewBox
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const mm = size && MM[size[2]!.toLowerCase()]
  if (!size || !mm) return null
  const real = Number(size[1]) * mm
  const units = box.length === 4 && box[2]! > 0 ? box[2]! : Number(size[1])
  // Without a unit a size is one of the screen, which says nothing of the piece.
  return size[2] === '' || size[2] === 'px' || !(real > 0) ? null : real / units
}

function segmentsOf(path: ReturnType<typeof svgpath>, notes: string[]): Segment[] {
  const out: Segment[] = []
  let [x, y, sx, sy] = [0, 0, 0, 0]
  let runs = 0
  let curved = false
  const to = (nx: number, ny: number) => ([x, y] = [nx, ny])
  const index = () => out.length
  const cubic = (c: number[]) =>
    void out.push({ kind: 'cubic', index: index(), cubic: c as unknown as Cubic })
  path.abs().unshort()
  path.iterate((segment) => {
    const [command, ...raw] = segment as [string, ...number[]]
    const v = raw.map(Number)
    if (v.some((n) => !Number.isFinite(n)))
      throw new CoreError(
        refusal('not-finite', 'The path holds numbers that are none. Export it again.', 'path d'),
      )
    if (command === 'M') {
      runs++
      to(v[0]!, v[1]!)
      ;[sx, sy] = [x, y]
      return
    }
    // Only the first of several runs of a path is the curve.
    if (runs > 1) return
    const [ax, ay] = [x, -y]
    switch (command) {
      case 'L':
        to(v[0]!, v[1]!)
        break
      case 'H':
        to(v[0]!, y)
        break
      case 'V':
        to(x, v[0]!)
        break
      case 'Z':
        to(sx, sy)
        break
      case 'C':
        cubic([ax, ay, v[0]!, -v[1]!, v[2]!, -v[3]!, v[4]!, -v[5]!])
        return void to(v[4]!, v[5]!)
      case 'Q': {
        const [qx, qy, ex, ey] = [v[0]!, -v[1]!, v[2]!, -v[3]!]
        cubic([ax, ay, ax + (2 / 3) * (qx - ax), ay + (2 / 3) * (qy - ay), ex + (2 / 3) * (qx - ex), ey + (2 / 3) * (qy - ey), ex, ey]) // prettier-ignore
        return void to(v[2]!, v[3]!)
      }
      case 'A': {
        const round = Math.abs(v[0]! - v[1]!) <= 1e-6 * Math.max(v[0]!, v[1]!)
        if (round) out.push(...circular([ax, ay], [v[5]!, -v[6]!], v[0]!, v[3] !== 0, v[4] !== 0, index()))
        else {
          curved = true
          elliptic(x, y, v).forEach(cubic)
        }
        return void to(v[5]!, v[6]!)
      }
      default:
        return
    }
    if (x !== ax || -y !== ay) out.push(lineSegment([ax, ay], [x, -y], index()))
  })
  if (runs > 1) notes.push('The path has several runs; only its first one was taken.')
  if (curved) notes.push('Arcs of ellipses were taken as close curves.')
  return out
}

/** An arc of a circle, in parts that a bulge can say. */
function circular(
  a: [number, number],
  b: [number, number],
  radius: number,
  large: boolean,
  clockwiseDown: boolean,
  index: number,
): Segment[] {
  const chord = Math.hypot(b[0] - a[0], b[1] - a[1])
  if (chord === 0) return []
  const half = Math.asin(Math.min(1, chord / (2 * radius)))
  const sweep = 2 * (large ? Math.PI - half : half)
  // Where y runs down a sweep of 1 turns to the right; seen with y up it still does.
  const arc = arcOf(a, b, (clockwiseDown ? -1 : 1) * Math.tan(sweep / 4))
  return [{ kind: 'arc', index, ends: [...a, ...b] as [number, number, number, number], arc }]
}

function elliptic(x: number, y: number, v: number[]): number[][] {
  const cubics: number[][] = []
  let [px, py] = [x, -y]
  svgpath(`M${x} ${y}A${v.join(' ')}`)
    .unarc()
    .iterate((segment) => {
      const [command, ...c] = segment as [string, ...number[]]
      if (command !== 'C') return
      cubics.push([px, py, c[0]!, -c[1]!, c[2]!, -c[3]!, c[4]!, -c[5]!])
      ;[px, py] = [c[4]!, -c[5]!]
    })
  return cubics
}

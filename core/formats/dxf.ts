import { endOf, startOf, type Segment } from '../profile/segments'
import { encodeText } from './text'

export const dxf = {
  name: 'Half-profile DXF',
  extension: 'dxf',
  mediaType: 'image/vnd.dxf',
  toBytes: writeDxf,
} as const

/** Names that every reader of this version looks for, with a handle each. */
const TABLES = [
  ['VPORT', []],
  ['LTYPE', ['ByBlock', 'ByLayer', 'Continuous']],
  ['LAYER', ['0', 'AXIS', 'HALF-PROFILE']],
  ['STYLE', ['Standard']],
  ['VIEW', []],
  ['UCS', []],
  ['APPID', ['ACAD']],
  ['DIMSTYLE', ['Standard']],
  ['BLOCK_RECORD', ['*Model_Space', '*Paper_Space']],
] as const

const RECORD_CLASSES: Record<string, string> = {
  LTYPE: 'AcDbLinetypeTableRecord',
  LAYER: 'AcDbLayerTableRecord',
  STYLE: 'AcDbTextStyleTableRecord',
  APPID: 'AcDbRegAppTableRecord',
  DIMSTYLE: 'AcDbDimStyleTableRecord',
  BLOCK_RECORD: 'AcDbBlockTableRecord',
}

/**
 * The exact half-profile as DXF (R2000, ASCII): lines as LINE, arcs as ARC, cubics as SPLINE of one Bézier span, in mm
 * ($INSUNITS 4); x is the radius, y the height, the axis at x = 0.
 */
export function writeDxf(segments: readonly Segment[], title = 'Half-profile'): Uint8Array<ArrayBuffer> {
  const out: (string | number)[] = []
  const put = (...pairs: (string | number)[]) => out.push(...pairs)
  let next = 0x30
  const handle = () => (next++).toString(16).toUpperCase()
  const heights = segments.flatMap((s) => [startOf(s)[1], endOf(s)[1]])
  const [low, high] = [Math.min(...heights), Math.max(...heights)]

  put(999, title.replace(/[\r\n]+/g, ' '))
  put(0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1015', 9, '$INSUNITS', 70, 4, 9, '$MEASUREMENT', 70, 1)
  put(9, '$HANDSEED', 5, 'FFFF', 0, 'ENDSEC')
  put(0, 'SECTION', 2, 'TABLES')
  const blockRecords: string[] = []
  for (const [name, records] of TABLES) {
    const table = handle()
    put(0, 'TABLE', 2, name, 5, table, 330, 0, 100, 'AcDbSymbolTable', 70, records.length)
    if (name === 'DIMSTYLE') put(100, 'AcDbDimStyleTable')
    for (const record of records) {
      const own = handle()
      if (name === 'BLOCK_RECORD') blockRecords.push(own)
      put(0, name, name === 'DIMSTYLE' ? 105 : 5, own, 330, table, 100, 'AcDbSymbolTableRecord')
      put(100, RECORD_CLASSES[name]!, 2, record)
      if (name !== 'BLOCK_RECORD') put(70, 0)
      if (name === 'LTYPE') put(3, '', 72, 65, 73, 0, 40, 0)
      if (name === 'LAYER') put(62, record === 'AXIS' ? 8 : 7, 6, 'Continuous')
      if (name === 'STYLE') put(40, 0, 41, 1, 50, 0, 71, 0, 42, 2.5, 3, 'txt', 4, '')
    }
    put(0, 'ENDTAB')
  }
  put(0, 'ENDSEC', 0, 'SECTION', 2, 'BLOCKS')
  for (const [k, name] of ['*Model_Space', '*Paper_Space'].entries()) {
    put(0, 'BLOCK', 5, handle(), 330, blockRecords[k]!, 100, 'AcDbEntity', 8, '0', 100, 'AcDbBlockBegin')
    put(2, name, 70, 0, 10, 0, 20, 0, 30, 0, 3, name, 1, '')
    put(0, 'ENDBLK', 5, handle(), 330, blockRecords[k]!, 100, 'AcDbEntity', 8, '0', 100, 'AcDbBlockEnd')
  }
  put(0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES')
  const entity = (kind: string, layer: string) => put(0, kind, 5, handle(), 330, blockRecords[0]!, 100, 'AcDbEntity', 8, layer) // prettier-ignore
  const line = (layer: string, a: readonly number[], b: readonly number[]) => {
    entity('LINE', layer)
    put(100, 'AcDbLine', 10, n(a[0]!), 20, n(a[1]!), 30, 0, 11, n(b[0]!), 21, n(b[1]!), 31, 0)
  }
  line('AXIS', [0, low], [0, high])
  for (const s of segments) {
    if (s.kind === 'line') line('HALF-PROFILE', startOf(s), endOf(s))
    else if (s.kind === 'arc') {
      const { centre, radius, from, sweep } = s.arc
      entity('ARC', 'HALF-PROFILE')
      put(100, 'AcDbCircle', 10, n(centre[0]), 20, n(centre[1]), 30, 0, 40, n(radius), 100, 'AcDbArc')
      // Arcs run counter-clockwise here; one that turns to the right is the same arc from its other end.
      put(50, degrees(sweep > 0 ? from : from + sweep), 51, degrees(sweep > 0 ? from + sweep : from))
    } else {
      entity('SPLINE', 'HALF-PROFILE')
      put(100, 'AcDbSpline', 210, 0, 220, 0, 230, 1, 70, 8, 71, 3, 72, 8, 73, 4, 74, 0, 42, 1e-9, 43, 1e-9)
      for (const knot of [0, 0, 0, 0, 1, 1, 1, 1]) put(40, knot)
      for (let i = 0; i < 8; i += 2) put(10, n(s.cubic[i]!), 20, n(s.cubic[i + 1]!), 30, 0)
    }
  }
  put(0, 'ENDSEC', 0, 'SECTION', 2, 'OBJECTS')
  const root = handle()
  const group = handle()
  put(0, 'DICTIONARY', 5, root, 330, 0, 100, 'AcDbDictionary', 281, 1, 3, 'ACAD_GROUP', 350, group)
  put(0, 'DICTIONARY', 5, group, 330, root, 100, 'AcDbDictionary', 281, 1)
  put(0, 'ENDSEC', 0, 'EOF')
  return encodeText(`${out.join('\n')}\n`)
}

/** Twelve significant digits: far below what any machine cuts to. */
function n(value: number): number {
  return Number(value.toPrecision(12))
}

function degrees(radians: number): number {
  const turned = ((radians * 180) / Math.PI) % 360
  return n(turned < 0 ? turned + 360 : turned)
}

import { strFromU8, unzipSync } from 'fflate'
import { SaxesParser } from 'saxes'
import { describe, expect, it } from 'vitest'
import { handOver } from '../piece/hand-over'
import { newPiece } from '../piece/schema'
import { node } from '../profile/test-samples'

interface Element {
  name: string
  attributes: Record<string, string>
  children: Element[]
  text: string
}

function parse(xml: string): Element {
  const root: Element = { name: '', attributes: {}, children: [], text: '' }
  const stack = [root]
  const parser = new SaxesParser()
  parser.on('error', (e) => {
    throw e
  })
  parser.on('opentag', ({ name, attributes }) => {
    const element: Element = {
      name,
      attributes: attributes as Record<string, string>,
      children: [],
      text: '',
    }
    stack.at(-1)!.children.push(element)
    stack.push(element)
  })
  parser.on('text', (text) => (stack.at(-1)!.text += text))
  parser.on('closetag', () => stack.pop())
  parser.write(xml).close()
  return root.children[0]!
}

/**
 * The rules of the schema in the 3MF Core Specification 1.3 (appendix B.1) that concern what is written here, from memory: names and
 * order of elements, allowed and needed attributes, forms of values, references.
 */
function schemaFaults(model: Element): string[] {
  const faults: string[] = []
  const check = (ok: boolean, what: string) => ok || faults.push(what)
  const ATTRIBUTES: Record<string, [needed: string[], allowed: string[]]> = {
    model: [[], ['unit', 'xml:lang', 'requiredextensions', 'xmlns']],
    metadata: [['name'], ['preserve', 'type']],
    resources: [[], []],
    basematerials: [['id'], []],
    base: [['name', 'displaycolor'], []],
    object: [['id'], ['type', 'pid', 'pindex', 'thumbnail', 'partnumber', 'name']],
    mesh: [[], []],
    vertices: [[], []],
    vertex: [['x', 'y', 'z'], []],
    triangles: [[], []],
    triangle: [
      ['v1', 'v2', 'v3'],
      ['pid', 'p1', 'p2', 'p3'],
    ],
    build: [[], []],
    item: [['objectid'], ['transform', 'partnumber']],
  }
  const CHILDREN: Record<string, string[]> = {
    model: ['metadata', 'resources', 'build'],
    resources: ['basematerials', 'object'],
    basematerials: ['base'],
    object: ['mesh'],
    mesh: ['vertices', 'triangles'],
    vertices: ['vertex'],
    triangles: ['triangle'],
    build: ['item'],
  }
  const visit = (element: Element) => {
    const rule = ATTRIBUTES[element.name]
    if (!rule) return void faults.push(`element ${element.name}`)
    const [needed, allowed] = rule
    for (const name of needed) check(name in element.attributes, `${element.name} lacks ${name}`)
    for (const name of Object.keys(element.attributes))
      check([...needed, ...allowed].includes(name), `${element.name}/@${name}`)
    const order = CHILDREN[element.name] ?? []
    const places = element.children.map((c) => order.indexOf(c.name))
    check(
      places.every((p, i) => p >= 0 && (element.name === 'resources' || i === 0 || p >= places[i - 1]!)),
      `order in ${element.name}`,
    )
    element.children.forEach(visit)
  }
  visit(model)
  check(
    ['micron', 'millimeter', 'centimeter', 'inch', 'foot', 'meter'].includes(
      model.attributes['unit'] ?? 'millimeter',
    ),
    'unit',
  )
  check(
    model.attributes['xmlns'] === 'http://schemas.microsoft.com/3dmanufacturing/core/2015/02',
    'namespace',
  )
  const named = model.children.filter((c) => c.name === 'metadata').map((m) => m.attributes['name']!)
  check(new Set(named).size === named.length, 'metadata twice')
  const WELL_KNOWN = ['Title', 'Designer', 'Description', 'Copyright', 'LicenseTerms', 'Rating', 'CreationDate', 'ModificationDate', 'Application'] // prettier-ignore
  check(
    named.every((n) => WELL_KNOWN.includes(n)),
    'metadata without a namespace',
  )
  const resources = model.children.find((c) => c.name === 'resources')!
  const ids = resources.children.map((r) => r.attributes['id']!)
  check(
    ids.every((id) => /^[1-9]\d{0,9}$/.test(id) && Number(id) < 2 ** 31),
    'resource id',
  )
  check(new Set(ids).size === ids.length, 'ids twice')
  const bases = resources.children.find((c) => c.name === 'basematerials')!.children
  check(bases.length > 0 && bases.every((b) => /^#[0-9A-F]{6}([0-9A-F]{2})?$/i.test(b.attributes['displaycolor']!)), 'displaycolor') // prettier-ignore
  for (const object of resources.children.filter((c) => c.name === 'object')) {
    const { pid, pindex, type } = object.attributes
    check(type === 'model', 'type')
    check(pid === undefined || (ids.includes(pid) && Number(pindex) < bases.length), 'pid')
    const [vertices, triangles] = object.children[0]!.children as [Element, Element]
    check(vertices.children.length >= 3 && triangles.children.length >= 4, 'too few')
    // ST_Number.
    const number = /^[-+]?(\d+(\.\d+)?|\.\d+)([eE][-+]?\d+)?$/
    check(
      vertices.children.every((v) => ['x', 'y', 'z'].every((k) => number.test(v.attributes[k]!))),
      'number',
    )
    for (const { attributes } of triangles.children) {
      const corners = ['v1', 'v2', 'v3'].map((k) => Number(attributes[k]))
      check(
        corners.every((v) => Number.isInteger(v) && v >= 0 && v < vertices.children.length),
        'index',
      )
      check(new Set(corners).size === 3, 'triangle with two equal corners')
      check(attributes['p1'] === undefined || Number(attributes['p1']) < bases.length, 'p1')
    }
  }
  for (const item of model.children.at(-1)!.children)
    check(ids.includes(item.attributes['objectid']!), 'objectid')
  return [...new Set(faults)]
}

const nodes = [
  node(0, 0),
  node(30, 0),
  node(34, 40, 'corner', { next: 'arc', bulge: 0.2 }),
  node(20, 90),
  node(0, 90),
]
const zoned = {
  ...newPiece('Jar & “lid” <1>'),
  profile: { side: 'right' as const, nodes },
  solid: { sides: 24, material: 'stoneware' },
  zones: [{ id: 'z', name: 'Foot', fromMm: 0, toMm: 10, material: 'felt' }],
}

describe('3MF', () => {
  it('keeps the rules of the core specification’s schema, with materials by zone', () => {
    const files = unzipSync(handOver(zoned, '3mf'))
    const model = parse(strFromU8(files['3D/3dmodel.model']!))
    expect(schemaFaults(model)).toEqual([])
    const text = strFromU8(files['3D/3dmodel.model']!)
    expect(text).toMatch(/p1="[01]"/)
    const types = parse(strFromU8(files['[Content_Types].xml']!))
    expect(types.children.map((c) => c.attributes['Extension'])).toEqual(['rels', 'model'])
    const [link] = parse(strFromU8(files['_rels/.rels']!)).children
    expect(link!.attributes).toMatchObject({ Target: '/3D/3dmodel.model', Type: 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel' }) // prettier-ignore
  })

  it('and the check itself sees what is wrong', () => {
    const good = strFromU8(unzipSync(handOver(zoned, '3mf'))['3D/3dmodel.model']!)
    const faultsOf = (text: string) => schemaFaults(parse(text))
    expect(faultsOf(good.replace('unit="millimeter"', 'unit="furlong"'))).toEqual(['unit'])
    expect(faultsOf(good.replace('objectid="2"', 'objectid="9"'))).toEqual(['objectid'])
    expect(faultsOf(good.replace(/v1="\d+"/, 'v1="99999"'))).toContain('index')
    expect(faultsOf(good.replace('displaycolor="#', 'displaycolor="'))).toContain('displaycolor')
  })
})

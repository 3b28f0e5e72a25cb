import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { packSet } from '../core/piece/set-archive'
import { newPiece, type PieceDocument } from '../core/piece/schema'

const dir = mkdtempSync(join(tmpdir(), 'baldacchino-cli-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))

function cli(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [
    '--import',
    'tsx',
    join(import.meta.dirname, 'main.ts'),
    ...args,
  ])
  return { status, stdout, text: stdout.toString(), error: stderr.toString() }
}
function file(name: string, content: unknown): string {
  const path = join(dir, name)
  writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content))
  return path
}

const cone: PieceDocument = {
  ...newPiece('Cone'),
  profile: { side: 'right', nodes: [[0, 0], [30, 0], [0, 90]].map(([r, z], i) => ({ id: String(i), r: r!, z: z!, joint: 'corner', next: 'line' })) }, // prettier-ignore
  solid: { sides: 8 },
}
const open: PieceDocument = { ...cone, profile: { ...cone.profile, nodes: cone.profile.nodes.slice(0, 2) } }

describe('command line', () => {
  it('measures a document, also as the server answers it', () => {
    for (const content of [cone, { id: 'x', revision: 3, document: cone }]) {
      const { status, text } = cli('check', file('cone.json', content))
      expect(status).toBe(0)
      // Cone: π r² h / 3.
      expect(JSON.parse(text)).toMatchObject({ closed: true, height: 90, maxDiameter: 60, maxDiameterAt: 0 })
      expect(JSON.parse(text).volume).toBeCloseTo((Math.PI * 900 * 90) / 3, 6)
    }
  })

  it('measures and writes a piece with parts, each by its name', () => {
    const ball = { id: 'b', name: 'Ball', relation: 'separate', target: 'body', shown: true, material: null, shape: { kind: 'ball', diameterMm: 20 }, place: { z: 102, r: 0, azimuth: 0, lean: 0, turn: 0 }, round: null, clearanceMm: null } // prettier-ignore
    const slot = { ...ball, id: 's', name: 'Slot', relation: 'cut', shape: { kind: 'slot', widthMm: 10 }, place: { ...ball.place, z: 60 } } // prettier-ignore
    const path = file('parts.json', { ...cone, solid: { sides: 64 }, parts: [ball, slot] })
    const checked = JSON.parse(cli('check', path).text) as { volume: number; faults: unknown[]; parts: { name: string; volume: number; gap: number; overlap: number }[] } // prettier-ignore
    expect(checked.faults).toEqual([])
    expect(checked.volume).toBeLessThan((Math.PI * 900 * 90) / 3 - 1000)
    // The ball hangs 2 mm above where the tip was; the slot took the tip.
    expect(checked.parts).toMatchObject([{ name: 'Ball', overlap: 0 }])
    expect(checked.parts[0]!.volume / ((4 / 3) * Math.PI * 1000)).toBeCloseTo(1, 1)
    const text = cli('solid', path, '--format', 'obj').text
    expect([...text.matchAll(/^o (.+)$/gm)].map((m) => m[1])).toEqual(['Cone', 'Ball'])
    expect(cli('solid', path, '--format', 'step').error).toContain('“Ball” is none')
  })

  it('writes files to a path or to standard output', () => {
    const out = join(dir, 'cone.stl')
    expect(
      cli('solid', file('cone.json', cone), '--format', 'stl', '--sides', '20', '--out', out).status,
    ).toBe(0)
    expect(readFileSync(out).readUInt32LE(80)).toBe(40)
    const obj = cli('solid', file('cone.json', cone), '--format', 'obj')
    expect(obj.text.match(/^f /gm)).toHaveLength(16)
    expect(cli('solid', file('cone.json', cone), '--format', 'svg').text).toContain('M0 0L30 0L0 -90')
  })

  it('writes several formats and sheets into a folder, an OBJ with its materials', () => {
    const path = file('cone.json', cone)
    const folder = join(dir, 'out')
    expect(cli('solid', path, '--format', 'stl, obj,step', '--out', folder).status).toBe(0)
    expect(readdirSync(folder).sort()).toEqual(['cone.mtl', 'cone.obj', 'cone.step', 'cone.stl'])
    expect(readFileSync(join(folder, 'cone.obj'), 'utf8')).toContain('mtllib cone.mtl')
    expect(readFileSync(join(folder, 'cone.mtl'), 'utf8')).toContain('newmtl plain')
    // Standard output takes one file only.
    expect(cli('solid', path, '--format', 'stl,step')).toMatchObject({ status: 2 })
    const pdf = cli(
      'sheet',
      path,
      '--format',
      'section.pdf',
      '--paper',
      'A3',
      '--time',
      '2026-03-14T10:00:00',
    )
    expect(pdf.stdout.subarray(0, 5).toString()).toBe('%PDF-')
    const svg = cli('sheet', path, '--format', 'section.svg').text
    expect(svg).toContain('⌀ 60.0')
    expect(cli('sheet', path, '--format', 'stl').error).toContain('is written by “solid”')
    expect(cli('sheet', path, '--format', 'section.pdf', '--paper', 'B7').error).toContain(
      '--paper is one of A4',
    )
  })

  it('turns and scales meshes whose format says neither unit nor up', () => {
    const path = file('cone.json', cone)
    const points = (text: string) =>
      [...text.matchAll(/^v (\S+) (\S+) (\S+)$/gm)].map((m) => m.slice(1).map(Number))
    const usual = points(cli('solid', path, '--format', 'obj').text)
    const turned = points(cli('solid', path, '--format', 'obj', '--unit', 'in', '--up', 'y').text)
    usual.forEach(([x, y, z], i) => {
      const [u, v, w] = turned[i]!
      expect(u).toBeCloseTo(x! / 25.4, 6)
      expect(v).toBeCloseTo(z! / 25.4, 6)
      expect(w).toBeCloseTo(-y! / 25.4, 6)
    })
    expect(cli('solid', path, '--format', 'obj', '--up', 'x').error).toContain('--up is y or z')
  })

  it('writes a GLB with the pictures of an archive, WebP as PNG', async () => {
    const bytes = await sharp({ create: { width: 16, height: 8, channels: 3, background: '#a05030' } })
      .webp()
      .toBuffer()
    const sha256 = 'e'.repeat(64)
    const picture = { sha256, fileName: 'a.webp', mediaType: 'image/webp' as const, width: 16, height: 8, acrossMm: 50, turn: 0, upMm: 0, aroundMm: 0 } // prettier-ignore
    const document = { ...cone, solid: { ...cone.solid, picture } }
    const zip = join(dir, 'laid.zip')
    writeFileSync(zip, packSet({ name: null, documents: [document], photos: new Map([[sha256, { bytes, mediaType: 'image/webp' }]]) })) // prettier-ignore
    const glb = cli('solid', zip, '--format', 'glb').stdout
    expect(glb.subarray(0, 4).toString()).toBe('glTF')
    const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString()) as {
      images: { mimeType: string }[]
    }
    expect(json.images.map((i) => i.mimeType)).toEqual(['image/png'])
  })

  it('goes through a folder, says what can’t be and goes on', () => {
    const folder = mkdtempSync(join(dir, 'batch-'))
    const put = (name: string, content: string | Uint8Array) => writeFileSync(join(folder, name), content)
    put('a.json', JSON.stringify(cone))
    put('b.json', JSON.stringify(open))
    put('c.json', 'no document')
    put('d.zip', packSet({ name: 'S', documents: [cone, { ...cone, name: 'Other' }], photos: new Map() }))
    put('e.txt', 'left alone')
    const { status, text } = cli('batch', folder, '--format', 'stl,csv', '--out', join(folder, 'out'))
    expect(status).toBe(1)
    expect(text).toMatch(/Cone \(a\.json\) +90\.00 +60\.00 +84\.8 +2/)
    expect(text).toContain('3 of 5 pieces went well.')
    expect(text).toContain('not JSON')
    expect(readdirSync(join(folder, 'out')).sort()).toEqual(['cone-2.csv', 'cone-2.stl', 'cone.csv', 'cone.stl', 'other.csv', 'other.stl']) // prettier-ignore
    expect(cli('batch', mkdtempSync(join(dir, 'empty-')))).toMatchObject({ status: 2 })
  })

  it.each([
    [[], 2, ''],
    [['dance', 'cone.json'], 2, 'not a command'],
    [['check'], 2, 'needs the file'],
    [['check', '/no/such/file'], 2, 'no file'],
    [['solid', 'cone.json', '--format', 'pdf'], 2, '--format is one or more of stl, 3mf, glb'],
    [['solid', 'cone.json', '--format', 'stl', '--sides', '2'], 1, 'sides must be'],
    [['check', 'cone.json', '--wrong'], 2, '--help'],
    [['check', 'text.json'], 1, 'not JSON'],
    [['check', 'other.json'], 1, 'not the document of a piece'],
    [['solid', 'open.json', '--format', 'stl'], 1, 'bounds nothing|open'],
  ] as [string[], number, string][])('answers %j with exit code %d and a sentence', (args, status, words) => {
    file('cone.json', cone)
    file('open.json', open)
    file('text.json', 'hello')
    file('other.json', { a: 1 })
    const result = cli(...args.map((a) => (/^\w+\.json$/.test(a) ? join(dir, a) : a)))
    expect(result.status).toBe(status)
    expect(result.error).toMatch(new RegExp(words))
  })

  it('reads the half-profile of a piece off its photo', () => {
    const photo = join(import.meta.dirname, '../demo/photos/ink-bottle.jpg')
    const truth = JSON.parse(readFileSync(photo.replace('.jpg', '.json'), 'utf8')) as { maxDiameter: number }
    const { status, text } = cli('profile', photo, '--height', '112 mm')
    expect(status).toBe(0)
    const result = JSON.parse(text) as { unit: string; view: { kind: string }; profile: [number, number][]; height: number; maxDiameter: number; volume: number; outline: object; warnings: string[] } // prettier-ignore
    expect([result.unit, result.view.kind]).toEqual(['mm', 'near'])
    expect(result.height).toBeCloseTo(112, 4)
    expect(result.outline).toMatchObject({ unsure: expect.any(Array), axis: { foot: {}, top: {} } })
    const r = result.profile.map((p) => p[0])
    const z = result.profile.map((p) => p[1])
    expect(Math.max(...z) - Math.min(...z)).toBeCloseTo(112, 1)
    expect(Math.abs((2 * Math.max(...r)) / truth.maxDiameter - 1)).toBeLessThan(0.003)
    expect([r[0], r.at(-1)]).toEqual([0, 0])
  })

  it('writes the half-profile as SVG, CSV and STL, by the diameter as well', () => {
    const photo = join(import.meta.dirname, '../demo/photos/ink-bottle.jpg')
    const out = (ending: string) => join(dir, `ink.${ending}`)
    for (const ending of ['svg', 'csv', 'stl']) {
      const { status, error } = cli('profile', photo, '--diameter', '66 mm', '--view', 'distant', '--out', out(ending)) // prettier-ignore
      expect([status, error]).toEqual([0, ''])
    }
    expect(readFileSync(out('svg'), 'utf8')).toMatch(/<path d="M0 /)
    const rows = readFileSync(out('csv'), 'utf8').trim().split('\n').slice(1).map((row) => row.split(',').map(Number)) // prettier-ignore
    expect(Math.max(...rows.map((r) => r[1]!))).toBeCloseTo(66, 3)
    expect(rows.at(-1)![0]! / 112).toBeCloseTo(1, 2)
    expect(readFileSync(out('stl')).readUInt32LE(80)).toBeGreaterThan(1000)
  })

  it.each([
    [['profile', 'x.jpg'], 2, '--height'],
    [['profile', 'x.jpg', '--height', 'tall'], 2, 'not a length'],
    [['profile', 'x.jpg', '--height', '1 m', '--view', 'oblique'], 2, 'auto, near or distant'],
    [['profile', 'x.jpg', '--height', '1 m', '--diameter', '1 m'], 2, 'not both'],
    [['profile', 'x.jpg', '--height', '-3 mm'], 2, '--height'],
    [['profile', 'x.jpg', '--height', '1 m', '--axis', '1,2,3'], 2, '4 numbers'],
    [['profile', 'x.jpg', '--height', '1 m', '--axis', '1,2,3,4'], 2, 'too close'],
    [['profile', 'x.jpg', '--height', '1 m', '--k1', 'much'], 2, 'a number'],
    [['profile', 'x.jpg', '--height', '1 m', '--top', 'left'], 2, 'goes with --lying'],
    [['profile', 'x.jpg', '--height', '1 m', '--out', 'a.pdf'], 2, '.json, .svg, .csv, .stl|ends in'],
    [
      ['profile', 'x.jpg', '--height', '1 m', '--out', 'no-such-folder/a.svg'],
      2,
      'no folder “no-such-folder”',
    ],
    [['profile', 'text.json', '--height', '1 m'], 1, 'no picture'],
    [['profile', 'nowhere.jpg', '--height', '1 m'], 2, 'no file'],
  ] as [string[], number, string][])('answers %j with exit code %d and a sentence', (args, status, words) => {
    file('text.json', 'hello')
    const result = cli(...args.map((a) => (a === 'text.json' ? join(dir, a) : a)))
    expect(result.status).toBe(status)
    expect(result.error).toMatch(new RegExp(words))
  })
})

import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { NodeIO } from '@gltf-transform/core'
import { ALL_EXTENSIONS } from '@gltf-transform/extensions'
import { expect, test, type Page } from '@playwright/test'
import DxfParser from 'dxf-parser'
import { unzipSync } from 'fflate'
import { validateBytes } from 'gltf-validator'
import sharp from 'sharp'
import { BenchDriver, openCopy, watchConsole } from './bench-page'
import { asManifold, read3mf, readObj, readPly, readStep, readStl } from './readers'

async function save(page: Page, name: string): Promise<{ name: string; bytes: Buffer }> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: `Save ${name}`, exact: true }).click(),
  ])
  return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) }
}
const relative = (a: number, b: number) => Math.abs(a / b - 1)

test('the finished bell leaves in every format, and independent readers find it right', async ({ page }) => {
  test.setTimeout(240_000)
  const problems = watchConsole(page)
  const bench = new BenchDriver(page)
  await openCopy(page, 'Hand bell', 'hand-over')
  const exact = Number(/[\d.]+/.exec(await bench.measure('volume'))![0]) * 1000
  const height = await bench.millimetres('height')
  const diameter = await bench.millimetres('diameter')

  const stl = await asManifold(readStl((await save(page, 'hand-bell-copy.stl')).bytes))
  expect(stl).toMatchObject({ status: 'NoError', pieces: 1 })
  const sides = 64
  expect(
    relative(stl.volume / ((sides / (2 * Math.PI)) * Math.sin((2 * Math.PI) / sides)), exact),
  ).toBeLessThan(3e-3)

  const obj = unzipSync((await save(page, 'hand-bell-copy.obj')).bytes)
  expect(Object.keys(obj).sort()).toEqual(['hand-bell-copy.mtl', 'hand-bell-copy.obj'])
  const meshes = readObj(new TextDecoder().decode(obj['hand-bell-copy.obj']))
  expect(meshes).toHaveLength(1)
  for (const soup of [meshes[0]!, readPly((await save(page, 'hand-bell-copy.ply')).bytes)]) {
    const read = await asManifold(soup)
    expect(read.status).toBe('NoError')
    expect(relative(read.volume, stl.volume)).toBeLessThan(1e-6)
  }
  const threemf = read3mf((await save(page, 'hand-bell-copy.3mf')).bytes)
  expect(threemf.unit).toBe('millimeter')
  const read = await asManifold(threemf.objects[0]!)
  expect(relative(read.volume, stl.volume)).toBeLessThan(1e-6)

  const glb = (await save(page, 'hand-bell-copy.glb')).bytes
  const report = await validateBytes(new Uint8Array(glb))
  expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
  const document = await new NodeIO().registerExtensions(ALL_EXTENSIONS).readBinary(new Uint8Array(glb))
  const position = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!.getAttribute('POSITION')!
  // Metres, y up.
  expect(position.getMax([])[1]! - position.getMin([])[1]!).toBeCloseTo(height / 1000, 5)

  const step = await readStep((await save(page, 'hand-bell-copy.step')).bytes)
  expect(step.solids).toBe(1)
  expect([...step.edges]).toEqual([2])
  expect(relative(step.volume, exact)).toBeLessThan(1e-3)

  const dxf = new DxfParser().parseSync((await save(page, 'hand-bell-copy.dxf')).bytes.toString())!
  expect(dxf.header['$INSUNITS']).toBe(4)
  expect(dxf.entities.filter((e) => e.layer === 'HALF-PROFILE').length).toBeGreaterThan(10)
  const rows = (await save(page, 'hand-bell-copy.csv')).bytes.toString().trim().split('\r\n').slice(1)
  expect(Math.max(...rows.map((r) => Number(r.split(',')[1])))).toBeCloseTo(diameter, 1)

  // Paper: the check bar measures 100 mm within a pixel of a tenth of a millimetre.
  const folder = mkdtempSync(join(tmpdir(), 'bell-'))
  const pdf = (await save(page, 'hand-bell-copy.template.pdf')).bytes
  writeFileSync(join(folder, 'a.pdf'), pdf)
  execFileSync('pdftoppm', [
    '-r',
    '254',
    '-gray',
    '-png',
    '-singlefile',
    join(folder, 'a.pdf'),
    join(folder, 'a'),
  ])
  const { data, info } = await sharp(join(folder, 'a.png'))
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true })
  let longest = 0
  for (let y = info.height - 200; y < info.height - 100; y++)
    for (let x = 0, run = 0; x < info.width; x++) {
      run = data[y * info.width + x]! < 128 ? run + 1 : 0
      longest = Math.max(longest, run)
    }
  expect(Math.abs(longest - 1000)).toBeLessThanOrEqual(1)
  const section = (await save(page, 'hand-bell-copy.half-section.svg')).bytes.toString()
  expect(section).toContain(`>⌀ ${diameter.toFixed(1)}</text>`)
  expect(section).toContain(`>${height.toFixed(1)}</text>`)

  await page.getByLabel('Size', { exact: true }).fill('800')
  await page.keyboard.press('Enter')
  const png = await sharp((await save(page, 'hand-bell-copy.png')).bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true }) // prettier-ignore
  expect([png.info.width, png.info.height]).toEqual([800, 800])
  const alpha = (x: number, y: number) => png.data[4 * (y * 800 + x) + 3]!
  expect([alpha(2, 2), alpha(400, 600)]).toEqual([0, 255])
  const comparison = await sharp((await save(page, 'hand-bell-copy.comparison.png')).bytes).metadata()
  expect(comparison.width).toBe(1200)
  expect(problems).toEqual([])
})

test('unit, upward axis and kind of sheet are chosen; a sheet is looked at before it is saved', async ({
  page,
}) => {
  await openCopy(page, 'Ink bottle', 'hand-over')
  const usual = await asManifold(readStl((await save(page, 'ink-bottle-copy.stl')).bytes))
  await page.getByRole('button', { name: /How files are written/ }).click()
  await page.getByLabel('Unit of STL, OBJ and PLY').selectOption('cm')
  await page.getByLabel('Upward axis of STL, OBJ and PLY').getByText('y', { exact: true }).click()
  const soup = readStl((await save(page, 'ink-bottle-copy.stl')).bytes)
  expect((await asManifold(soup)).volume * 1000).toBeCloseTo(usual.volume, 0)
  const along = (k: number) => soup.filter((_, i) => i % 3 === k).reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)] as const, [Infinity, -Infinity] as const) // prettier-ignore
  expect(along(1)[1]).toBeCloseTo(11.2, 1)
  expect(along(2)[1]).toBeCloseTo(3.3, 1)
  await page.getByRole('button', { name: 'Look at Half-section PDF' }).click()
  await expect(page.getByTestId('sheet-preview')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('sheet-preview')).toBeHidden()
})

test('artwork laid round a zone goes into the GLB, and comes off again', async ({ page }) => {
  const problems = watchConsole(page)
  const bench = new BenchDriver(page)
  await openCopy(page, 'Ink bottle', 'solid')
  await page.getByText('Zones', { exact: true }).click()
  await page.getByRole('button', { name: 'Add a zone' }).click()
  for (const [label, mm] of [
    ['To', '60 mm'],
    ['From', '20 mm'],
  ] as const) {
    await page.getByLabel(label, { exact: true }).fill(mm)
    await page.keyboard.press('Enter')
  }
  const art = await sharp({ create: { width: 400, height: 80, channels: 3, background: '#c8a040' } })
    .webp()
    .toBuffer()
  await page.getByLabel('File of the picture on Zone 1').setInputFiles({ name: 'art.webp', mimeType: 'image/webp', buffer: art }) // prettier-ignore
  // Once round the belly of 66 mm.
  await expect(page.getByLabel('Wide')).toHaveValue(/^207\.[23]\d mm$/)
  // Roughness and bumps lie over it.
  for (const [name, colour] of [
    ['Roughness', '#808080'],
    ['Bumps', '#8080ff'],
  ] as const) {
    const map = await sharp({ create: { width: 64, height: 64, channels: 3, background: colour } }).png().toBuffer() // prettier-ignore
    const chosen = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: `${name} of the picture on Zone 1`, exact: true }).click()
    await (await chosen).setFiles({ name: `${name}.png`, mimeType: 'image/png', buffer: map })
    await expect(page.getByText(`${name}.png`)).toBeVisible()
  }
  await page.getByTestId('stage-hand-over').click()
  const glb = (await save(page, 'ink-bottle-copy.glb')).bytes
  const report = await validateBytes(new Uint8Array(glb))
  expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
  const document = await new NodeIO().readBinary(new Uint8Array(glb))
  const made = document.getRoot().listMaterials().find((m) => m.getNormalTexture())! // prettier-ignore
  expect(made.getMetallicRoughnessTexture()!.getSize()).toEqual([64, 64])
  const texture = made.getBaseColorTexture()
  // WebP is no picture of plain glTF.
  expect(texture!.getMimeType()).toBe('image/png')
  expect(texture!.getSize()).toEqual([400, 80])
  await page.getByTestId('stage-solid').click()
  await page.getByRole('button', { name: 'Take the picture off' }).click()
  await expect(page.getByLabel('Wide')).toBeHidden()
  await bench.saved()
  expect(problems).toEqual([])
})

test('a wheel lies on its side where it is seen from above, and leaves so', async ({ page }) => {
  const problems = watchConsole(page)
  const bench = new BenchDriver(page)
  await openCopy(page, 'Rope sheave', 'solid')
  const lies = page.getByText('lies', { exact: true })
  await lies.click()
  await expect(page.getByText('with the axis along x')).toBeVisible()
  // Beside the photo it stands, on the photo's height scale; turned, it lies, where heights say nothing.
  const pane = page.getByTestId('solid-pane')
  await expect(pane.locator('text').first()).toBeVisible()
  const box = (await pane.boundingBox())!
  await page.mouse.move(box.x + 200, box.y + 200)
  await page.mouse.down()
  await page.mouse.move(box.x + 230, box.y + 280, { steps: 4 })
  await page.mouse.up()
  await expect(pane.locator('text')).toHaveCount(0)
  await bench.saved()
  await page.getByTestId('stage-hand-over').click()
  const { bytes } = await save(page, 'rope-sheave-copy.stl')
  const soup = readStl(bytes)
  const along = (k: number) => Array.from(soup).filter((_, i) => i % 3 === k)
  // The axis, some 46 mm of it, runs along x; it stands on its rim of some 110 mm.
  const long = Math.max(...along(0)) - Math.min(...along(0))
  expect(long).toBeGreaterThan(45)
  expect(long).toBeLessThan(47)
  expect(Math.min(...along(2))).toBeCloseTo(0, 3)
  expect(Math.max(...along(2))).toBeGreaterThan(109)
  expect((await asManifold(soup)).status).toBe('NoError')
  expect(problems).toEqual([])
})

test('the terminal writes the same exact files from the same document', async ({ page }) => {
  await openCopy(page, 'Water glass', 'hand-over')
  const id = /piece\/([^/]+)/.exec(page.url())![1]!
  const folder = mkdtempSync(join(tmpdir(), 'cli-'))
  writeFileSync(join(folder, 'glass.json'), await (await page.request.get(`/api/pieces/${id}`)).text())
  const bench = { step: (await save(page, 'water-glass-copy.step')).bytes.toString() }
  const time = /'(\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d)'/.exec(bench.step)![1]!
  const run = (...args: string[]) => spawnSync(process.execPath, ['--import', 'tsx', 'cli/main.ts', ...args])
  const out = join(folder, 'out')
  const { status, stderr } = run('solid', join(folder, 'glass.json'), '--format', 'step,svg,dxf,stl', '--time', time, '--out', out) // prettier-ignore
  expect(status, stderr.toString()).toBe(0)
  const written = (extension: string) => readFileSync(join(out, `water-glass-copy.${extension}`))
  expect(written('step').toString()).toBe(bench.step)
  for (const extension of ['svg', 'dxf', 'stl'])
    expect(written(extension).equals((await save(page, `water-glass-copy.${extension}`)).bytes)).toBe(true)
  const checked = JSON.parse(run('check', join(folder, 'glass.json')).stdout.toString()) as { height: number }
  expect(checked.height).toBeCloseTo(await new BenchDriver(page).millimetres('height'), 1)
})

test('a drawing comes in as half-profile: what was handed over, and one from elsewhere with its height typed', async ({
  page,
}) => {
  const bench = new BenchDriver(page)
  await openCopy(page, 'Rope sheave', 'hand-over')
  const volume = await bench.measure('volume')
  const dxf = await save(page, 'rope-sheave-copy.dxf')
  await openCopy(page, 'Ink bottle', 'profile')
  const own = await bench.measure('volume')
  await page.getByRole('button', { name: /Bring in a drawing/ }).click()
  const field = page.getByLabel('Drawing of a half-profile')
  await field.setInputFiles({ name: dxf.name, mimeType: 'image/vnd.dxf', buffer: dxf.bytes })
  await page.getByRole('button', { name: 'Put it in place of the drawn one' }).click()
  await expect.poll(() => bench.measure('volume')).toBe(volume)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect.poll(() => bench.measure('volume')).toBe(own)

  await page.getByRole('button', { name: /Bring in a drawing/ }).click()
  const vase =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 400"><path d="M30 380L170 380L140 40L60 40Z"/></svg>'
  await field.setInputFiles({ name: 'vase.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(vase) })
  await expect(page.getByTestId('bring-in')).toContainText('type the height')
  await page.getByLabel('Height', { exact: true }).fill('170 mm')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('bring-in')).toContainText('⌀ 70.00 mm')
  await page.getByRole('button', { name: 'Put it in place of the drawn one' }).click()
  await expect.poll(() => bench.measure('height')).toBe('170.00 mm')
  await page.getByRole('button', { name: /Bring in a drawing/ }).click()
  await field.setInputFiles({
    name: 'bad.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from('<svg><path d="M0 0L'),
  })
  await expect(page.getByTestId('bring-in-problem')).toContainText('no well-formed SVG')
  await bench.saved()
})

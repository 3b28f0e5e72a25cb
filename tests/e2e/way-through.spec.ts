import { readFileSync } from 'node:fs'
import { derive } from '../../core/piece/derive'
import { readDocument } from '../../core/piece/migrate'
import { pointOn } from '../../core/profile/segments'
import { expect, test } from '@playwright/test'
import { finishedDocument } from '../../demo/documents'
import { LAMP_ROOM } from '../../demo/lamp-room'
import { truthOf } from '../../demo/maker/photo'
import { BenchDriver, demoPhoto, dropFile, watchConsole } from './bench-page'

/** Volume of a binary STL, read by its published layout: 80 + 4 bytes, then 50 a triangle. */
function stlVolume(bytes: Buffer): { triangles: number; volume: number } {
  const triangles = bytes.readUInt32LE(80)
  let six = 0
  for (let i = 0; i < triangles; i++) {
    const p = Array.from({ length: 9 }, (_, k) => bytes.readFloatLE(84 + 50 * i + 12 + 4 * k)) as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ]
    six +=
      p[0] * (p[4] * p[8] - p[5] * p[7]) +
      p[1] * (p[5] * p[6] - p[3] * p[8]) +
      p[2] * (p[3] * p[7] - p[4] * p[6])
  }
  return { triangles, volume: six / 6 }
}

test('from a dropped photo to an STL, by hand', async ({ page }) => {
  const problems = watchConsole(page)
  const spec = LAMP_ROOM.find((s) => s.name === 'Ink bottle')!
  const truth = truthOf(spec)
  const photo = {
    sha256: '0'.repeat(64),
    fileName: '',
    mediaType: 'image/jpeg' as const,
    width: 1500,
    height: 2000,
    focalLength35mm: 190,
    quarterTurns: 0,
    crop: null,
  }
  /** Where a careful hand would click: the photo maker's own outline. */
  const { nodes } = finishedDocument(spec, photo).profile
  const [foot, top] = truth.axisPx.map(([x, y]) => ({ x, y })) as [
    { x: number; y: number },
    { x: number; y: number },
  ]

  await page.goto('/')
  await expect(page).toHaveTitle('Cabinet – Baldacchino')
  await dropFile(page, demoPhoto('ink-bottle.jpg'), 'my_ink-bottle.JPG', 'image/jpeg')
  const bench = new BenchDriver(page)
  await page.getByTestId('photo-pane').waitFor()
  await bench.settled()
  await expect(page).toHaveURL(/\/piece\/[0-9a-f-]{36}\/calibrate$/)
  await expect(page).toHaveTitle('my ink bottle, Calibrate – Baldacchino')

  // Calibrate: plumb line, ground line and a known height; each tool hands over to the next.
  await bench.click(foot)
  await bench.click(top)
  await expect(page.getByText('Click where the foot stands.')).toBeVisible()
  await bench.click(foot)
  await bench.click(foot)
  await bench.click(top)
  const field = page.getByLabel('Real size')
  await expect(field).toBeFocused()
  await page.keyboard.type('4 13/32 in')
  await page.keyboard.press('Enter')
  expect(Number.parseFloat(await page.getByTestId('mm-per-px').innerText())).toBeCloseTo(
    111.92 / Math.hypot(top.x - foot.x, top.y - foot.y),
    3,
  )
  await field.fill('112 mm')
  await field.press('Enter')
  const perPx = Number.parseFloat(await page.getByTestId('mm-per-px').innerText())
  expect(perPx / (112 / Math.hypot(top.x - foot.x, top.y - foot.y))).toBeCloseTo(1, 2)

  // Draw: lines and curves in one stroke, zooming and panning in the middle of it.
  await page.getByRole('button', { name: 'Find the outline' }).click()
  await page.getByTestId('stage-profile').click()
  let pen = 'line'
  for (const [i, node] of nodes.entries()) {
    const kind = i === 0 ? nodes[0]!.next : nodes[i - 1]!.next
    if (kind !== pen) await page.keyboard.press(kind === 'curve' ? 'c' : 'l')
    pen = kind
    if (i === 3) {
      const { x, y } = await bench.at(node.drawn!)
      await page.mouse.move(x, y)
      await page.mouse.wheel(0, -500)
      await page.waitForTimeout(50)
      await page.keyboard.down('Space')
      await page.mouse.down()
      await page.mouse.move(x - 20, y + 60, { steps: 4 })
      await page.mouse.up()
      await page.keyboard.up('Space')
    }
    // The next places lie outside the enlarged view.
    if (i === 5) await page.keyboard.press('0')
    await bench.click(node.drawn!)
    if (node.r > 0 && (kind === 'curve') !== (node.joint === 'smooth')) await page.keyboard.press('j')
  }
  await expect(page.getByTestId('stage-profile')).toContainText(`${nodes.length} nodes, closed at both ends`)
  await expect(page.getByRole('button', { name: 'Draw on' })).toBeVisible()

  // Read: a click on the shrunken photo is right to about half a screen pixel, 0.1 mm here; the distant view adds
  // up to r/D = 3 % · the tilt of the surface. Together well below 1 % of ⌀ and 2 % of volume.
  const height = await bench.millimetres('height')
  const diameter = await bench.millimetres('diameter')
  expect(Math.abs(height / truth.height - 1)).toBeLessThan(0.01)
  expect(Math.abs(diameter / truth.maxDiameter - 1)).toBeLessThan(0.01)

  // Solid: choose the sides; then the file.
  await page.getByTestId('stage-solid').click()
  const sides = page.getByLabel('Sides', { exact: true })
  await sides.fill('96')
  await sides.press('Enter')
  const shown = Number((await page.getByTestId('triangles').innerText()).replace(/,/g, ''))
  await page.getByTestId('stage-hand-over').click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save my-ink-bottle.stl' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('my-ink-bottle.stl')
  const { triangles, volume } = stlVolume(readFileSync(await download.path()))
  expect(triangles).toBe(shown)
  const facets = (96 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 96)
  const error = volume / facets / truth.volumeMm3 - 1
  console.log(
    `by hand, distant view: height ${(100 * (height / truth.height - 1)).toFixed(2)} %, ⌀ ${(100 * (diameter / truth.maxDiameter - 1)).toFixed(2)} %, volume ${(100 * error).toFixed(2)} % (facets taken out)`,
  )
  expect(Math.abs(error)).toBeLessThan(0.02)

  // Everything is still there after a reload.
  await bench.saved()
  await page.reload()
  await expect(page.getByTestId('measure-height')).toHaveText(`${height.toFixed(2)} mm`)
  expect(problems).toEqual([])
})

test('the half-profile leaves as SVG in real millimetres, as Chromium measures it', async ({ page }) => {
  const bench = new BenchDriver(page)
  await bench.open('Lamp chimney', 'check')
  const id = /piece\/([^/]+)/.exec(page.url())![1]!
  const lowest = Number.parseFloat(await page.locator('dt:text("Lowest point") + dd').innerText())
  await page.getByTestId('stage-hand-over').click()
  const height = await bench.millimetres('height')
  const diameter = await bench.millimetres('diameter')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save lamp-chimney.svg' }).click(),
  ])
  const svg = readFileSync(await download.path(), 'utf8')
  await page.setContent(svg.replace(/^<\?xml[^>]*>/, ''))
  const box = await page.evaluate(() => {
    const root = document.querySelector('svg')!
    const path = document.querySelector<SVGPathElement>('#half-profile path')!
    const curve = path.getBBox()
    return {
      length: path.getTotalLength(),
      x: curve.x,
      width: curve.width,
      height: curve.height,
      bottom: curve.y + curve.height,
      mm: root.getBoundingClientRect().height / root.viewBox.baseVal.height,
    }
  })
  expect(box.x).toBeCloseTo(0, 3)
  const { document: own } = await (await page.request.get(`/api/pieces/${id}`)).json()
  const segments = derive(readDocument(own)).solid!.segments
  const length = segments.reduce((sum, segment) => {
    const places = Array.from({ length: 401 }, (_, k) => pointOn(segment, k / 400))
    return (
      sum +
      places.slice(1).reduce((way, p, k) => way + Math.hypot(p[0] - places[k]![0], p[1] - places[k]![1]), 0)
    )
  }, 0)
  expect(Math.abs(box.length / length - 1)).toBeLessThan(1e-4)
  expect(box.bottom).toBeCloseTo(-lowest, 1)
  expect(box.width).toBeCloseTo(diameter / 2, 1)
  expect(box.height).toBeCloseTo(height, 1)
  // One user unit is one CSS millimetre: 96/25.4 px.
  expect(box.mm).toBeCloseTo(96 / 25.4, 2)
})

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import sharp from 'sharp'
import { BenchDriver, demoPhoto, dropFile, findAxis, openCopy, watchConsole } from './bench-page'

interface Truth {
  volumeMm3: number
  maxDiameter: number
  profile: [number, number][]
  contourPx: ([number, number] | null)[]
}
const truthOf = (name: string) =>
  JSON.parse(readFileSync(join(import.meta.dirname, `../../demo/photos/${name}.json`), 'utf8')) as Truth

async function calibrate(page: Page): Promise<void> {
  await findAxis(page)
  await page.keyboard.type('112 mm')
  await page.keyboard.press('Enter')
  await page.getByLabel('Real size').blur()
  await page.getByTestId('stage-outline').click()
}

async function findOutline(page: Page): Promise<void> {
  await page.getByTestId('find-outline').click()
  await expect(page.getByTestId('outline-summary')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByTestId('find-outline')).toBeVisible({ timeout: 60_000 })
}

const fold = (page: Page, title: string) => page.getByRole('button', { name: new RegExp(title) }).click()

test('one press on a calibrated photo gives a finished half-profile in true millimetres', async ({
  page,
}) => {
  const problems = watchConsole(page)
  const { bench } = await openCopy(page, 'Ink bottle, untouched', 'calibrate')
  await calibrate(page)
  await findOutline(page)
  const truth = truthOf('ink-bottle')
  expect(Math.abs((await bench.millimetres('height')) - 112)).toBeLessThan(0.05)
  expect(Math.abs((await bench.millimetres('diameter')) / truth.maxDiameter - 1)).toBeLessThan(0.003)
  const millilitres = Number(/[\d.]+/.exec(await bench.measure('volume'))![0])
  expect(Math.abs((1000 * millilitres) / truth.volumeMm3 - 1)).toBeLessThan(0.01)
  await expect(page.getByTestId('stage-profile')).toContainText('closed at both ends')
  await expect(page.getByTestId('stage-solid')).toContainText('Watertight')

  // Photo and solid have as much room each, and the whole piece is seen.
  const pane = page.getByTestId('photo-pane')
  const solid = page.getByTestId('solid-pane')
  const width = async (of: typeof pane) => (await of.boundingBox())!.width
  await expect.poll(async () => Math.abs((await width(pane)) / (await width(solid)) - 1)).toBeLessThan(0.1)
  // Panes take a moment to their new size; the piece is fitted to that, with air about it.
  const air = async () => {
    const { x, y, width, height } = (await pane.boundingBox())!
    const ends: number[] = []
    for (const p of truth.contourPx.filter((p, i) => p && i % 40 === 0)) {
      const at = await bench.at({ x: p![0], y: p![1] })
      ends.push((at.x - x) / width, 1 - (at.x - x) / width, (at.y - y) / height, 1 - (at.y - y) / height)
    }
    return Math.min(...ends)
  }
  await expect.poll(air).toBeGreaterThan(0.1)

  // The reasons can be read: what the camera changed, and how many nodes follow.
  await fold(page, 'What the camera changed')
  await expect(page.getByTestId('camera-effect')).toContainText(/⌀ would be up to [\d.]+\smm too/)
  await fold(page, 'Half-profile from it')
  await expect(page.getByTestId('fit-words')).toContainText(
    /\d+ nodes follow the outline to within 0\.\d+\smm/,
  )
  const before = await page.getByTestId('fit-words').innerText()
  await page.getByLabel('Within', { exact: true }).fill('0.5 mm')
  await page.getByLabel('Within', { exact: true }).press('Enter')
  await expect(page.getByTestId('fit-words')).not.toHaveText(before)
  await page.keyboard.press('Escape')
  await bench.saved()

  // A corrected height moves everything, in one step that can be taken back.
  await page.getByTestId('stage-calibrate').click()
  await page.getByLabel('Real size').fill('224 mm')
  await page.getByLabel('Real size').press('Enter')
  await expect.poll(() => bench.millimetres('height')).toBeGreaterThan(223)
  await page.getByLabel('Real size').blur()
  await page.keyboard.press('Control+z')
  await expect.poll(() => bench.millimetres('height')).toBeLessThan(113)
  expect(problems).toEqual([])
})

test('the edge pen hugs the edge of a glass, and shows its way before the click', async ({ page }) => {
  const { bench, id } = await openCopy(page, 'Water glass', 'outline')
  await findOutline(page)
  const { profile, contourPx } = truthOf('water-glass')
  const edge = contourPx.filter((p, i): p is [number, number] => p !== null && profile[i]![1] > 66 && profile[i]![1] < 120) // prettier-ignore
  const at = (p: [number, number], aside: number) => ({ x: p[0] + aside, y: p[1] })
  await fold(page, 'Edge pen and hints')
  await page.getByRole('button', { name: 'Edge pen', exact: true }).click()
  await bench.click(at(edge[0]!, 3))
  const end = await bench.at(at(edge.at(-1)!, -2))
  await page.mouse.move(end.x - 12, end.y + 4)
  await page.mouse.move(end.x, end.y)
  await expect(page.getByTestId('edge-pen-live')).toBeVisible()
  await page.mouse.down()
  await page.mouse.up()
  await expect(page.getByTestId('edge-pen-live')).toHaveCount(0)
  await page.getByTestId('lay-stroke').click()
  await expect(page.getByRole('button', { name: /Edge pen and hints/ })).toContainText('1 drawn')
  await bench.saved()

  const { document } = (await (await page.request.get(`/api/pieces/${id}`)).json()) as {
    document: { outline: { strokes: { side: string; points: number[] }[] } }
  }
  const [stroke] = document.outline.strokes
  expect(stroke!.side).toBe('right')
  const off: number[] = []
  for (let i = 0; i < stroke!.points.length; i += 2) {
    const [x, y] = [stroke!.points[i]!, stroke!.points[i + 1]!]
    off.push(
      Math.min(
        ...edge.slice(1).map(([bx, by], k) => {
          const [ax, ay] = edge[k]!
          const [dx, dy] = [bx - ax, by - ay]
          const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)))
          return Math.hypot(x - ax - t * dx, y - ay - t * dy)
        }),
      ),
    )
  }
  off.sort((a, b) => a - b)
  expect(off[off.length >> 1]).toBeLessThan(0.5)
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: /Edge pen and hints/ })).not.toContainText('drawn')
})

test('a stretch that lies in shadow on the left is taken from the right, and said so', async ({ page }) => {
  const { bench } = await openCopy(page, 'Ink bottle, untouched', 'calibrate')
  // The left edge between some 25 and 45 mm drowns in something soft and dark.
  const shadow = `<svg xmlns="http://www.w3.org/2000/svg" width="1500" height="2000"><defs><filter id="f" x="-60%" y="-60%" width="220%" height="220%"><feGaussianBlur stdDeviation="26"/></filter></defs><ellipse cx="330" cy="1270" rx="105" ry="135" fill="#3a342c" filter="url(#f)"/><ellipse cx="330" cy="1270" rx="70" ry="115" fill="#3a342c" filter="url(#f)"/></svg>`
  const photo = await sharp(demoPhoto('ink-bottle.jpg')).composite([{ input: Buffer.from(shadow) }]).keepExif().jpeg({ quality: 92 }).toBuffer() // prettier-ignore
  await page.getByTestId('stage-photo').click()
  await dropFile(page, photo, 'shadow.jpg', 'image/jpeg')
  await expect(page.getByTestId('find')).toBeVisible()
  await calibrate(page)
  await findOutline(page)
  await fold(page, 'Where it is unsure')
  const stretch = page.getByRole('button', {
    name: /^Left edge between [\d.]+ and [\d.]+ mm .*taken from the right/,
  })
  await expect(stretch.first()).toBeVisible()
  await stretch.first().click()
  await expect(page.getByTestId('pointed-stretch')).toBeVisible()
  await expect(page.getByText(/shadow/).first()).toBeVisible()
  expect(Math.abs((await bench.millimetres('diameter')) / 66 - 1)).toBeLessThan(0.004)
})

test('the outline pressed for before anything is calibrated brings the plumb line along, and is kept', async ({
  page,
}) => {
  await openCopy(page, 'Ink bottle, untouched', 'outline')
  await findOutline(page)
  await expect(page.getByTestId('stage-calibrate')).toContainText('Type the real size')
  await expect(page.getByTestId('stage-solid')).toContainText('Watertight')
  // Without a scale nothing is said in millimetres.
  await expect(page.getByTestId('measure-diameter')).toHaveText(/px\s+at [\d.]+ px$/)
  await expect(page.getByTestId('outline-summary')).toHaveText(/known to ±[\d.]+\spx\.$/)
  await expect(page.getByRole('button', { name: /Left against right/ })).toContainText(/(9\d|100) % agree/)
  await expect(page.getByText('Saved', { exact: true })).toBeVisible({ timeout: 15_000 })
})

test('what somebody zoomed in on stays where it is when the outline is found', async ({ page }) => {
  const { bench } = await openCopy(page, 'Ink bottle, untouched', 'calibrate')
  await calibrate(page)
  const neck = { x: 800, y: 500 }
  const { x, y } = await bench.at(neck)
  await page.mouse.move(x, y)
  await page.mouse.wheel(0, -400)
  await page.waitForTimeout(300)
  const before = await bench.at(neck)
  await findOutline(page)
  await expect(page.getByTestId('stage-solid')).toContainText('Watertight')
  await page.waitForTimeout(500)
  const after = await bench.at(neck)
  expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(2)
})

test('a picture without a piece gets a sentence and the way to help', async ({ page }) => {
  await openCopy(page, 'Ink bottle, untouched', 'photo')
  const blank = await sharp({ create: { width: 900, height: 1200, channels: 3, background: '#b5b1a8' } }).jpeg().toBuffer() // prettier-ignore
  await dropFile(page, blank, 'blank.jpg', 'image/jpeg')
  await expect(page.getByTestId('find')).toBeVisible()
  await page.getByTestId('stage-outline').click()
  await page.getByTestId('find-outline').click()
  await expect(page.getByRole('alert')).toContainText('No round piece stands out', { timeout: 60_000 })
  await page.getByRole('button', { name: 'Help the search' }).click()
  await expect(page.getByRole('button', { name: 'Paint piece' })).toBeVisible()
})

test('paint and a box steer the search: a painted lip no longer belongs to the piece, wiped off it does', async ({
  page,
}) => {
  page.setDefaultTimeout(20_000)
  const { bench } = await openCopy(page, 'Ink bottle, untouched', 'calibrate')
  await calibrate(page)
  await findOutline(page)
  const [tall, whole] = [await bench.millimetres('height'), await bench.millimetres('diameter')]
  await fold(page, 'Edge pen and hints')
  await page.getByRole('button', { name: 'Paint backdrop' }).click()
  for (const y of [285, 320, 355, 390]) await bench.drag({ x: 530, y }, { x: 960, y })
  await page.keyboard.press('Escape')
  await findOutline(page)
  // The overall height was typed for the piece, and goes with its ends: what is left of it is as high, and wider.
  await expect.poll(() => bench.millimetres('diameter')).toBeGreaterThan(1.05 * whole)
  expect(await bench.millimetres('diameter')).toBeLessThan(1.3 * whole)
  expect(await bench.millimetres('height')).toBeCloseTo(tall, 0)

  // What was painted is kept with the piece, each stroke a step.
  const strokes = page.locator('.paint.backdrop')
  await expect(strokes).toHaveCount(4)
  await expect(page.getByTestId('save-state')).toContainText('Saved')
  await page.reload()
  await expect(strokes).toHaveCount(4)
  await fold(page, 'Edge pen and hints')
  await page.getByRole('button', { name: 'Paint piece' }).click()
  await bench.drag({ x: 900, y: 900 }, { x: 1100, y: 1000 })
  await expect(page.locator('.paint.piece')).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(page.locator('.paint.piece')).toHaveCount(0)
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Wipe it off' }).click()
  await expect(strokes).toHaveCount(0)
  await findOutline(page)
  await expect.poll(() => bench.millimetres('diameter')).toBeCloseTo(whole, 1)

  // A box around body and neck alone cuts the piece, which is said instead of a nonsense profile.
  await page.getByRole('button', { name: 'Set a box' }).click()
  await bench.click({ x: 700, y: 600 })
  await bench.click({ x: 1400, y: 1500 })
  await page.getByTestId('find-outline').click()
  await expect(page.getByRole('alert').first()).toContainText(
    /cut|edge of the picture|border|not found|nothing/i,
  )
})

test('of two pieces in a photo a box drawn around the other one chooses it, axis and all', async ({
  page,
}) => {
  page.setDefaultTimeout(20_000)
  const height = 1200
  const [bottle, ninepin] = await Promise.all(
    ['ink-bottle', 'ninepin'].map((name) =>
      sharp(demoPhoto(`${name}.jpg`))
        .rotate()
        .resize({ height })
        .toBuffer({ resolveWithObject: true }),
    ),
  )
  const middle = bottle!.info.width
  const width = middle + ninepin!.info.width
  const both = await sharp({ create: { width, height, channels: 3, background: '#bbb' } })
    .composite([
      { input: bottle!.data, left: 0, top: 0 },
      { input: ninepin!.data, left: middle, top: 0 },
    ])
    .jpeg({ quality: 92 })
    .toBuffer()
  await page.goto('/')
  await dropFile(page, both, 'two-pieces.jpg', 'image/jpeg')
  await page.getByTestId('stage-outline').click()
  const bench = new BenchDriver(page)
  await bench.settled()
  await findOutline(page)
  await expect(page.getByText('Something else stands in the picture too')).toBeVisible()
  await fold(page, 'Edge pen and hints')
  for (const from of [middle + 15, 15]) {
    await page.getByRole('button', { name: 'Set a box' }).click()
    await bench.drag({ x: from, y: 15 }, { x: from + width - middle - 30, y: height - 15 })
    await findOutline(page)
    // Both edges of a piece lie alike about its axis, and no farther off than it is wide.
    await expect(page.getByRole('button', { name: /Left against right/ })).toContainText(/[89]\d % agree/)
    const [tall, wide] = [await bench.millimetres('height'), await bench.millimetres('diameter')]
    expect(wide / tall).toBeGreaterThan(0.25)
    expect(wide / tall).toBeLessThan(0.65)
  }
})

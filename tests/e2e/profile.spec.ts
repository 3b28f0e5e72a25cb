import { expect, test } from '@playwright/test'
import { BenchDriver } from './bench-page'

/** Each test works on its own copy of the demo bottle. */
test.beforeEach(async ({ page, request }) => {
  const list = (await (await request.get('/api/pieces')).json()) as { id: string; name: string }[]
  const original = list.find((p) => p.name === 'Ink bottle')!
  const copy = (await (await request.post(`/api/pieces/${original.id}/duplicate`)).json()) as { id: string }
  await page.goto(`/piece/${copy.id}/profile`)
  await new BenchDriver(page).settled()
})
test.afterEach(async ({ page, request }) => {
  const id = /piece\/([0-9a-f-]+)/.exec(page.url())?.[1]
  if (id) await request.delete(`/api/pieces/${id}`)
})

const nodes = (page: import('@playwright/test').Page) => page.getByRole('button', { name: /^Node \d+/ })

test('nodes are reached, nudged, typed, switched and deleted by keyboard', async ({ page }) => {
  const node = page.getByRole('button', { name: /^Node 3, corner/ })
  await node.focus()
  const before = Number(/⌀ ([\d.]+)/.exec((await node.getAttribute('aria-label'))!)![1])
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+ArrowUp')
  await expect(page.getByLabel('⌀', { exact: true })).toHaveValue(`${(before + 1).toFixed(2)} mm`)
  await page.getByLabel('⌀', { exact: true }).fill('2 1/2 in')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('⌀', { exact: true })).toHaveValue('63.50 mm')
  await page.getByLabel('⌀', { exact: true }).fill('nonsense')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('is not a length')
  await page.keyboard.press('Escape')

  await node.focus()
  await page.keyboard.press('j')
  await expect(page.getByRole('button', { name: /^Node 3, smooth/ })).toBeVisible()
  const count = await nodes(page).count()
  await page.keyboard.press('Delete')
  await expect(nodes(page)).toHaveCount(count - 1)

  // A run of nudges is one step: nudges, typed ⌀, joint and deletion are four.
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z')
  await expect(nodes(page)).toHaveCount(count)
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
  await expect(
    page.getByRole('button', { name: new RegExp(`^Node 3, corner, ⌀ ${before.toFixed(2)}`) }),
  ).toBeVisible()
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+Shift+z')
  await expect(nodes(page)).toHaveCount(count - 1)
})

test('a press on the curve inserts a node that is dragged at once; the solid and its figures follow', async ({
  page,
}) => {
  const bench = new BenchDriver(page)
  const count = await nodes(page).count()
  const volume = await bench.measure('volume')
  const wall = await page.getByRole('button', { name: /^Node 3,/ }).boundingBox()
  const shoulder = await page.getByRole('button', { name: /^Node 4,/ }).boundingBox()
  const x = wall!.x + wall!.width / 2
  const y = (wall!.y + shoulder!.y) / 2 + wall!.height / 2
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 20, y, { steps: 5 })
  await expect(bench.page.getByTestId('measure-volume')).not.toHaveText(volume)
  await page.mouse.up()
  await expect(nodes(page)).toHaveCount(count + 1)
  expect(await bench.millimetres('diameter')).toBeGreaterThan(70)
  await bench.saved()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('measure-volume')).toHaveText(volume)
})

test('an open profile is said in words and closed straight to the axis', async ({ page }) => {
  await page.getByRole('button', { name: /^Node 17,/ }).focus()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('status').filter({ hasText: 'open at the top' })).toBeVisible()
  await expect(page.getByTestId('stage-profile')).toContainText('Open at the top.')
  await page.getByTestId('stage-hand-over').click()
  await expect(page.getByRole('button', { name: /\.stl$/ })).toBeDisabled()
  await page.getByRole('button', { name: 'Close it straight to the axis' }).click()
  await expect(page.getByRole('button', { name: /\.stl$/ })).toBeEnabled()
})

test('a crossing profile is refused with the place, and nothing is lost', async ({ page }) => {
  const bench = new BenchDriver(page)
  const a = (await page.getByRole('button', { name: /^Node 4,/ }).boundingBox())!
  await page.mouse.move(a.x + 6, a.y + 6)
  await page.mouse.down()
  await page.mouse.move(a.x - 60, a.y - 140, { steps: 6 })
  await page.mouse.up()
  await expect(page.getByRole('alert').filter({ hasText: 'crosses itself at ⌀' })).toBeVisible()
  expect(await bench.measure('volume')).toBe('–')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('measure-volume')).not.toHaveText('–')
})

test('the level under the pointer reads the ⌀ in both panes on one height scale', async ({ page }) => {
  const photo = (await page.getByTestId('photo-pane').boundingBox())!
  const wall = (await page.getByRole('button', { name: /^Node 3,/ }).boundingBox())!
  await page.mouse.move(photo.x + 20, wall.y - 60)
  const labels = page.locator('.level text')
  await expect(labels).toHaveCount(2)
  const texts = await labels.allTextContents()
  expect(texts[0]).toBe(texts[1])
  expect(texts[0]).toMatch(/^⌀ 65\.9\d mm$/)
  const lines = await page
    .locator('.level .hair')
    .evaluateAll((paths) => paths.map((p) => p.getBoundingClientRect().y))
  expect(Math.abs(lines[0]! - lines[1]!)).toBeLessThan(0.6)
})

test('a corrected size moves everything drawn; the other side shows the same piece', async ({ page }) => {
  const bench = new BenchDriver(page)
  const before = await bench.millimetres('height')
  await page.getByText('left side').click()
  expect(await bench.millimetres('height')).toBe(before)
  await page.getByTestId('stage-calibrate').click()
  await page.getByLabel('Real size').fill('11.2 in')
  await page.keyboard.press('Enter')
  expect(await bench.millimetres('height')).toBeCloseTo((before * 284.48) / 112, 1)
})

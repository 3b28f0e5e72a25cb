import { expect, test, type Locator, type Page } from '@playwright/test'
import { openCopy, watchConsole } from './bench-page'

const nodes = (page: Page) => page.getByRole('button', { name: /^Node \d+/ })
const rows = (page: Page) => page.locator('[data-row]')
const middle = async (of: Locator) => {
  const box = (await of.boundingBox())!
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}
const node = (page: Page, n: number) => middle(page.getByRole('button', { name: new RegExp(`^Node ${n},`) }))
const millilitres = (text: string) => Number(/[\d.]+/.exec(text)![0])
const tableHeights = (page: Page) =>
  rows(page).evaluateAll((list) => list.map((row) => Number(row.querySelectorAll('td')[2]!.textContent)))

test('one stroke of lines and of the pen that follows the edge gives the bottle its true ⌀', async ({
  page,
}) => {
  test.slow()
  const problems = watchConsole(page)
  const { bench } = await openCopy(page, 'Ink bottle', 'profile')
  const diameter = await bench.millimetres('diameter')
  const count = await nodes(page).count()
  const places = await Promise.all([1, 2, 4, count - 1, count].map((n) => node(page, n)))
  const [foot, out, shoulder, rim, top] = places as [typeof places[0] & object, ...(typeof places[0] & object)[]] // prettier-ignore
  await page.getByRole('button', { name: 'Clear' }).click()
  await page.getByRole('button', { name: 'Draw', exact: true }).click()
  await page.mouse.click(foot.x, foot.y)
  await page.mouse.click(out!.x, out!.y)
  await page.keyboard.press('e')
  await page.mouse.move(shoulder!.x, shoulder!.y - 20, { steps: 3 })
  await page.mouse.move(shoulder!.x, shoulder!.y, { steps: 3 })
  // The way is seen before the click that takes it.
  await expect(page.getByTestId('edge-way')).toBeVisible({ timeout: 20_000 })
  await page.mouse.click(shoulder!.x, shoulder!.y)
  await expect.poll(() => nodes(page).count(), { timeout: 20_000 }).toBeGreaterThan(2)
  const along = await nodes(page).count()
  expect(along).toBeLessThan(14)
  await page.mouse.move(rim!.x, rim!.y, { steps: 4 })
  await page.mouse.click(rim!.x, rim!.y)
  await expect.poll(() => nodes(page).count(), { timeout: 20_000 }).toBeGreaterThan(along)
  await page.keyboard.press('l')
  await page.mouse.click(top!.x, top!.y)
  await expect(page.getByTestId('stage-profile')).toContainText('closed at both ends')
  expect(await bench.millimetres('diameter')).toBeCloseTo(diameter, 0)
  await bench.saved()
  expect(problems).toEqual([])
})

test('a stroke is parted, taken in hand, and joined again by dragging its end into the ring', async ({
  page,
}) => {
  const { bench } = await openCopy(page, 'Ink bottle', 'profile')
  const volume = await bench.measure('volume')
  const count = await nodes(page).count()
  await rows(page).nth(3).click()
  await page.getByRole('button', { name: 'Part here' }).click()
  await expect(page.getByTestId('stroke-row')).toHaveCount(1)
  await expect(page.getByTestId('stage-profile')).toContainText('One stroke is not joined.')
  // The shorter part lies aside; its row takes it in hand, and a press on the other one takes that back.
  expect(await nodes(page).count()).toBeLessThan(count)
  const kept = await nodes(page).count()
  await page.getByRole('button', { name: 'Take in hand' }).click()
  expect(await nodes(page).count()).toBe(count + 1 - kept)
  const end = await node(page, count + 1 - kept)
  await page.mouse.move(end.x, end.y)
  await page.mouse.down()
  await page.mouse.move(end.x + 60, end.y + 8, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByTestId('stroke-row')).toHaveCount(1)
  await expect(page.getByRole('button', { name: /Join over/ })).toBeVisible()
  await page.mouse.move(end.x + 60, end.y + 8)
  await page.mouse.down()
  await page.mouse.move(end.x + 20, end.y + 4, { steps: 3 })
  await page.mouse.move(end.x + 5, end.y + 3, { steps: 3 })
  await expect(page.getByText('joins')).toBeVisible()
  await page.mouse.up()
  await expect(page.getByTestId('stroke-row')).toHaveCount(0)
  await expect(nodes(page)).toHaveCount(count)
  // The detour left its neighbours' curves a little different.
  expect(Math.abs(millilitres(await bench.measure('volume')) - millilitres(volume))).toBeLessThan(0.5)
  // Dragging and joining were one step.
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('stroke-row')).toHaveCount(1)
})

test('with Shift a whole segment is moved and nodes are framed; a stretch is made fair within what is typed', async ({
  page,
}) => {
  await openCopy(page, 'Ink bottle', 'profile')
  const before = await tableHeights(page)
  const [a, b] = [await node(page, 3), await node(page, 4)]
  const on = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }
  await page.keyboard.down('Shift')
  await page.mouse.move(on.x, on.y)
  await page.mouse.down()
  await page.mouse.move(on.x, on.y - 30, { steps: 4 })
  await page.mouse.up()
  await page.keyboard.up('Shift')
  const after = await tableHeights(page)
  expect(after.length).toBe(before.length)
  const moved = after.map((z, i) => z - before[i]!)
  expect(moved[2]!).toBeGreaterThan(2)
  expect(moved[3]!).toBeCloseTo(moved[2]!, 1)
  expect(moved.filter((d) => Math.abs(d) > 0.005)).toHaveLength(2)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Escape')

  const first = await node(page, 6)
  const last = await node(page, 10)
  await page.keyboard.down('Shift')
  await page.mouse.move(Math.max(first.x, last.x) + 60, first.y + 6)
  await page.mouse.down()
  await page.mouse.move(Math.min(first.x, last.x) - 14, last.y - 6, { steps: 4 })
  await page.mouse.up()
  await page.keyboard.up('Shift')
  await expect(page.getByRole('heading', { name: /^[5-9] nodes$/ })).toBeVisible()
  await page.getByLabel('Within', { exact: true }).fill('0.1 mm')
  await page.getByLabel('Within', { exact: true }).press('Enter')
  await page.getByTestId('make-fair').click()
  const said = page.getByTestId('stretch-said')
  await expect(said).toContainText('Made fair')
  const far = Number(/([\d.]+) mm/.exec(await said.innerText())![1])
  expect(far).toBeGreaterThan(0)
  expect(far).toBeLessThanOrEqual(0.1)
})

test('the grid is drawn with its step, and nodes snap to it until Alt is held', async ({ page }) => {
  await openCopy(page, 'Ink bottle', 'profile')
  await page.getByLabel('Grid step').fill('4 mm')
  await page.getByLabel('Grid step').press('Enter')
  await expect(page.getByTestId('grid')).toContainText('grid 4.00 mm')
  const at = await node(page, 4)
  const drag = async (alt: boolean) => {
    const { x, y } = await node(page, 4)
    await page.mouse.move(x, y)
    await page.mouse.down()
    if (alt) await page.keyboard.down('Alt')
    await page.mouse.move(x + (alt ? 7 : at.x + 30 - x), y + 1, { steps: 5 })
    await page.mouse.up()
    if (alt) await page.keyboard.up('Alt')
    return (await rows(page).nth(3).locator('td').allTextContents()).slice(1, 3).map(Number)
  }
  const offGrid = (mm: number, step: number) => Math.abs(mm / step - Math.round(mm / step))
  const [snapped] = await drag(false)
  // ⌀ goes in steps of twice the radius.
  expect(offGrid(snapped!, 8)).toBeLessThan(0.01)
  const [free] = await drag(true)
  expect(offGrid(free!, 8)).toBeGreaterThan(0.01)
})

test('a stretch is straightened or made one arc, its joints changed at once, each in one step', async ({
  page,
}) => {
  const { bench } = await openCopy(page, 'Ink bottle', 'profile')
  const count = await nodes(page).count()
  const volume = await bench.measure('volume')
  const choose = async (from: number, to: number) => {
    await page.keyboard.press('Escape')
    await rows(page).nth(from).click()
    await rows(page)
      .nth(to)
      .click({ modifiers: ['Shift'] })
  }
  const undo = () => page.getByRole('button', { name: 'Undo', exact: true }).click()
  await choose(3, 6)
  await page.getByRole('button', { name: 'Straighten' }).click()
  await expect(nodes(page)).toHaveCount(count - 2)
  await expect(rows(page).nth(3)).toContainText('╱')
  await undo()
  await expect(page.getByTestId('measure-volume')).toHaveText(volume)
  await choose(3, 6)
  await page.getByRole('button', { name: 'Make one arc' }).click()
  await expect(rows(page).nth(3)).toContainText('◠')
  await undo()
  await choose(3, 6)
  await page.getByLabel('Joints').getByText('corners').click()
  for (const k of [3, 4, 5, 6]) await expect(rows(page).nth(k)).toContainText('◻')
  await undo()
  await expect(page.getByTestId('measure-volume')).toHaveText(volume)
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled()
})

import { expect, test, type Page } from '@playwright/test'
import { openCopy, type, watchConsole, type BenchDriver } from './bench-page'

const nodes = (page: Page) => page.getByRole('button', { name: /^Node \d+/ })
const rows = (page: Page) => page.locator('[data-row]')
/** Rows of the table of nodes as numbers. */
async function table(page: Page) {
  return rows(page).evaluateAll((list) =>
    list.map((row) => {
      const [, diameter, height, joint, then] = [...row.querySelectorAll('td')].map((td) => td.textContent!)
      return { diameter: Number(diameter) || 0, height: Number(height), joint, then }
    }),
  )
}

/** The ink bottle with its half-profile made from the outline, at the stage where it is shaped. */
async function outlined(page: Page): Promise<BenchDriver> {
  const { bench } = await openCopy(page, 'Ink bottle', 'outline')
  await page.getByTestId('find-outline').click()
  await expect(page.getByTestId('outline-summary')).toBeVisible({ timeout: 60_000 })
  await page.getByText('Half-profile from it').click()
  await page.getByTestId('replace-by-outline').click()
  await expect(page.getByTestId('fit-words')).toContainText('nodes follow the outline')
  await page.getByTestId('stage-profile').click()
  return bench
}

test('from the outline: a neck of exactly 28 mm, a rounded shoulder, a bead, mirrored; all undone, redone, and a checkpoint restored', async ({
  page,
}) => {
  test.slow()
  page.setDefaultTimeout(10_000)
  const problems = watchConsole(page)
  const bench = await outlined(page)
  const found = await table(page)
  expect(found.length).toBeLessThan(20)

  await page.getByRole('button', { name: 'Steps and checkpoints' }).click()
  await page.getByLabel('Name of this state').fill('As it was found')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.getByTestId('checkpoints')).toContainText('As it was found')
  await page.keyboard.press('Escape')
  const asFound = await bench.measure('volume')

  // The neck: where the outline is narrowest between shoulder and lip.
  const inNeck = found.filter((n) => n.height > 84 && n.height < 104 && n.diameter > 0)
  const neck = inNeck.reduce((p, q) => (q.diameter < p.diameter ? q : p))
  await rows(page).nth(found.indexOf(neck)).click()
  await type(page, '⌀', '28 mm')
  await expect(page.getByLabel('⌀', { exact: true })).toHaveValue('28.00 mm')
  expect((await table(page))[found.indexOf(neck)]!.diameter).toBe(28)

  // The shoulder: made a corner and rounded with 3 mm, kept as a property of the corner.
  const shoulder = found.findIndex((n) => n.height > 66 && n.height < 76)
  await rows(page).nth(shoulder).click()
  await page.getByLabel('Following segment').getByText('line', { exact: true }).click()
  await page.getByLabel('Joint').getByText('corner').click()
  await page.getByLabel('Edge', { exact: true }).getByText('fillet').click()
  await type(page, 'Fillet radius', '3 mm')
  await expect(page.getByLabel('Fillet radius')).toHaveValue('3.00 mm')
  expect((await table(page))[shoulder]!.joint).toContain('3.00')

  await page.getByText('Ready stretch').click()
  await type(page, 'From height', '30 mm')
  await type(page, 'To height', '36 mm')
  await type(page, 'Stands out by', '2.5 mm')
  const before = await bench.millimetres('diameter')
  await page.getByTestId('insert-stretch').click()
  await expect.poll(() => bench.millimetres('diameter')).toBeCloseTo(before + 5, 1)
  await bench.saved()

  await page.getByText('Same at both ends').click()
  await type(page, 'About height', '50 mm')
  await page.getByTestId('mirror-ends').click()
  await expect.poll(() => bench.millimetres('height')).toBeCloseTo(100, 1)
  const both = await table(page)
  both.forEach((n, i) => {
    const twin = both[both.length - 1 - i]!
    expect(n.diameter).toBeCloseTo(twin.diameter, 1)
    expect(n.height).toBeCloseTo(100 - twin.height, 1)
  })
  const mirrored = await bench.measure('volume')

  // Undo everything by the list of steps, redo it all by keys.
  await page.getByRole('button', { name: 'Steps and checkpoints' }).click()
  await expect(page.getByTestId('steps')).toContainText('insert a ready stretch')
  await page.getByRole('button', { name: 'as it was opened' }).click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled()
  await expect(nodes(page)).toHaveCount(17)
  for (let k = 0; k < 30; k++) await page.keyboard.press('Control+Shift+z')
  await expect(page.getByRole('button', { name: 'Redo', exact: true })).toBeDisabled()
  await expect(page.getByTestId('measure-volume')).toHaveText(mirrored)

  await page.getByRole('button', { name: 'Steps and checkpoints' }).click()
  const kept = page.getByTestId('checkpoints').locator('li').filter({ hasText: 'As it was found' })
  await kept.getByRole('button', { name: 'Restore' }).click()
  await expect(page.getByTestId('measure-volume')).toHaveText(asFound)
  expect(await table(page)).toEqual(found)
  // Nothing done before the restoring is lost.
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('measure-volume')).toHaveText(mirrored)
  await bench.saved()
  expect(problems).toEqual([])
})

test('fewer nodes for more deviation, with both figures; the comb and the chart show where', async ({
  page,
}) => {
  await outlined(page)
  await page.getByText('Fit to the outline').click()
  const figures = async () => {
    const words = await page.getByTestId('fit-figures').innerText()
    return {
      nodes: Number(/^(\d+) nodes/.exec(words)![1]),
      most: Number(/at most ([\d.]+) mm/.exec(words)![1]),
    }
  }
  const close = await figures()
  expect(close.most).toBeLessThan(0.05)
  await type(page, 'Tolerance', '0.3 mm')
  await expect.poll(async () => (await figures()).nodes).toBeLessThan(close.nodes)
  const loose = await figures()
  expect(loose.most).toBeGreaterThan(close.most)
  await page.getByText('Comb of deviations').click()
  await expect(page.getByTestId('comb')).toBeVisible()
  await page.getByText('Chart of ⌀').click()
  const canvas = page.getByTestId('diameter-chart').locator('canvas')
  await expect(canvas).toBeVisible()

  // The height under the pointer over the photo shows in the chart.
  const picture = () => canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL())
  const photo = (await page.getByTestId('photo-pane').boundingBox())!
  await page.mouse.move(photo.x + 60, photo.y + photo.height / 2)
  await page.waitForTimeout(300)
  const middle = await picture()
  await page.mouse.move(photo.x + 60, photo.y + photo.height / 2 - 60)
  await expect.poll(picture).not.toBe(middle)
})

test('several nodes are moved once by a typed amount, and a station’s caliper reading is met', async ({
  page,
}) => {
  page.setDefaultTimeout(10_000)
  await openCopy(page, 'Ink bottle', 'profile')
  const before = await table(page)
  const last = before.length - 1
  await rows(page)
    .nth(last - 3)
    .click()
  await rows(page)
    .nth(last)
    .click({ modifiers: ['Shift'] })
  await type(page, 'Move up', '5 mm')
  // Leaving the field doesn't send it again.
  await page.getByLabel('Move up', { exact: true }).blur()
  const after = await table(page)
  after.forEach((n, i) => expect(n.height - before[i]!.height).toBeCloseTo(i < last - 3 ? 0 : 5, 2))
  await expect(page.getByLabel('Move up', { exact: true })).toHaveValue('0.00 mm')

  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /Stations/ }).click()
  await page.getByTestId('add-station').click()
  await type(page, 'At height', '92 mm')
  await type(page, 'Caliper ⌀', '27 mm')
  await expect(page.getByTestId('station-off')).toContainText('under the caliper')
  await page.getByTestId('meet-station').click()
  await expect(page.getByTestId('station-off')).toHaveText('as the caliper says')
})

test('arcs through three points, bent by their middle; a lock that can’t hold is said', async ({ page }) => {
  const { bench } = await openCopy(page, 'Ink bottle', 'profile')
  await page.getByRole('button', { name: 'Clear' }).click()
  await page.getByRole('button', { name: 'Draw', exact: true }).click()
  const photo = (await page.getByTestId('photo-pane').boundingBox())!
  const axis = photo.x + photo.width / 2
  const [low, high] = [photo.y + photo.height - 60, photo.y + 120]
  await page.mouse.click(axis, low)
  await page.mouse.click(axis + 90, low)
  await page.keyboard.press('a')
  await page.mouse.move(axis + 120, (low + high) / 2)
  await page.mouse.click(axis + 120, (low + high) / 2)
  await page.mouse.move(axis + 90, high)
  await page.mouse.click(axis + 90, high)
  await page.keyboard.press('l')
  await page.mouse.click(axis, high)
  await expect(nodes(page)).toHaveCount(4)
  const middle = await bench.millimetres('diameter')
  expect((await table(page))[1]!.then).toContain('◠')

  await rows(page).nth(1).click()
  const bend = (await page.getByTestId('bend').boundingBox())!
  await page.mouse.move(bend.x + 5, bend.y + 5)
  await page.mouse.down()
  await page.mouse.move(bend.x + 35, bend.y + 5, { steps: 4 })
  await page.mouse.up()
  expect(await bench.millimetres('diameter')).toBeGreaterThan(middle + 2)

  await type(page, 'Arc radius', '1 mm')
  await expect(page.getByTestId('refusal')).toContainText('at least')
  await page.getByRole('button', { name: 'Hold the ⌀' }).click()
  await rows(page).nth(2).click()
  await type(page, '⌀', '20 mm')
  await page.getByRole('button', { name: 'Hold the ⌀' }).click()
  // Both to be held at one ⌀ contradicts.
  await rows(page)
    .nth(1)
    .click({ modifiers: ['ControlOrMeta'] })
  await page.getByRole('button', { name: 'Keep one ⌀' }).click()
  await expect(page.getByTestId('refusal')).toContainText('contradict each other')
})

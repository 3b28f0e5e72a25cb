import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { unzipSync } from 'fflate'
import { watchConsole } from './bench-page'

/** Names in the order they stand. */
const standing = (page: import('@playwright/test').Page) => page.getByTestId('standing').evaluateAll((list) => list.map((e) => e.getAttribute('aria-label'))) // prettier-ignore

test('a set stands at one scale, is put in order by dragging, agrees in size, and leaves as sheet and archive', async ({
  page,
}) => {
  const problems = watchConsole(page)
  await page.goto('/')
  // A set of its own, so that other tests find theirs as it was.
  for (const name of ['Ink bottle', 'Ninepin']) {
    // Other tests may have left copies: the new one comes first, once it is there.
    const copies = page.getByRole('button', { name: `Set of ${name} (copy)`, exact: true })
    await expect(page.getByRole('button', { name: `Duplicate ${name}`, exact: true })).toBeVisible()
    const before = await copies.count()
    await page.getByRole('button', { name: `Duplicate ${name}`, exact: true }).click()
    await expect(copies).toHaveCount(before + 1)
    await copies.first().click()
    await page.getByLabel(`Set for ${name} (copy)`).last().fill('Two things')
    await page.getByRole('button', { name: 'Put there' }).last().click()
    await expect(page.getByRole('region', { name: 'Two things' }).getByRole('heading', { name: `${name} (copy)` })).toBeVisible() // prettier-ignore
  }
  await page.getByRole('region', { name: 'Two things' }).getByRole('link', { name: 'Line up' }).click()
  await expect.poll(() => standing(page)).toEqual(['Ink bottle (copy)', 'Ninepin (copy)'])

  // One scale: what is twice as tall is drawn twice as tall, on one ground line.
  const box = async (k: number) => (await page.getByTestId('standing').nth(k).locator('svg').boundingBox())!
  await expect.poll(async () => (await box(1)).height / (await box(0)).height).toBeCloseTo(222.15 / 112.01, 2)
  const [bottle, pin] = [await box(0), await box(1)]
  expect(Math.abs(pin.y + pin.height - bottle.y - bottle.height)).toBeLessThan(1)

  await page.mouse.move(bottle.x + bottle.width / 2, bottle.y + bottle.height / 2)
  await page.mouse.down()
  for (let k = 1; k <= 8; k++) await page.mouse.move(bottle.x + ((pin.x + pin.width - bottle.x) * k) / 8, bottle.y + bottle.height / 2, { steps: 3 }) // prettier-ignore
  await page.mouse.up()
  await expect.poll(() => standing(page)).toEqual(['Ninepin (copy)', 'Ink bottle (copy)'])
  await page.getByTestId('standing').nth(0).focus()
  await page.keyboard.press('ArrowRight')
  await expect.poll(() => standing(page)).toEqual(['Ink bottle (copy)', 'Ninepin (copy)'])
  await expect(page.getByTestId('standing').nth(1)).toBeFocused()
  await page.keyboard.press('ArrowLeft')
  await expect.poll(() => standing(page)).toEqual(['Ninepin (copy)', 'Ink bottle (copy)'])
  await page.reload()
  await expect.poll(() => standing(page)).toEqual(['Ninepin (copy)', 'Ink bottle (copy)'])

  await page.getByLabel('Size of Ninepin (copy)').click()
  await page.getByLabel('Make it').fill('111 mm')
  await page.keyboard.press('Enter')
  const row = page.getByTestId('sizes').getByRole('row', { name: /Ninepin/ })
  await expect(row).toContainText('111.00 mm')
  await expect(row).toContainText('0.4996')
  await page.getByLabel('Size of Ninepin (copy)').click()
  await page.getByLabel('Agree with').selectOption({ index: 1 })
  await expect(row).toContainText('112.01 mm')

  await page.getByLabel('Variant of Ninepin (copy)').click()
  await page.getByLabel('Name of the variant').fill('Ninepin in walnut')
  await page
    .getByRole('dialog')
    .or(page.locator('.ant-popover'))
    .getByLabel('Material')
    .last()
    .selectOption('walnut')
  await page.getByRole('button', { name: 'Make the variant' }).click()
  await expect
    .poll(() => standing(page))
    .toEqual(['Ninepin (copy)', 'Ninepin in walnut', 'Ink bottle (copy)'])
  await expect(page.getByTestId('sizes').getByRole('row', { name: /walnut/ })).toContainText('Walnut')

  for (const way of ['Photos', 'Solids']) {
    await page.getByText(way, { exact: true }).click()
    await expect(page.getByTestId('standing').first().locator('image')).toBeVisible({ timeout: 20_000 })
  }
  const [sheet] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'as SVG' }).click(),
  ])
  const svg = readFileSync(await sheet.path(), 'utf8')
  for (const words of ['Two things', 'Ninepin (copy)', '112.0', '⌀ 66.0'])
    expect(svg).toContain(`>${words}</text>`)
  const [zip] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Whole set as archive' }).click()]) // prettier-ignore
  expect(zip.suggestedFilename()).toBe('two-things.zip')
  const archive = readFileSync(await zip.path())
  expect(Object.keys(unzipSync(archive)).filter((n) => n.startsWith('photos/'))).toHaveLength(2)

  await page.getByRole('link', { name: 'Cabinet' }).click()
  await page.getByLabel('Archive or document of pieces').setInputFiles({ name: 'two-things.zip', mimeType: 'application/zip', buffer: archive }) // prettier-ignore
  await expect(page.getByText('3 pieces taken in as the set “Two things (2)”.')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Two things (2)' }).getByTestId('piece-card')).toHaveCount(3)
  await page.getByLabel('Archive or document of pieces').setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('nothing') }) // prettier-ignore
  await expect(page.getByText(/no readable ZIP archive/)).toBeVisible()
  // The refusals are the server's, and the only words on the console.
  expect(problems.filter((p) => !p.includes('422'))).toEqual([])
})

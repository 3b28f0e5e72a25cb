import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { unzipSync } from 'fflate'
import { openCopy, type, watchConsole } from './bench-page'

const number = (text: string) => Number(/[\d.]+/.exec(text)![0])
test('a bottle is hollowed, holds what it says, weighs what its wall weighs, and is handed over so', async ({
  page,
}) => {
  page.setDefaultTimeout(10_000)
  const problems = watchConsole(page)
  const { bench } = await openCopy(page, 'Ink bottle', 'solid')
  const filled = number(await bench.measure('volume'))
  await page.getByTestId('hollow').click()
  await type(page, 'Wall', '2 mm')
  await type(page, 'Floor', '3 mm')
  await page.getByText('Neck bored').click()
  await page.getByLabel('Lip').getByText('round').click()
  await expect(page.getByTestId('stage-solid')).toContainText('Hollow, watertight.')
  await expect(page.getByTestId('thinnest')).toContainText('Thinnest: 2.00 mm')
  await expect(page.getByTestId('inside')).toBeVisible()
  const material = number(await bench.measure('volume'))
  const holds = number(await page.getByTestId('measure-holds').innerText())
  // Wall and hollow together are the filled bottle, but for the rounded lip and the bore's rim.
  expect(Math.abs(material + holds - filled)).toBeLessThan(0.2)

  await page.getByTestId('stage-check').click()
  await type(page, 'or with', '200 ml')
  const level = await page.getByLabel('Filled to', { exact: true }).inputValue()
  expect(number(level)).toBeGreaterThan(50)
  // The liquid fills the whole of the inside up to its level, as a section shows it.
  const liquid = await page.locator('.liquid').evaluateAll((list) => list.map((p) => p.getAttribute('d')!.split('M').length - 1)) // prettier-ignore
  expect(liquid).toEqual([1, 1])
  await type(page, 'or with', '10 ml')
  await type(page, 'Filled to', level)
  expect(number(await page.getByLabel('or with', { exact: true }).inputValue())).toBeCloseTo(200, 0)
  await type(page, 'or with', '900 ml')
  await expect(page.getByRole('alert').filter({ hasText: 'would run over' })).toBeVisible()
  await page.getByLabel('Material').selectOption({ label: 'Stoneware' })
  expect(number(await page.getByTestId('mass').innerText())).toBeCloseTo(2.3 * material, 0)
  await expect(page.getByTestId('stands')).toContainText('tips over at')

  // Standing in a printer: the shoulder's ceiling leans out inside.
  await expect(page.getByTestId('fits')).toHaveText('It fits standing.')
  await expect(page.getByTestId('overhangs')).toContainText('Inside from')
  await type(page, 'Room height', '100 mm')
  await expect(page.getByTestId('fits')).toContainText('lying')

  await page.getByTestId('stage-hand-over').click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /\.stl$/ }).click()
  const bytes = readFileSync(await (await download).path())
  let six = 0
  for (let i = 0; i < bytes.readUInt32LE(80); i++) {
    const v = Array.from({ length: 9 }, (_, k) => bytes.readFloatLE(84 + 50 * i + 12 + 4 * k)) as [number, number, number, number, number, number, number, number, number] // prettier-ignore
    six += v[0] * (v[4] * v[8] - v[5] * v[7]) - v[1] * (v[3] * v[8] - v[5] * v[6]) + v[2] * (v[3] * v[7] - v[4] * v[6]) // prettier-ignore
  }
  // 64 sides hold 0.16 % less.
  expect(six / 6 / 1000).toBeGreaterThan(material * 0.99)
  expect(six / 6 / 1000).toBeLessThan(material)

  await page.getByTestId('stage-solid').click()
  await type(page, 'Wall', '40 mm')
  await expect(page.getByRole('alert').filter({ hasText: 'no room for a wall of 40 mm' })).toBeVisible()
  expect(number(await bench.measure('volume'))).toBe(filled)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.getByTestId('measure-holds')).toBeVisible()
  await bench.saved()
  expect(problems).toEqual([])
})

test('sides follow a typed error or number of triangles; a part of a turn is closed by flat ends', async ({
  page,
}) => {
  await openCopy(page, 'Ink bottle', 'solid')
  const sides = page.getByLabel('Sides', { exact: true })
  await type(page, 'Error of ⌀/2', '0.5 mm')
  const fine = Number(await sides.inputValue())
  // 33 mm (1 - cos π/n) ≤ 0.5 mm from 19 sides on.
  expect(fine).toBe(19)
  await type(page, 'Triangles', '1000')
  expect(number((await page.getByTestId('triangles').innerText()).replace(',', ''))).toBeLessThanOrEqual(1000)
  await page.getByText('a part', { exact: true }).click()
  await type(page, 'Over', '90°')
  await type(page, 'Its middle at', '45°')
  await expect(page.getByLabel('From', { exact: true })).toHaveValue('0°')
  await page.getByText('Look', { exact: true }).click()
  await page.getByText('half', { exact: true }).click()
  await expect(page.getByTestId('stage-solid')).toContainText('Watertight')
})

test('ticked formats leave together in one archive, and the choice is remembered', async ({ page }) => {
  const problems = watchConsole(page)
  await openCopy(page, 'Hand bell', 'hand-over')
  await page.getByLabel('GLB together with others').check()
  await page.getByLabel('STEP together with others').uncheck()
  const download = page.waitForEvent('download')
  await page.getByTestId('save-together').click()
  const archive = await download
  expect(archive.suggestedFilename()).toBe('hand-bell-copy.zip')
  const names = Object.keys(unzipSync(readFileSync(await archive.path()))).sort()
  expect(names).toEqual(['hand-bell-copy.3mf', 'hand-bell-copy.glb', 'hand-bell-copy.half-section.pdf'])
  await page.reload()
  await expect(page.getByLabel('GLB together with others')).toBeChecked()
  expect(problems).toEqual([])
})

import { readFileSync } from 'node:fs'
import { strFromU8, unzipSync } from 'fflate'
import { expect, test } from '@playwright/test'
import { BenchDriver, copyOf, demoPhoto, watchConsole } from './bench-page'

test('judging aids change the look and nothing else; the loupe shows pixels while a mark is set', async ({
  page,
}) => {
  const id = await copyOf(page, 'Lamp chimney')
  await page.goto(`/piece/${id}/photo`)
  await new BenchDriver(page).settled()
  const before = await (await page.request.get(`/api/pieces/${id}`)).json()
  await page.getByRole('button', { name: /Judging aids/ }).click()
  await page.getByText('Bring out edges').click()
  await page.getByText('Tint what is white').click()
  await page.locator('label.slider', { hasText: 'Lighter darks' }).getByRole('slider').focus()
  await page.keyboard.press('ArrowRight')
  const filter = () =>
    page.locator('[data-testid="photo-pane"] > canvas').evaluate((c) => getComputedStyle(c).filter)
  expect(await filter()).toMatch(/judge-darks.*judge-edges.*judge-tint/)
  await page.getByRole('button', { name: 'As it is' }).click()
  expect(await filter()).toBe('none')
  expect(await (await page.request.get(`/api/pieces/${id}`)).json()).toEqual(before)

  await page.getByRole('button', { name: 'Crop to the piece' }).click()
  const box = (await page.getByTestId('photo-pane').boundingBox())!
  await page.mouse.move(box.x + 120, box.y + 300)
  await expect(page.locator('.loupe')).toBeVisible()
  await page.keyboard.press('o')
  await expect(page.locator('.loupe')).toHaveCount(0)
  await page.request.delete(`/api/pieces/${id}`)
})

test('a reference photo has a scale of its own, and what is measured in it becomes a known size', async ({
  page,
}) => {
  const problems = watchConsole(page)
  const id = await copyOf(page, 'Ink bottle')
  await page.goto(`/piece/${id}/photo`)
  const bench = new BenchDriver(page)
  await bench.settled()
  await page.getByRole('button', { name: /More photos/ }).click()
  await page
    .getByLabel('Reference photo file')
    .setInputFiles({ name: 'wheel.jpg', mimeType: 'image/jpeg', buffer: demoPhoto('rope-sheave.jpg') })
  await page.getByRole('button', { name: 'Open front' }).click()
  const picture = page.getByTestId('reference-picture')
  await picture.waitFor()
  await page.waitForTimeout(500)
  const click = async (x: number, y: number) => {
    const box = (await picture.boundingBox())!
    await page.mouse.click(box.x + (x / 2000) * box.width, box.y + (y / 1500) * box.height)
  }
  await click(400, 750)
  await click(1200, 750)
  await expect(page.getByTestId('reference-length')).toContainText('mark a known length')
  await page.getByLabel('It really is').fill('80 mm')
  await page.getByLabel('It really is').press('Enter')
  await click(600, 700)
  await click(1000, 700)
  const length = Number.parseFloat(await page.getByTestId('reference-length').innerText())
  expect(Math.abs(length - 40)).toBeLessThan(0.3)
  // Two marks at one place are no length.
  await click(600, 700)
  await click(601, 700)
  await expect(page.getByRole('alert')).toContainText('nearly coincide')
  await page.getByRole('button', { name: 'Use as a known ⌀' }).click()
  await page.getByTestId('stage-calibrate').click()
  await expect(page.getByTestId('size-2')).toContainText('off')
  await bench.saved()
  await page.reload()
  await page.getByTestId('stage-photo').click()
  await page.getByRole('button', { name: /More photos of the piece 1 kept/ }).click()
  await expect(page.getByLabel('What the photo shows')).toHaveValue('front')
  expect(problems).toEqual([])
  await page.request.delete(`/api/pieces/${id}`)
})

test('the real height corrects the scale; a finished size goes into the files', async ({ page }) => {
  const id = await copyOf(page, 'Ink bottle')
  await page.goto(`/piece/${id}/calibrate`)
  const bench = new BenchDriver(page)
  await bench.settled()
  await page.getByRole('button', { name: /Measure, correct, finish/ }).click()
  await page.getByLabel('Real height').fill('140 mm')
  await page.keyboard.press('Enter')
  // Nodes that were drawn beside the level they snapped to are read again where they were drawn: a few hundredths.
  await expect.poll(() => bench.millimetres('height')).toBeGreaterThan(139.9)
  expect(await bench.millimetres('height')).toBeLessThan(140.1)
  await page.getByRole('link', { name: 'Take it back' }).click()
  expect(await bench.millimetres('height')).toBeCloseTo(112, 0)
  const finished = page.getByLabel('Finished size')
  await finished.fill('one half')
  await finished.blur()
  await expect(page.getByText(/is no factor/)).toBeVisible()
  await finished.fill('1:2')
  await finished.blur()
  await expect(page.getByText(/Finished height 56/)).toBeVisible()
  await page.getByTestId('stage-hand-over').click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /copy\.obj$/ }).click(),
  ])
  const obj = strFromU8(unzipSync(readFileSync(await download.path()))['ink-bottle-copy.obj']!)
  const z = [...obj.matchAll(/^v \S+ \S+ (\S+)/gm)].map((m) => Number(m[1]))
  expect(Math.max(...z) - Math.min(...z)).toBeCloseTo(56, 1)
  await page.request.delete(`/api/pieces/${id}`)
})

import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { openCopy, type, watchConsole } from './bench-page'

const number = (text: string) => Number(/[\d.]+/.exec(text)![0])

test('a handle is drawn over the photo, its points dragged and typed, and it stays out of the inside', async ({
  page,
}) => {
  page.setDefaultTimeout(10_000)
  const problems = watchConsole(page)
  const { bench } = await openCopy(page, 'Ink bottle', 'solid')
  await page.getByTestId('hollow').click()
  await expect(page.getByTestId('measure-holds')).toBeVisible()
  const holds = await page.getByTestId('measure-holds').innerText()
  const plain = number(await bench.measure('volume'))
  await page.getByText('Parts', { exact: true }).click()
  await page.getByTestId('add-part').selectOption({ label: 'Handle, spout or hose, drawn' })
  await expect(page.getByTestId('fitting-point')).toHaveCount(5)
  await expect.poll(async () => number(await bench.measure('volume'))).toBeGreaterThan(plain + 1)

  // Drawn anew: three clicks, each on the photo's own plane.
  await page.getByRole('button', { name: 'Draw it anew' }).click()
  await expect(page.getByTestId('part')).toContainText('Its way needs two points at least.')
  await page.getByTestId('draw-fitting').click()
  const pane = (await page.getByTestId('photo-pane').boundingBox())!
  const middle = pane.x + pane.width / 2
  for (const [x, y] of [
    [60, 270],
    [165, 330],
    [120, 470],
  ] as const)
    await page.mouse.click(middle + x, pane.y + y)
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('fitting-point')).toHaveCount(3)
  await expect(page.getByTestId('part')).not.toContainText('needs two points')
  const before = await page.getByTestId('fitting-point').nth(1).boundingBox()
  await page.mouse.move(before!.x + 6, before!.y + 6)
  await page.mouse.down()
  await page.mouse.move(before!.x - 4, before!.y + 36, { steps: 3 })
  await page.mouse.up()
  await page.getByText('3 points').click()
  const height = page.getByLabel('height', { exact: true }).nth(1)
  const dragged = number(await height.inputValue())
  await height.fill(`${dragged + 5} mm`)
  await height.press('Enter')
  const after = await page.getByTestId('fitting-point').nth(1).boundingBox()
  expect(after!.y).toBeLessThan(before!.y + 30)
  // A fillet leads over to the body, and adds a little to it.
  const sharp = number(await bench.measure('volume'))
  await type(page, 'Fillet to body', '4 mm')
  await expect.poll(async () => number(await bench.measure('volume'))).toBeGreaterThan(sharp)
  // What it holds is untouched: the handle keeps out of the inside.
  expect(await page.getByTestId('measure-holds').innerText()).toBe(holds)
  await bench.saved()
  expect(problems).toEqual([])
})

test('the inside is shaped by hand, refused where it crosses the wall, and given back to the rule', async ({
  page,
}) => {
  page.setDefaultTimeout(10_000)
  const problems = watchConsole(page)
  const { bench } = await openCopy(page, 'Ink bottle', 'solid')
  await page.getByTestId('hollow').click()
  await page.getByLabel('Lip').getByText('bead').click()
  await type(page, 'Bead ⌀', '9 mm')
  await expect(page.getByTestId('stage-solid')).toContainText('Hollow, watertight.')
  await page.getByTestId('inside-by-hand').click()
  await expect(page.getByRole('heading', { name: 'Half-profile of the inside' })).toBeVisible()
  await expect(page.getByText(/glass bends light/)).toBeVisible()
  const holds = async () => number(await page.getByTestId('measure-holds').innerText())
  const rule = await holds()
  // The floor is raised.
  await page.locator('[data-row]').first().click()
  await type(page, 'Height', '12 mm')
  await expect.poll(holds).toBeLessThan(rule)
  // Its widest node is put outside of the wall.
  await page.locator('[data-row]').nth(3).click()
  await type(page, '⌀', '80 mm')
  await expect(page.getByTestId('inside-problem')).toContainText('Inside and outside cross at')
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(page.getByTestId('inside-problem')).toHaveCount(0)
  await page.getByTestId('part-done').click()
  await expect(page.getByText('The inside is drawn by hand.')).toBeVisible()
  await page.getByRole('button', { name: 'By rule again' }).click()
  await expect.poll(holds).toBeCloseTo(rule, 0)
  await bench.saved()
  expect(problems).toEqual([])
})

test('the solid shows its wall, the photo’s outline and its pattern, and a mesh of quads leaves as such', async ({
  page,
}) => {
  page.setDefaultTimeout(10_000)
  const problems = watchConsole(page)
  await openCopy(page, 'Ink bottle', 'outline')
  await page.getByTestId('find-outline').click()
  await expect(page.getByTestId('outline-summary')).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: /Half-profile from it/ }).click()
  await page.getByTestId('replace-by-outline').click()
  await page.getByTestId('stage-check').click()
  await expect(page.getByTestId('silhouette')).toContainText('RMS from the solid’s silhouette', {
    timeout: 20_000,
  })
  const median = /half of them within ([\d.]+) px/.exec(await page.getByTestId('silhouette').innerText())!
  expect(Number(median[1])).toBeLessThan(1)

  // By parallel rays the outline's end bulges as its ring does; the half-profile ends level, as a mouth does.
  await page.getByTestId('stage-solid').click()
  await page.getByTestId('hollow').click()
  await page.getByText('Look', { exact: true }).click()
  const shows = page.getByLabel('Surface shows')
  await shows.selectOption({ label: 'thickness of the wall' })
  await expect(page.getByTestId('paint-scale')).toContainText('mm')
  await shows.selectOption({ label: 'distance from the photo’s outline' })
  await expect(page.getByTestId('paint-scale')).toContainText('-')
  await shows.selectOption({ label: 'check pattern, 10 mm' })
  await expect(page.getByTestId('paint-scale')).toHaveCount(0)
  await page.getByLabel('Beside it').selectOption({ label: 'an identity card' })
  await expect(page.getByTestId('companion')).toContainText('85.6 × 54 mm')
  const pane = page.getByTestId('solid-pane')
  const box = (await pane.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2 + 60, { steps: 4 })
  await page.mouse.up()
  const level = pane.getByRole('button', { name: 'Side view' })
  await level.click()
  await expect(level).toHaveCount(0)

  await page.getByText('Body', { exact: true }).click()
  await page.getByTestId('cage').click()
  await expect(page.getByTestId('cage-figures')).toContainText('quads')
  await page.getByLabel('Flat ends').getByText('quads').click()
  await expect(page.getByTestId('cage-figures')).not.toContainText('triangles')
  await page.getByTestId('stage-hand-over').click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /\.quads\.obj$/ }).click()
  const text = readFileSync(await (await download).path(), 'utf8')
  const faces = [...text.matchAll(/^f (.+)$/gm)].map((m) => m[1]!.split(' ').length)
  expect(new Set(faces)).toEqual(new Set([4]))
  expect(problems).toEqual([])
})

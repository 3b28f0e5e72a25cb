import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { openCopy, type, watchConsole } from './bench-page'

const number = (text: string) => Number(/[\d.]+/.exec(text)![0])

test('a jar is hollowed, threaded and capped, stands on felt, and its 330 ml line is read off', async ({
  page,
}) => {
  page.setDefaultTimeout(10_000)
  const problems = watchConsole(page)
  const { bench } = await openCopy(page, 'Ink bottle', 'calibrate')
  // Another bottle of the same shape, taller: it holds more than the ink bottle.
  await type(page, 'Real size', '135 mm')
  await expect.poll(() => bench.millimetres('height')).toBeGreaterThan(134)
  await page.getByTestId('stage-solid').click()
  await page.getByTestId('hollow').click()
  await type(page, 'Wall', '2 mm')
  await expect(page.getByTestId('thinnest')).toContainText('Thinnest: 2.00 mm')

  const plain = number(await bench.measure('volume'))
  await page.getByText('Parts', { exact: true }).click()
  await page.getByTestId('add-part').selectOption({ label: 'Screw thread on the neck' })
  const thread = page.getByTestId('part').nth(0)
  await expect(thread).toContainText('ISO 68-1')
  await expect(thread.getByRole('button', { name: 'Thread' })).toContainText('added')
  await type(page, 'Turns', '2')
  await expect.poll(async () => number(await bench.measure('volume'))).toBeGreaterThan(plain)
  await type(page, 'Root', '40 mm')
  await expect(thread).toContainText('Its turns would run into each other')
  await page.getByRole('button', { name: 'Profile of ISO 68-1 for this pitch' }).click()
  await expect(thread).not.toContainText('run into each other')

  // The cap: a half-profile of its own, drawn over the photo beside the bottle's.
  await page.getByTestId('add-part').selectOption({ label: 'Turned part: cap, collar, stopper' })
  await expect(page.getByRole('heading', { name: 'Half-profile of “Cap”' })).toBeVisible()
  await expect(page.getByTestId('body-beside')).toBeVisible()
  const axis = (await page.getByTestId('photo-pane').boundingBox())!
  for (const [x, y] of [
    [0, 210],
    [110, 210],
    [110, 90],
    [0, 90],
  ] as const)
    await page.mouse.click(axis.x + axis.width / 2 + x, axis.y + y)
  await expect(page.locator('[data-row]')).toHaveCount(4)
  await expect(page.locator('[data-row]').first()).toContainText('axis')
  await page.getByTestId('part-done').click()
  const cap = page.getByTestId('part').nth(1)
  await cap.locator('button').first().click()
  await cap.getByLabel('Clearance').fill('0.4 mm')
  await cap.getByLabel('Clearance').press('Enter')
  await expect(page.getByTestId('fit')).toContainText(/narrowest 0\.(39|40) mm/)

  await page.getByText('Zones', { exact: true }).click()
  await page.getByRole('button', { name: 'Add a zone' }).click()
  const zone = page.getByTestId('zone')
  await zone.getByLabel('Name').fill('Felt foot')
  await zone.getByLabel('Name').press('Enter')
  await zone.getByLabel('To').fill('3 mm')
  await zone.getByLabel('To').press('Enter')
  await zone.getByLabel('Material').selectOption({ label: 'Felt, wool' })

  // The label's paper, laid flat.
  await page.getByRole('button', { name: 'Add a zone' }).click()
  const label = page.getByTestId('zone').nth(1)
  for (const [field, text] of [
    ['To', '60 mm'],
    ['From', '20 mm'],
  ] as const) {
    await label.getByLabel(field).fill(text)
    await label.getByLabel(field).press('Enter')
  }
  const paper = page.waitForEvent('download')
  await label.getByRole('button', { name: 'Save it unrolled' }).click()
  expect(readFileSync(await (await paper).path(), 'utf8')).toMatch(
    /Unrolled in millimetres: 249\.\d+ around below/,
  )

  await page.getByTestId('stage-check').click()
  await type(page, 'or with', '330 ml')
  const level = number(await page.getByLabel('Filled to', { exact: true }).inputValue())
  expect(level).toBeGreaterThan(60)
  expect(level).toBeLessThan(135)
  await expect(page.getByTestId('inside').getByText(/330\.0 ml to/)).toBeVisible()
  await page.getByLabel('Material').selectOption({ label: 'Stoneware' })
  await expect(page.getByTestId('part-mass')).toContainText('Cap:')
  await bench.saved()

  // All of it leaves: two bodies and the felt's material.
  await page.getByTestId('stage-hand-over').click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /\.glb$/ }).click()
  const bytes = readFileSync(await (await download).path())
  const json = JSON.parse(bytes.subarray(20, 20 + bytes.readUInt32LE(12)).toString()) as {
    nodes: { name: string }[]
    materials: { name: string }[]
  }
  expect(json.nodes.map((n) => n.name).slice(2)).toEqual(['Cap'])
  expect(json.materials.map((m) => m.name)).toEqual(['Stoneware', 'Felt, wool'])
  await page.getByRole('button', { name: /\.step$/ }).click()
  await expect(page.getByRole('alert')).toContainText('Hide it, or hand over a mesh')
  expect(problems).toEqual([])
})

test('battlements are refused where the sides don’t divide, and the counts that do are offered', async ({
  page,
}) => {
  page.setDefaultTimeout(10_000)
  const problems = watchConsole(page)
  await openCopy(page, 'Ninepin', 'solid')
  await type(page, 'Sides', '12')
  await page.getByText('Parts', { exact: true }).click()
  await page.getByTestId('add-part').selectOption({ label: 'Notches round the rim' })
  const part = page.getByTestId('part')
  await expect(part).toContainText('cut away, 4 times')
  await type(page, 'Times', '6')
  await expect(part).toContainText('6 repeats of 2 up, 1 down need 18 or 36 sides; 12 sides carry 4.')
  await page.getByTestId('rhythm-offers').getByRole('button', { name: '36 sides' }).click()
  await expect(part).toContainText('cut away, 6 times')
  await page.keyboard.press('Control+z')
  await page.getByTestId('rhythm-offers').getByRole('button', { name: '4 repeats' }).click()
  await expect(part).toContainText('cut away, 4 times')

  // A part that does nothing is named, and can be hidden or removed.
  await page.getByTestId('add-part').selectOption({ label: 'Hole through the side' })
  const hole = part.nth(1)
  await type(page, 'At height', '900 mm')
  await expect(hole).toContainText('It cuts nothing; it lies beside the solid.')
  await page.getByTestId('stage-hand-over').click()
  await page.getByRole('button', { name: /\.stl$/ }).click()
  await expect(page.getByRole('alert')).toContainText('Mend or hide that part first')
  await page.getByTestId('stage-solid').click()
  await hole.locator('button').first().click()
  await hole.getByRole('button', { name: 'Remove' }).click()
  await expect(part).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(part).toHaveCount(2)
  expect(problems).toEqual([])
})

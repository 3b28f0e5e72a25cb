import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { BenchDriver, demoPhoto, dropFile, watchConsole } from './bench-page'

test('pieces are found, renamed, duplicated, deleted and brought back', async ({ page }) => {
  await page.goto('/')
  const cards = page.getByTestId('piece-card')
  await expect(cards).toHaveCount(8)
  await page.keyboard.press('/')
  await page.keyboard.type('lamp sheave')
  await expect(cards).toHaveCount(1)
  await page.getByRole('button', { name: 'Duplicate Rope sheave' }).click()
  await expect(cards).toHaveCount(2)
  await page.getByRole('button', { name: 'Rename Rope sheave (copy)' }).click()
  await page.keyboard.type('Second sheave')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Second sheave' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete Second sheave' }).click()
  await expect(cards).toHaveCount(1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('heading', { name: 'Second sheave' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete Second sheave' }).click()
  await expect(cards).toHaveCount(1)
  await page.getByLabel('Search the cabinet').fill('no such thing')
  await expect(page.getByText('Nothing is called “no such thing”')).toBeVisible()
  await page.getByRole('button', { name: 'Show all pieces' }).click()
  await expect(cards).toHaveCount(8)
})

test('what is no photo is refused in words and leaves no piece behind', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByTestId('piece-card')).toHaveCount(8)
  await dropFile(
    page,
    Buffer.from('\0\0\0\x18ftypheic\0\0\0\0mif1heic', 'latin1'),
    'IMG_1.HEIC',
    'image/heic',
  )
  await expect(page.getByText('This is a HEIC photo')).toBeVisible()
  await dropFile(page, demoPhoto('ninepin.jpg').subarray(0, 90_000), 'cut.jpg', 'image/jpeg')
  await expect(page.getByText('damaged or cut short')).toBeVisible()
  await page.reload()
  await expect(page.getByTestId('piece-card')).toHaveCount(8)
})

test('a pasted picture becomes a piece', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByTestId('piece-card')).toHaveCount(8)
  await page.evaluate((data) => {
    const transfer = new DataTransfer()
    transfer.items.add(
      new File([Uint8Array.from(atob(data), (c) => c.charCodeAt(0))], 'image.jpg', { type: 'image/jpeg' }),
    )
    window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: transfer }))
  }, demoPhoto('hand-bell.jpg').toString('base64'))
  await page.getByTestId('photo-pane').waitFor()
  await page.getByTestId('stage-photo').click()
  // The bell's photo is stored lying and turned upright by its EXIF orientation.
  await expect(page.getByText('1500 × 2000 px (3.0 megapixels)')).toBeVisible()
  await expect(page.getByText('172 mm (35 mm equivalent)')).toBeVisible()
  const id = /piece\/([0-9a-f-]+)/.exec(page.url())![1]
  await page.goBack()
  await expect(page).toHaveTitle('Cabinet – Baldacchino')
  await page.request.delete(`/api/pieces/${id}`)
})

test('addresses can be linked and reloaded; a wrong one says so', async ({ page }) => {
  const bench = new BenchDriver(page)
  await bench.open('Water glass', 'solid')
  const url = page.url()
  expect(url).toMatch(/\/solid$/)
  await page.reload()
  await expect(page).toHaveTitle('Water glass, Solid – Baldacchino')
  await page.goto('/piece/00000000-0000-4000-8000-000000000000')
  await expect(page.getByText('This piece does not exist, or was deleted.')).toBeVisible()
  await page.goto('/no/such/page')
  await page.getByRole('link', { name: 'Back to the cabinet' }).click()
  await expect(page.getByTestId('piece-card')).toHaveCount(8)
})

test('the sheet of keys opens with "?" and closes with Escape', async ({ page }) => {
  await new BenchDriver(page).open('Water glass', 'profile')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('close to the axis')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden()
  await page.keyboard.press('5')
  await expect(page).toHaveURL(/\/solid$/)
})

const STAGES = ['photo', 'calibrate', 'profile', 'solid', 'check', 'hand-over']
const VIEWS: [name: string, open: (page: Page) => Promise<void>][] = [
  [
    'the cabinet',
    async (page) => {
      await page.goto('/')
      await expect(page.getByTestId('piece-card')).toHaveCount(8)
    },
  ],
  [
    'the line-up',
    async (page) => {
      await page.goto('/line-up/Lamp%20room')
      await expect(page.getByTestId('standing')).toHaveCount(6)
    },
  ],
  ...STAGES.map((stage): (typeof VIEWS)[number] => [
    stage,
    (page) => new BenchDriver(page).open('Hand bell', stage),
  ]),
]

// A test each: on a busy machine axe takes ten seconds a view.
for (const scheme of ['light', 'dark'] as const) {
  for (const [name, open] of VIEWS) {
    test(`no accessibility fault that axe can find, no console error: ${name} (${scheme})`, async ({
      page,
    }) => {
      const problems = watchConsole(page)
      await page.emulateMedia({ colorScheme: scheme })
      await open(page)
      await page.waitForTimeout(400)
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()
      expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`)).toEqual(
        [],
      )
      expect(problems).toEqual([])
    })
  }
}

import { expect, test } from '@playwright/test'
import { BenchDriver, demoPhoto } from './bench-page'

test('the whole way works without a pointer', async ({ page }) => {
  await page.goto('/')
  await page
    .getByLabel('Photo of the new piece')
    .setInputFiles({ name: 'bell.jpg', mimeType: 'image/jpeg', buffer: demoPhoto('hand-bell.jpg') })
  await page.getByTestId('photo-pane').waitFor()
  const bench = new BenchDriver(page)
  await bench.settled()
  const press = async (key: string, times = 1) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key)
  }
  // The crosshair starts in the middle of the pane; the tools hand over to each other.
  await press('ArrowDown', 14)
  await press('Enter')
  await press('ArrowUp', 30)
  await press('Enter')
  await expect(page.getByText('Click where the foot stands.')).toBeVisible()
  await press('ArrowDown', 30)
  await press('Enter')
  await press('Enter')
  await press('ArrowUp', 30)
  await press('Enter')
  await expect(page.getByLabel('Real size')).toBeFocused()
  await page.keyboard.type('160 mm')
  await press('Enter')
  await expect(page.getByTestId('stage-calibrate')).toContainText('1 px is')

  // A mark is moved by a pixel; the scale follows.
  const before = await bench.measure('scale')
  await page.getByRole('button', { name: /^Second mark of the known size/ }).focus()
  await press('Shift+ArrowUp', 3)
  await expect(page.getByTestId('measure-scale')).not.toHaveText(before)

  await page.locator('body').click({ position: { x: 90, y: 780 } })
  await press('4')
  await expect(page).toHaveURL(/profile$/)
  await press('ArrowDown', 14)
  await press('Enter')
  await press('ArrowRight', 8)
  await press('Enter')
  await press('ArrowUp', 25)
  await press('Enter')
  await press('x')
  await expect(page.getByTestId('stage-profile')).toContainText('closed at both ends')
  await press('Escape')
  await bench.saved()
  const id = /piece\/([0-9a-f-]+)/.exec(page.url())![1]
  await page.request.delete(`/api/pieces/${id}`)
})

import { expect, test, type Page } from '@playwright/test'
import { BenchDriver, copyOf } from './bench-page'

async function setSides(page: Page, sides: number) {
  const field = page.getByLabel('Sides', { exact: true })
  await field.fill(String(sides))
  await field.press('Enter')
}

test('every change is saved within a second and survives a reload', async ({ page }) => {
  const id = await copyOf(page, 'Ninepin')
  await page.goto(`/piece/${id}/solid`)
  await new BenchDriver(page).saved()
  // What is shown is collected in the page: “Saving …” may be gone before the next look from outside.
  const shown = page.evaluate(
    () =>
      new Promise<string[]>((resolve) => {
        const seen: string[] = []
        const state = document.querySelector('[data-testid="save-state"]')!
        new MutationObserver(() => {
          seen.push(state.textContent!.trim())
          if (seen.at(-1) === 'Saved') resolve(seen)
        }).observe(state, { childList: true, characterData: true, subtree: true })
      }),
  )
  await setSides(page, 17)
  const changed = Date.now()
  expect(await shown).toEqual(['Saving …', 'Saved'])
  const stored = (await (await page.request.get(`/api/pieces/${id}`)).json()) as {
    document: { solid: { sides: number } }
  }
  expect(stored.document.solid.sides).toBe(17)
  expect(Date.now() - changed).toBeLessThan(1500)
  await page.reload()
  await expect(page.getByLabel('Sides', { exact: true })).toHaveValue('17')
  await page.request.delete(`/api/pieces/${id}`)
})

test('two tabs: the idle one follows; when both changed, neither change is lost', async ({
  page,
  context,
}) => {
  const id = await copyOf(page, 'Ninepin')
  await page.goto(`/piece/${id}/solid`)
  await expect(page.getByLabel('Sides', { exact: true })).toHaveValue('64')
  const other = await context.newPage()
  await other.goto(`/piece/${id}/solid`)
  await setSides(other, 20)
  await new BenchDriver(other).saved()
  await expect(page.getByLabel('Sides', { exact: true })).toHaveValue('20')

  // Now this tab hears nothing from the other one, as if it were on another machine.
  const silent = await context.newPage()
  await silent.addInitScript(() => (window.BroadcastChannel.prototype.postMessage = () => undefined))
  await silent.goto(`/piece/${id}/solid`)
  await setSides(silent, 30)
  await new BenchDriver(silent).saved()
  await setSides(page, 40)
  await expect(page.getByRole('alert')).toContainText('changed in another tab')
  await page.getByRole('button', { name: 'Keep both: mine as a new piece' }).click()
  await expect(page.getByLabel('Sides', { exact: true })).toHaveValue('30')
  const list = (await (await page.request.get('/api/pieces')).json()) as { id: string; name: string }[]
  const mine = list.find((p) => p.name === 'Ninepin (copy) (other tab)')!
  const kept = (await (await page.request.get(`/api/pieces/${mine.id}`)).json()) as {
    document: { solid: { sides: number } }
  }
  expect(kept.document.solid.sides).toBe(40)
  // What was here before is one undo away.
  await page.keyboard.press('Control+z')
  await page.locator('body').click({ position: { x: 5, y: 790 } })
  for (const p of [id, mine.id]) await page.request.delete(`/api/pieces/${p}`)
})

test('while the server can’t be reached it says so, and saves when it is back', async ({ page }) => {
  const id = await copyOf(page, 'Ninepin')
  await page.goto(`/piece/${id}/solid`)
  await expect(page.getByLabel('Sides', { exact: true })).toHaveValue('64')
  await page.route('**/api/pieces/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  )
  await setSides(page, 21)
  await expect(page.getByTestId('save-state')).toHaveText('Not saved, trying again')
  await page.unroute('**/api/pieces/*')
  await new BenchDriver(page).saved()
  const stored = (await (await page.request.get(`/api/pieces/${id}`)).json()) as {
    document: { solid: { sides: number } }
  }
  expect(stored.document.solid.sides).toBe(21)
  await page.request.delete(`/api/pieces/${id}`)
})

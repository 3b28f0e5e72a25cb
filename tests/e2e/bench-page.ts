import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, type Page } from '@playwright/test'

/** Drives the bench by pointer and keyboard, as a user would. Picture positions are full-resolution px. */
export class BenchDriver {
  constructor(readonly page: Page) {}

  /** Opens a demo piece from the cabinet by its card. */
  async open(name: string, stage?: string): Promise<void> {
    await this.page.goto('/')
    await this.page.getByRole('link', { name: `Open ${name}`, exact: true }).click()
    await this.page.getByTestId('photo-pane').waitFor()
    if (stage) await this.page.getByTestId(`stage-${stage}`).click()
    await this.settled()
  }

  /** Waits until the view has been fitted to the panes. */
  async settled(): Promise<void> {
    await expect.poll(async () => (await this.matrix())[0] !== 1).toBe(true)
    await this.page.waitForTimeout(100)
  }

  private async matrix(): Promise<number[]> {
    const text = await this.page.getByTestId('photo-pane').getAttribute('data-matrix')
    return text!.split(' ').map(Number)
  }

  /** Where a picture position is on the page now. */
  async at(p: { x: number; y: number }): Promise<{ x: number; y: number }> {
    const [a, b, c, d, e, f] = (await this.matrix()) as [number, number, number, number, number, number]
    const box = (await this.page.getByTestId('photo-pane').boundingBox())!
    return { x: box.x + a * p.x + c * p.y + e, y: box.y + b * p.x + d * p.y + f }
  }

  async click(p: { x: number; y: number }): Promise<void> {
    const { x, y } = await this.at(p)
    await this.page.mouse.move(x, y)
    await this.page.mouse.down()
    await this.page.mouse.up()
  }

  async drag(from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
    const a = await this.at(from)
    const b = await this.at(to)
    await this.page.mouse.move(a.x, a.y)
    await this.page.mouse.down()
    await this.page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2)
    await this.page.mouse.move(b.x, b.y)
    await this.page.mouse.up()
  }

  async measure(id: 'height' | 'diameter' | 'volume' | 'area' | 'scale'): Promise<string> {
    return (await this.page.getByTestId(`measure-${id}`).innerText()).trim()
  }

  async millimetres(id: 'height' | 'diameter'): Promise<number> {
    return Number(/[\d.]+/.exec(await this.measure(id))![0])
  }

  async saved(): Promise<void> {
    await expect(this.page.getByTestId('save-state')).toHaveText('Saved')
  }
}

/** A copy of a demo piece, so that tests don't disturb each other. @returns its id */
export async function copyOf(page: Page, name: string): Promise<string> {
  const list = (await (await page.request.get('/api/pieces')).json()) as { id: string; name: string }[]
  const { id } = list.find((p) => p.name === name)!
  return ((await (await page.request.post(`/api/pieces/${id}/duplicate`)).json()) as { id: string }).id
}

/** Opens a copy of a demo piece at a stage. */
export async function openCopy(
  page: Page,
  name: string,
  stage: string,
): Promise<{ bench: BenchDriver; id: string }> {
  const id = await copyOf(page, name)
  await page.goto(`/piece/${id}/${stage}`)
  const bench = new BenchDriver(page)
  await bench.settled()
  return { bench, id }
}

/** Types into a field by its label, and commits it. */
export async function type(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true })
  await field.fill(text)
  await field.press('Enter')
}

/** Presses the search of the calibration and waits for what it finds. */
export async function findAxis(page: Page): Promise<void> {
  await page.getByTestId('find').click()
  await expect(page.getByTestId('found')).toBeVisible({ timeout: 60_000 })
}

/** Drops a file on the page, as the desktop does. */
export async function dropFile(page: Page, bytes: Buffer, name: string, type: string): Promise<void> {
  const transfer = await page.evaluateHandle(
    ({ data, fileName, mediaType }) => {
      const transfer = new DataTransfer()
      const raw = Uint8Array.from(atob(data), (c) => c.charCodeAt(0))
      transfer.items.add(new File([raw], fileName, { type: mediaType }))
      return transfer
    },
    { data: bytes.toString('base64'), fileName: name, mediaType: type },
  )
  await page.dispatchEvent('body', 'dragenter', { dataTransfer: transfer })
  await page.dispatchEvent('body', 'drop', { dataTransfer: transfer })
}

export const demoPhoto = (file: string) => readFileSync(join(import.meta.dirname, '../../demo/photos', file))

/** Collects what must never appear: errors on the console, violations of the content security policy. */
export function watchConsole(page: Page): string[] {
  const seen: string[] = []
  page.on('console', (message) => message.type() === 'error' && seen.push(message.text()))
  page.on('pageerror', (error) => seen.push(error.message))
  return seen
}

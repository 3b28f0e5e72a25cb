import { chromium } from '@playwright/test'
import { startDemo } from './demo-server.mjs'
import { build, CHROMIUM, installChromium, installPackages, requireNode } from './setup.mjs'

/** Sets up, starts the demo and gives a job its address and a Chromium without a drawn solid. */
export async function onDemo(job) {
  requireNode()
  installPackages()
  installChromium()
  build()
  const { base, stop } = await startDemo(4394)
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-3d-apis'],
  })
  try {
    await job(base, browser)
  } finally {
    await browser.close()
    stop()
  }
}

/** A copy of a demo piece whose document is changed; its id. */
export async function changedCopy(page, base, name, change) {
  const list = await (await page.request.get(`${base}/api/pieces`)).json()
  const { id } = list.find((p) => p.name === name)
  const copy = await (await page.request.post(`${base}/api/pieces/${id}/duplicate`)).json()
  const { document, revision } = await (await page.request.get(`${base}/api/pieces/${copy.id}`)).json()
  change(document)
  const answer = await page.request.put(`${base}/api/pieces/${copy.id}`, {
    data: { document },
    headers: { 'If-Match': `"${revision}"` },
  })
  if (!answer.ok()) throw new Error(await answer.text())
  return copy.id
}

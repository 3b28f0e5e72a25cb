// `npm run bench:outline`: how long the outline of a 12-megapixel photo takes in the browser, and what holds the page up meanwhile.
import { chromium } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { startDemo } from './demo-server.mjs'
import { build, CHROMIUM, installChromium, installPackages, requireNode } from './setup.mjs'

requireNode()
installPackages()
installChromium()
build()

const PRESSES = 4
const [WIDTH, HEIGHT] = [3000, 4000]
const { base, stop } = await startDemo(4394)
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-3d-apis'],
})
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const id = await bottle(page)
  await page.goto(`${base}/piece/${id}/outline`)
  await page.waitForTimeout(4000)
  await page.evaluate(() => {
    globalThis.long = []
    new PerformanceObserver((list) =>
      globalThis.long.push(...list.getEntries().map((e) => Math.round(e.duration))),
    ).observe({ type: 'longtask' })
  })
  for (let press = 1; press <= PRESSES; press++) {
    // Sought outlines show a bar; it goes when the outline is there.
    const ms = await page.evaluate(async () => {
      const button = document.querySelector('[data-testid="find-outline"]')
      globalThis.long.length = 0
      const start = performance.now()
      button.click()
      const until = async (test) => {
        while (!test()) await new Promise((done) => requestAnimationFrame(done))
      }
      const seeking = () => !document.querySelector('[data-testid="find-outline"]')
      await until(seeking)
      await until(() => !seeking())
      return performance.now() - start
    })
    await page.waitForTimeout(1500)
    const long = await page.evaluate(() => globalThis.long)
    console.log(`12-megapixel photo, press ${press}: ${(ms / 1000).toFixed(2)} s (wanted: 1.5); longest task of the page ${Math.max(0, ...long)} ms (wanted: 100)`) // prettier-ignore
  }
} finally {
  await browser.close()
  stop()
}

/** The demo's ink bottle in a photo of twelve megapixels, with the grain of one. */
async function bottle(page) {
  const file = readFileSync(join(import.meta.dirname, '../demo/photos/ink-bottle.jpg'))
  const pixels = await sharp(file).resize(WIDTH, HEIGHT, { fit: 'fill' }).raw().toBuffer()
  let seed = 7
  for (let i = 0; i < pixels.length; i++) {
    seed = (seed * 16807) % 2147483647
    pixels[i] = Math.max(0, Math.min(255, pixels[i] + (seed % 7) - 3))
  }
  const bytes = await sharp(pixels, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .jpeg({ quality: 92 })
    .toBuffer()
  const multipart = { photo: { name: 'large.jpg', mimeType: 'image/jpeg', buffer: bytes } }
  const photo = await (await page.request.post(`${base}/api/photos`, { multipart })).json()
  const list = await (await page.request.get(`${base}/api/pieces`)).json()
  const { id } = list.find((p) => p.name === 'Ink bottle, untouched')
  const copy = await (await page.request.post(`${base}/api/pieces/${id}/duplicate`)).json()
  const { document, revision } = await (await page.request.get(`${base}/api/pieces/${copy.id}`)).json()
  const { sha256, mediaType, width, height } = photo
  document.photo = { ...document.photo, sha256, mediaType, width, height, crop: null }
  const answer = await page.request.put(`${base}/api/pieces/${copy.id}`, {
    data: { document },
    headers: { 'If-Match': `"${revision}"` },
  })
  if (!answer.ok()) throw new Error(await answer.text())
  return copy.id
}

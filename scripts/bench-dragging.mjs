// `npm run bench:dragging`: how long the page is held up while a node is dragged, in Chromium without a drawn solid.
import { chromium } from '@playwright/test'
import { startDemo } from './demo-server.mjs'
import { build, CHROMIUM, installChromium, installPackages, requireNode } from './setup.mjs'

requireNode()
installPackages()
installChromium()
build()

const MOVES = 30
const { base, stop } = await startDemo(4394)
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-3d-apis'],
})
try {
  for (const count of [40, 500, 2000]) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const id = await vase(page, count)
    await page.goto(`${base}/piece/${id}/profile`)
    await page.waitForTimeout(3000)
    const nodes = page.getByRole('button', { name: /^Node \d+,/ })
    const box = await nodes.nth(Math.floor((await nodes.count()) / 2)).boundingBox()
    await page.evaluate(() => {
      globalThis.long = []
      let phase = ''
      const begins = [['pointerdown', 'press'], ['pointermove', 'move'], ['pointerup', 'letting go']] // prettier-ignore
      const marks = []
      for (const [event, name] of begins)
        addEventListener(
          event,
          ({ timeStamp }) => phase !== name && marks.push([timeStamp, (phase = name)]),
          true,
        )
      // A task belongs to the last of them that began before it ended.
      const keep = (list) =>
        list.getEntries().forEach(({ startTime, duration }) => {
          const last = marks.filter(([at]) => at < startTime + duration).at(-1)
          globalThis.long.push([last?.[1] ?? 'before', Math.round(duration)])
        })
      new PerformanceObserver(keep).observe({ type: 'longtask' })
    })
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
    await page.mouse.move(x, y)
    await page.mouse.down()
    for (let k = 0; k < MOVES; k++) {
      await page.mouse.move(x + k, y + (k % 3))
      await page.waitForTimeout(40)
    }
    await page.mouse.up()
    await page.waitForTimeout(300)
    const long = await page.evaluate(() => globalThis.long)
    const worst = long.length > 0 ? `; tasks over 50 ms: ${long.map(([what, ms]) => `${what} ${ms}`).join(', ')}` : '; no task over 50 ms' // prettier-ignore
    console.log(`dragging a node of ${count}: ${MOVES} moves${worst}   (wanted: none over 50 ms)`)
    await page.close()
  }
} finally {
  await browser.close()
  stop()
}

/** A piece whose half-profile is a vase of so many smooth nodes. */
async function vase(page, count) {
  const list = await (await page.request.get(`${base}/api/pieces`)).json()
  const { id } = list.find((p) => p.name === 'Ninepin')
  const copy = await (await page.request.post(`${base}/api/pieces/${id}/duplicate`)).json()
  const { document, revision } = await (await page.request.get(`${base}/api/pieces/${copy.id}`)).json()
  document.profile = {
    side: 'right',
    nodes: Array.from({ length: count }, (_, i) => {
      const t = i / (count - 1)
      const end = i === 0 || i === count - 1
      return {
        id: `n${i}`,
        r: end ? 0 : 30 + 12 * Math.sin(7 * t),
        z: 150 * t,
        joint: 'smooth',
        next: 'curve',
      }
    }),
  }
  await page.request.put(`${base}/api/pieces/${copy.id}`, {
    data: { document },
    headers: { 'If-Match': `"${revision}"` },
  })
  return copy.id
}

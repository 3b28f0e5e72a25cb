// `npm run bench:dragging`: how long the page is held up while a node is dragged, in Chromium without a drawn solid.
import { changedCopy, onDemo } from './bench-page.mjs'

const MOVES = 30
await onDemo(async (base, browser) => {
  for (const count of [40, 500, 2000]) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const id = await vase(page, base, count)
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
})

/** A piece whose half-profile is a vase of so many smooth nodes. */
function vase(page, base, count) {
  return changedCopy(page, base, 'Ninepin', (document) => {
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
  })
}

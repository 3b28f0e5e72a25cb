// `npm run screenshots [-- NAME ...]`: one current picture of each main view (or of those named), from the demo data, into docs/screenshots.
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { startDemo } from './demo-server.mjs'
import { build, CHROMIUM, installChromium, installPackages, requireNode, root } from './setup.mjs'

requireNode()
installPackages()
installChromium()
build()

const { base, stop } = await startDemo(4392)
const out = join(root, 'docs', 'screenshots')
mkdirSync(out, { recursive: true })

/** Presses the search's button and waits for what it finds. */
async function find(page) {
  await page.getByTestId('find').click()
  await page.getByTestId('found').waitFor({ timeout: 60_000 })
  await page.waitForTimeout(400)
}

/** Three known sizes of the ink bottle, the last one with its digits swapped. */
async function markSizes(page) {
  await find(page)
  await page.keyboard.type('112 mm')
  await page.keyboard.press('Enter')
  await page.getByLabel('Real size').blur()
  // Left and right side of belly and neck in the photo, px.
  for (const [y, left, right, text] of [
    [1213, 318, 1187, '66 mm'],
    [482, 571, 914, '62 mm'],
  ]) {
    await page.keyboard.press('k')
    for (const x of [left, right]) {
      const [a, b, c, d, e, f] = (await page.getByTestId('photo-pane').getAttribute('data-matrix'))
        .split(' ')
        .map(Number)
      const box = await page.getByTestId('photo-pane').boundingBox()
      await page.mouse.click(box.x + a * x + c * y + e, box.y + b * x + d * y + f)
    }
    await page.keyboard.type(text)
    await page.keyboard.press('Enter')
    await page.getByLabel('Real size').blur()
  }
  await page.locator('aside').evaluate((e) => e.scrollTo(0, 330))
}

/** Calibrates by one height and finds the outline. */
async function outline(page) {
  await find(page)
  await page.keyboard.type('112 mm')
  await page.keyboard.press('Enter')
  await page.getByTestId('stage-outline').click()
  await page.getByTestId('find-outline').click()
  await page.getByTestId('outline-summary').waitFor({ timeout: 60_000 })
  await page.getByTestId('find-outline').waitFor({ timeout: 60_000 })
  for (const title of [/Where it is unsure/, /What the camera changed/])
    await page.getByRole('button', { name: title }).click()
  await page.mouse.move(420, 380)
}

/** Finds the outline of the glass and holds the edge pen over it. */
async function pen(page) {
  await page.getByTestId('find-outline').click()
  await page.getByTestId('outline-summary').waitFor({ timeout: 60_000 })
  await page.getByTestId('find-outline').waitFor({ timeout: 60_000 })
  await page.getByRole('button', { name: /Where it is unsure/ }).click()
  await page.getByRole('button', { name: /Edge pen and hints/ }).click()
  await page.getByRole('button', { name: 'Edge pen', exact: true }).click()
  const [a, b, c, d, e, f] = (await page.getByTestId('photo-pane').getAttribute('data-matrix'))
    .split(' ')
    .map(Number)
  const box = await page.getByTestId('photo-pane').boundingBox()
  const at = (x, y) => [box.x + a * x + c * y + e, box.y + b * x + d * y + f]
  await page.mouse.click(...at(1117, 640))
  await page.mouse.move(...at(1130, 900))
  await page.mouse.move(...at(1128, 1020))
  await page.getByTestId('edge-pen-live').waitFor()
}

/** The half-profile made of the outline found in the photo, at the stage where it is shaped. */
async function followed(page) {
  await page.getByTestId('find-outline').click()
  await page.getByTestId('outline-summary').waitFor({ timeout: 60_000 })
  await page.getByRole('button', { name: /Half-profile from it/ }).click()
  await page.getByTestId('replace-by-outline').click()
  await page.waitForTimeout(1500)
  await page.getByTestId('stage-profile').click()
}

/** The comb of deviations, and the chart below. */
async function comb(page) {
  await followed(page)
  await page.getByRole('button', { name: /Fit to the outline/ }).click()
  await page.getByText('Comb of deviations').click()
  await page.getByText('Chart of ⌀').click()
  await page.getByTestId('diameter-chart').locator('canvas').waitFor()
}

/** A fillet at the shoulder, a bead, and the state before kept as a checkpoint and compared. */
async function checkpoints(page) {
  const open = () => page.getByRole('button', { name: 'Steps and checkpoints' }).click()
  await open()
  await page.getByLabel('Name of this state').fill('Before the bead')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await page.keyboard.press('Escape')
  await page.locator('[data-row]').nth(2).click()
  await page.getByLabel('Joint').getByText('corner').click()
  await page.getByLabel('Edge', { exact: true }).getByText('fillet').click()
  await page.getByRole('button', { name: /Ready stretch/ }).click()
  for (const [label, text] of [
    ['From height', '30 mm'],
    ['To height', '38 mm'],
    ['Stands out by', '4 mm'],
  ]) {
    await page.getByLabel(label, { exact: true }).fill(text)
    await page.keyboard.press('Enter')
  }
  await page.getByTestId('insert-stretch').click()
  await open()
  await page.getByRole('button', { name: 'Compare' }).click()
}

/** A wall of 2 mm with a straight neck. */
async function hollow(page) {
  await page.getByTestId('hollow').click()
  await page.getByText('Neck bored').click()
  await page.getByTestId('inside').waitFor()
}

/** The hollow bottle filled with 150 ml, and what it weighs. */
async function filled(page) {
  await hollow(page)
  await page.getByTestId('stage-check').click()
  await page.getByLabel('or with').fill('150 ml')
  await page.keyboard.press('Enter')
  await page.getByLabel('Material').selectOption({ label: 'Stoneware' })
  await page.locator('aside').evaluate((e) => e.scrollTo(0, 330))
}

/** The set as solids on one ground line, a hand beside them. */
async function lineUp(page) {
  await page.getByRole('link', { name: 'Line up' }).first().click()
  await page.getByText('Solids', { exact: true }).click()
  await page.getByLabel('Companion').selectOption('hand')
  await page.getByTestId('standing').last().locator('image').waitFor({ timeout: 30_000 })
  await page.waitForTimeout(1500)
}

/** Hollow, threaded, and with a cap drawn over the photo; a quarter cut open. */
async function capped(page) {
  await hollow(page)
  await page.getByText('Parts', { exact: true }).click()
  await page.getByTestId('add-part').selectOption('thread')
  await page.getByTestId('add-part').selectOption('turned')
  const box = await page.getByTestId('photo-pane').boundingBox()
  for (const [x, y] of [
    [0, 234],
    [100, 234],
    [100, 120],
    [0, 116],
  ])
    await page.mouse.click(box.x + box.width / 2 + x, box.y + y)
  await page.getByTestId('part-done').click()
  const cap = page.getByTestId('part').nth(1)
  await page.getByText('Look', { exact: true }).click()
  await page.getByText('a quarter', { exact: true }).click()
  await tilt(page)
  await page.getByText('Parts', { exact: true }).click()
  await cap.locator('button').first().click()
  await cap.getByLabel('Clearance').fill('0.4 mm')
  await cap.getByLabel('Clearance').press('Enter')
  await page.getByTestId('fit').getByText('narrowest').waitFor({ timeout: 20_000 })
}

/** A handle beside the neck, its points over the photo. */
async function handled(page) {
  await hollow(page)
  await page.getByText('Parts', { exact: true }).click()
  await page.getByTestId('add-part').selectOption('tube')
  await page.getByRole('button', { name: 'Draw it anew' }).click()
  await page.getByTestId('draw-fitting').click()
  const box = await page.getByTestId('photo-pane').boundingBox()
  for (const [x, y] of [
    [48, 205],
    [110, 190],
    [168, 250],
    [160, 330],
    [122, 380],
  ])
    await page.mouse.click(box.x + box.width / 2 + x, box.y + y)
  await page.keyboard.press('Escape')
  await page.getByLabel('Fillet to body').fill('4 mm')
  await page.keyboard.press('Enter')
  await tilt(page)
}

/** Looks at the solid from a little above, until it is drawn at rest. */
async function tilt(page) {
  const box = await page.getByTestId('solid-pane').boundingBox()
  await page.mouse.move(box.x + 200, box.y + 500)
  await page.mouse.down()
  await page.mouse.move(box.x + 200, box.y + 540, { steps: 4 })
  await page.mouse.up()
  await page.waitForTimeout(3000)
}

/** File name, demo piece, stage, colour scheme, and what to do before the picture is taken. */
const views = [
  ['cabinet', null, null, 'light'],
  ['line-up', null, null, 'dark', lineUp],
  ['photo', 'Rope sheave', 'photo', 'light'],
  [
    'calibrate-dark-photo',
    'Lamp chimney',
    'calibrate',
    'dark',
    async (page) => {
      await find(page)
      await page.mouse.move(420, 420)
    },
  ],
  [
    'calibrate-view',
    'Ink bottle',
    'calibrate',
    'light',
    async (page) => {
      await find(page)
      await page.getByRole('button', { name: /Known sizes/ }).click()
      await page.getByRole('button', { name: /View near/ }).click()
      await page.locator('aside').evaluate((e) => e.scrollTo(0, 330))
      await page.mouse.move(430, 300)
    },
    'copy',
  ],
  // A copy of the untouched photo, as the next view leaves its marks on it.
  ['outline', 'Ink bottle, untouched', 'calibrate', 'light', outline, 'copy'],
  ['known-sizes', 'Ink bottle, untouched', 'calibrate', 'light', markSizes],
  ['outline-edge-pen', 'Water glass', 'outline', 'dark', pen],
  [
    'half-profile',
    'Ink bottle',
    'profile',
    'light',
    async (page) => {
      await page.getByRole('button', { name: /^Node 5,/ }).focus()
      await page.mouse.move(430, 470)
    },
  ],
  ['shape-comb', 'Lamp chimney', 'outline', 'light', comb, 'copy'],
  ['checkpoints', 'Ink bottle', 'profile', 'light', checkpoints, 'copy'],
  [
    'solid',
    'Ink bottle',
    'solid',
    'light',
    async (page) => {
      await hollow(page)
      await page.getByText('Look', { exact: true }).click()
      await page.getByText('half', { exact: true }).click()
      await page.getByText('Body', { exact: true }).click()
      await page.locator('aside').evaluate((e) => e.scrollTo(0, 60))
    },
    'copy',
  ],
  ['parts', 'Ink bottle', 'solid', 'dark', capped, 'copy'],
  ['fittings', 'Ink bottle', 'solid', 'light', handled, 'copy'],
  [
    'cage',
    'Hand bell',
    'solid',
    'light',
    async (page) => {
      await page.getByTestId('cage').click()
      await page.locator('aside').evaluate((e) => e.scrollTo(0, 2000))
    },
    'copy',
  ],
  [
    'solid-over-photo',
    'Ninepin',
    'solid',
    'dark',
    async (page) => {
      await page.keyboard.press('b')
      await page.mouse.move(800, 300)
    },
  ],
  ['check', 'Ink bottle', 'solid', 'light', filled, 'copy'],
  ['hand-over', 'Hand bell', 'hand-over', 'light'],
  [
    'sheet',
    'Water glass',
    'hand-over',
    'light',
    async (page) => {
      await page.getByRole('button', { name: 'Look at Half-section PDF' }).click()
      await page.getByTestId('sheet-preview').waitFor()
    },
  ],
]

try {
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: [
      '--no-sandbox',
      '--use-gl=angle',
      '--use-angle=swiftshader',
      '--enable-unsafe-swiftshader',
      '--disable-gpu-compositing',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  })
  const pieces = await (await fetch(`${base}/api/pieces`)).json()
  const wanted = process.argv.slice(2)
  for (const [name, piece, stage, colorScheme, act, copy] of views) {
    if (wanted.length > 0 && !wanted.includes(name)) continue
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme })
    let id = pieces.find((p) => p.name === piece)?.id
    if (copy) id = (await (await fetch(`${base}/api/pieces/${id}/duplicate`, { method: 'POST' })).json()).id
    await page.goto(piece ? `${base}/piece/${id}/${stage}` : base)
    await page.waitForLoadState('networkidle')
    await page.waitForTimeout(1000)
    await act?.(page)
    await page.waitForTimeout(700)
    await page.screenshot({ path: join(out, `${name}.png`) })
    await page.close()
    console.log(`docs/screenshots/${name}.png`)
  }
  await browser.close()
} finally {
  stop()
}

import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { loadFonts } from '../cli/fonts'
import { deliver } from '../core/piece/deliver'
import { newPiece, type PieceDocument } from '../core/piece/schema'
import { node } from '../core/profile/test-samples'

const nodes = [node(0, 0), node(30, 0), node(30, 70), node(20, 80), node(20, 100), node(0, 100)]
const jar: PieceDocument = {
  ...newPiece('Krug für Öl ⌀'),
  profile: { side: 'right', nodes },
  solid: { sides: 48, wall: { mm: 4, levels: [], floorMm: 6, way: 'inwards', lip: 'flat', bore: false } },
}
const options = { paper: 'A4' as const, fonts: loadFonts, timeStamp: '2026-03-14T10:00:00' }

/** Grey pixels of a page as poppler renders it at 254 dots an inch: ten to a millimetre. */
async function rendered(pdf: Uint8Array, page = 1) {
  const folder = mkdtempSync(join(tmpdir(), 'sheet-'))
  writeFileSync(join(folder, 'a.pdf'), pdf)
  const range = ['-f', String(page), '-l', String(page), '-singlefile']
  execFileSync('pdftoppm', ['-r', '254', '-gray', '-png', ...range, join(folder, 'a.pdf'), join(folder, 'a')])
  const { data, info } = await sharp(readFileSync(join(folder, 'a.png'))).greyscale().raw().toBuffer({ resolveWithObject: true }) // prettier-ignore
  const words = execFileSync('pdftotext', ['-layout', join(folder, 'a.pdf'), '-']).toString()
  return {
    dark: (x: number, y: number) => data[y * info.width + x]! < 128,
    width: info.width,
    height: info.height,
    words,
  }
}

describe('PDF, rendered by poppler', () => {
  it('prints the check bar 100 mm long within a pixel, and the profile at its real size', async () => {
    const [[name, bytes]] = (await deliver(jar, ['template.pdf'], 'krug', options)) as [[string, Uint8Array]]
    expect(name).toBe('krug.template.pdf')
    const { dark, width, height } = await rendered(bytes)
    // Poppler rounds up.
    expect(width - 2100).toBeLessThanOrEqual(1)
    expect(height - 2970).toBeLessThanOrEqual(1)
    // The bar is the longest dark run of the lowest rows.
    let longest = 0
    for (let y = height - 200; y < height - 100; y++)
      for (let x = 0, run = 0; x < width; x++) {
        run = dark(x, y) ? run + 1 : 0
        longest = Math.max(longest, run)
      }
    expect(Math.abs(longest - 1000)).toBeLessThanOrEqual(1)
    // The profile's belly: from the axis, which is chain-dotted, to its edge 30 mm out; looked for between 30 and 60 mm of height.
    const columns = Array.from({ length: width }, (_, x) => {
      let n = 0
      for (let y = 0; y < height; y++) if (dark(x, y)) n++
      return n
    })
    const edges = columns.flatMap((n, x) => (n > 600 ? [x] : []))
    const axis = edges[0]!
    expect(edges.some((x) => Math.abs(x - axis - 300) <= 1)).toBe(true)
  })

  it('has its words in an embedded font, umlauts and the sign of diameter among them', async () => {
    const [[, bytes]] = (await deliver(jar, ['section.pdf'], 'krug', options)) as [[string, Uint8Array]]
    const { words } = await rendered(bytes)
    for (const word of ['Krug für Öl ⌀', '⌀ 60.0', '⌀ 40.0', '100.0', 'Half-section', '2026-03-14']) expect(words).toContain(word) // prettier-ignore
    expect(Buffer.from(bytes).toString('latin1', 0, 5)).toBe('%PDF-')
  })

  it('is the same for the same piece and time', async () => {
    const [a, b] = await Promise.all([deliver(jar, ['section.pdf'], 'k', options), deliver(jar, ['section.pdf'], 'k', options)]) // prettier-ignore
    expect(a).toEqual(b)
  })
})

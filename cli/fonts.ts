import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import type { SheetFonts } from '../core/sheet/to-pdf'

const require = createRequire(import.meta.url)

/** The fonts of sheets. */
export async function loadFonts(): Promise<SheetFonts> {
  const read = (file: string) => readFile(require.resolve(`dejavu-fonts-ttf/ttf/${file}`))
  const [regular, bold] = await Promise.all([
    read('DejaVuSansCondensed.ttf'),
    read('DejaVuSansCondensed-Bold.ttf'),
  ])
  return { regular, bold }
}

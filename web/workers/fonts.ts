import boldUrl from 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed-Bold.ttf?url'
import regularUrl from 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed.ttf?url'
import type { SheetFonts } from '../../core/sheet/to-pdf'

let loading: Promise<SheetFonts> | null = null

/** The fonts of sheets, fetched from this app when a PDF first needs them. */
export function loadFonts(): Promise<SheetFonts> {
  loading ??= load()
  // The next try starts afresh.
  loading.catch(() => (loading = null))
  return loading
}

async function load(): Promise<SheetFonts> {
  const [regular, bold] = await Promise.all([regularUrl, boldUrl].map(bytesAt))
  return { regular: regular!, bold: bold! }
}

async function bytesAt(url: string): Promise<Uint8Array> {
  const response = await fetch(url).catch(() => null)
  if (!response?.ok)
    throw new Error('The fonts of the sheet could not be loaded. Reload the page and try again.')
  return new Uint8Array(await response.arrayBuffer())
}

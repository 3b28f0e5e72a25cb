/** Hands bytes to the browser as a file. */
export function download(bytes: Uint8Array<ArrayBuffer>, fileName: string, mediaType: string): void {
  const url = URL.createObjectURL(new Blob([bytes], { type: mediaType }))
  const link = document.createElement('a')
  link.href = url
  link.download = fileName
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}

/** The piece's name as a file name that every system takes. */
export function fileBase(name: string): string {
  const base = name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
  return base.slice(0, 60) || 'piece'
}

/** Hands bytes to the browser as a file. */
export function download(bytes: Uint8Array<ArrayBuffer>, fileName: string, mediaType: string): void {
  const url = URL.createObjectURL(new Blob([bytes], { type: mediaType }))
  const link = document.createElement('a')
  link.href = url
  link.download = fileName
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}

/** Hands bytes to the browser as a file. */
export function download(bytes: Uint8Array<ArrayBuffer>, fileName: string, mediaType: string): void {
  downloadBlob(new Blob([bytes], { type: mediaType }), fileName)
}

export function downloadBlob(blob: Blob, fileName: string): void {
  const url = URL.createObjectURL(blob)
  const link = document.createElement('a')
  link.href = url
  link.download = fileName
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}

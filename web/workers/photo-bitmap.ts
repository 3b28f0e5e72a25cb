/** The photo at an address, decoded and turned as its EXIF says. @throws Error where it can't be read */
export async function photoBitmap(url: string): Promise<ImageBitmap> {
  const response = await fetch(url)
  if (!response.ok) throw new Error('The photo can’t be read. Reload the page and try again.')
  return createImageBitmap(await response.blob(), { imageOrientation: 'from-image' })
}

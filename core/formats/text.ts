/** UTF-8 without the DOM or Node: percent-encoding yields the bytes. */
export function encodeText(text: string): Uint8Array<ArrayBuffer> {
  // ASCII, by far the most of it, needs no detour.
  const source = /^[\x00-\x7f]*$/.test(text) ? text : unescapeBytes(encodeURIComponent(text))
  const bytes = new Uint8Array(source.length)
  for (let i = 0; i < source.length; i++) bytes[i] = source.charCodeAt(i)
  return bytes
}

function unescapeBytes(encoded: string): string {
  return encoded.replace(/%([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
}

const SIGNS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'

/** Base64 (RFC 4648) without the DOM or Node. */
export function toBase64(bytes: Uint8Array): string {
  const out: string[] = []
  for (let i = 0; i < bytes.length; i += 3) {
    const [a, b, c] = [bytes[i]!, bytes[i + 1], bytes[i + 2]]
    const word = (a << 16) | ((b ?? 0) << 8) | (c ?? 0)
    const sign = (k: number) => SIGNS[(word >> (18 - 6 * k)) & 63]!
    out.push(sign(0), sign(1), b === undefined ? '=' : sign(2), c === undefined ? '=' : sign(3))
  }
  return out.join('')
}

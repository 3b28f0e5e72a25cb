/** How many px of a kind lie about each px, to so far both ways. */
export function countAbout(kind: Uint8Array, width: number, reach: number): Uint16Array {
  const height = kind.length / width
  const alongRows = summed(kind, { lines: height, next: width, count: width, step: 1 }, reach)
  return summed(alongRows, { lines: width, next: 1, count: height, step: width }, reach)
}

/** Sums along lines of px over so many px to either side. */
function summed(
  of: Uint8Array | Uint16Array,
  { lines, next, count, step }: { lines: number; next: number; count: number; step: number },
  reach: number,
): Uint16Array {
  const out = new Uint16Array(of.length)
  for (let line = 0; line < lines; line++) {
    const at = line * next
    let sum = 0
    for (let k = -reach; k < count; k++) {
      if (k + reach < count) sum += of[at + (k + reach) * step]!
      if (k - reach > 0) sum -= of[at + (k - reach - 1) * step]!
      if (k >= 0) out[at + k * step] = sum
    }
  }
  return out
}

/** Turns regions of px of one kind, as far as they hang together, that are smaller than so many px into the other kind. */
export function keepLarge(kinds: Uint8Array, width: number, kind: 0 | 1, least: number): void {
  eachRegion(kinds, width, kind, (places) => {
    if (places.length < least) for (const i of places) kinds[i] = kind ? 0 : 1
  })
}

/** Calls with the places of each region of px of one kind, as far as they hang together by their sides. */
export function eachRegion(
  kinds: Uint8Array,
  width: number,
  kind: 0 | 1,
  visit: (places: Int32Array) => void,
): void {
  const seen = new Uint8Array(kinds.length)
  const stack = new Int32Array(kinds.length)
  for (let start = 0; start < kinds.length; start++) {
    if (kinds[start] !== kind || seen[start]) continue
    stack[0] = start
    seen[start] = 1
    let count = 1
    const add = (i: number) => {
      if (kinds[i] !== kind || seen[i]) return
      seen[i] = 1
      stack[count++] = i
    }
    for (let k = 0; k < count; k++) besides(stack[k]!, width, kinds.length, add)
    visit(stack.subarray(0, count))
  }
}

/** Calls with the four px beside one, as far as there are any. */
export function besides(i: number, width: number, count: number, visit: (i: number) => void): void {
  const x = i % width
  if (x > 0) visit(i - 1)
  if (x < width - 1) visit(i + 1)
  if (i >= width) visit(i - width)
  if (i + width < count) visit(i + width)
}

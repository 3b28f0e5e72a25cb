/** How far something reaches, the last px included. */
export interface Bounds {
  left: number
  right: number
  top: number
  bottom: number
}

/** How far px of a picture so wide reach. */
export function boundsOf(places: Int32Array, width: number): Bounds {
  const bounds = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
  for (const i of places) {
    const [x, y] = [i % width, Math.floor(i / width)]
    bounds.left = Math.min(bounds.left, x)
    bounds.right = Math.max(bounds.right, x)
    bounds.top = Math.min(bounds.top, y)
    bounds.bottom = Math.max(bounds.bottom, y)
  }
  return bounds
}

/** How many px things are high and wide. */
export const highOf = ({ top, bottom }: Pick<Bounds, 'top' | 'bottom'>) => bottom - top + 1
export const wideOf = ({ left, right }: Pick<Bounds, 'left' | 'right'>) => right - left + 1

/** How far several things reach together. */
export const boundsOfAll = (things: readonly Bounds[]): Bounds => ({
  left: Math.min(...things.map(({ left }) => left)),
  right: Math.max(...things.map(({ right }) => right)),
  top: Math.min(...things.map(({ top }) => top)),
  bottom: Math.max(...things.map(({ bottom }) => bottom)),
})

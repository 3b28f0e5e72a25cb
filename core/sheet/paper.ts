/** Paper sizes lying on their short side, mm: ISO 216, and Letter of ANSI/ASME Y14.1 (8.5 × 11 in). */
export const PAPERS = {
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
  Letter: { width: 215.9, height: 279.4 },
} as const
export type Paper = keyof typeof PAPERS

/** Scales of drawings after ISO 5455, largest first. */
const SCALES: readonly (readonly [number, number])[] = [
  [50, 1], [20, 1], [10, 1], [5, 1], [2, 1], [1, 1], [1, 2], [1, 5], [1, 10], [1, 20], [1, 50], [1, 100], [1, 200], [1, 500], [1, 1000],
] // prettier-ignore

export interface DrawingScale {
  /** Drawn ÷ real. */
  factor: number
  /** "1:2". */
  name: string
}

/** The largest scale of ISO 5455 at which something fits; beyond the list the nearest even one that does. */
export function scaleThatFits(
  width: number,
  height: number,
  roomWidth: number,
  roomHeight: number,
): DrawingScale {
  const most = Math.min(roomWidth / width, roomHeight / height)
  const found = SCALES.find(([drawn, real]) => drawn / real <= most * (1 + 1e-9))
  if (found) return { factor: found[0] / found[1], name: found.join(':') }
  const real = 10 ** Math.ceil(Math.log10(1 / most))
  return { factor: 1 / real, name: `1:${real}` }
}

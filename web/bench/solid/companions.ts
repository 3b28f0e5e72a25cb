/** Something everybody knows the size of; drawn in mm, its lower left corner at 0 0, heights upwards. */
export interface Companion {
  id: string
  name: string
  words: string
  widthMm: number
  heightMm: number
  /** Filled, or lines as broad as their stroke. */
  parts: readonly { d: string; stroke?: number }[]
}

/** A finger as a broad line from its root to a little below its tip. */
const finger = (x0: number, y0: number, x1: number, y1: number, stroke: number) => ({ d: `M${x0} ${y0}L${x1} ${y1}`, stroke }) // prettier-ignore

export const COMPANIONS: readonly Companion[] = [
  {
    id: 'card',
    name: 'an identity card',
    // ISO/IEC 7810, ID-1.
    words: 'identity card, 85.6 × 54 mm',
    widthMm: 85.6,
    heightMm: 53.98,
    parts: [{ d: 'M3.2 0H82.4A3.2 3.2 0 0 1 85.6 3.2V50.8A3.2 3.2 0 0 1 82.4 54H3.2A3.2 3.2 0 0 1 0 50.8V3.2A3.2 3.2 0 0 1 3.2 0Z' }], // prettier-ignore
  },
  {
    id: 'mug',
    name: 'a mug',
    words: 'mug, 95 mm tall',
    widthMm: 115,
    heightMm: 95,
    parts: [{ d: 'M3 0H79Q82 0 82 3V95H0V3Q0 0 3 0Z' }, { d: 'M82 76C120 80 118 20 82 26', stroke: 9 }],
  },
  {
    id: 'hand',
    name: 'a hand',
    // An adult's, from the wrist to the middle finger's tip (common practice, no source).
    words: 'hand, about 185 mm',
    widthMm: 118,
    heightMm: 185,
    parts: [
      { d: 'M30 0H88Q98 40 97 98Q96 106 88 106H30Q22 106 20 96Q16 40 30 0Z' },
      finger(31, 100, 22, 150, 16),
      finger(50, 104, 47, 171, 17),
      finger(69, 104, 71, 176, 17),
      finger(87, 98, 93, 162, 16),
      finger(90, 40, 109, 86, 19),
    ],
  },
  {
    id: 'door',
    name: 'a door',
    words: 'door, 2.0 m',
    widthMm: 850,
    heightMm: 2000,
    parts: [{ d: 'M0 0H850V2000H0ZM60 60V1940H790V60Z' }, { d: 'M120 1020h90', stroke: 26 }],
  },
]

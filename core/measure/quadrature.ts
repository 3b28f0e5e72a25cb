/** Nodes and weights of 8-point Gauss-Legendre quadrature on 0..1, exact to degree 15 (Abramowitz & Stegun 25.4.30). */
const GAUSS: readonly (readonly [number, number])[] = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
].flatMap(([x, w]) => [[(1 - x!) / 2, w! / 2] as const, [(1 + x!) / 2, w! / 2] as const])

export const GAUSS_T = Float64Array.from(GAUSS, ([t]) => t)
export const GAUSS_W = Float64Array.from(GAUSS, ([, w]) => w)

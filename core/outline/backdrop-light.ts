import { leastSquares } from '../least-squares'

/**
 * How much lighter a plain backdrop is, at each place, than its borders make expect: lamps make spots on walls, and lenses
 * darken the corners. A smooth factor on all three coordinates of OKLab, since light scales them alike. What is darker is
 * a shadow's.
 */
export interface BackdropLight {
  /** Px of the picture it was fitted in. */
  width: number
  height: number
  /** Of the polynomial in x and y, both from -1 to 1 over the picture. */
  terms: readonly number[]
}

/** Degree of the polynomial: a spot rises and falls again, which takes four. */
const DEGREE = 4
/** Cells so many px wide are looked at as one. */
const CELL = 8
/** Of the cells that are backdrop, so many at least must be there. */
const LEAST_CELLS = 60
/** Cells whose pixels spread by more than this share of what makes a colour another one hold an edge. */
const EVEN = 0.35
/** Neighbouring cells of one backdrop differ by less than this share of it. */
const STEADY = 0.6
/** A correction is made where this share of the cells lies about as far off as would make it another colour; with it none may. */
const OFF_SHARE = 0.2
const OFF = 0.75
const NEARLY = 0.6
/** The same where the piece seems to reach the border, which a backdrop does that is taken for it. */
const EAGER_OFF = 0.4
const EAGER_NEARLY = 0.9
/** … and it must take away at least this share of the deviation. */
const BETTERED = 0.5

/** Powers of x and y up to the degree, in the terms' order. */
const POWERS: readonly (readonly [number, number])[] = Array.from({ length: DEGREE + 1 }, (_, i) =>
  Array.from({ length: DEGREE + 1 - i }, (_, j) => [i, j] as const),
).flat()

function values(x: number, y: number, out: Float64Array): void {
  POWERS.forEach(([i, j], k) => (out[k] = x ** i * y ** j))
}

/** The factor at a place, px of the picture it was fitted in; at least 1. */
export function lightAt({ width, height, terms }: BackdropLight, x: number, y: number): number {
  const u = (2 * (x + 0.5)) / width - 1
  const v = (2 * (y + 0.5)) / height - 1
  let sum = 0
  let k = terms.length
  for (let i = DEGREE; i >= 0; i--) {
    let inY = 0
    for (let j = DEGREE - i; j >= 0; j--) inY = inY * v + terms[--k]!
    sum = sum * u + inY
  }
  return Math.max(1, sum)
}

interface Cell {
  /** Middle, from -1 to 1. */
  u: number
  v: number
  /** Median of real over foretold lightness; NaN where the cell isn't even. */
  ratio: number
  /** What makes a colour another one there, as a share of the foretold lightness. */
  limit: number
}

/**
 * Fits the factor to what hangs together with the borders without a step: what stands before the backdrop is parted from it by
 * its edges, and what it hides is led over.
 * @param ratioAt real over foretold lightness of a pixel; NaN where its hue says that it can't be the backdrop
 * @param limitAt what difference makes a colour another one there, as a share of the foretold lightness
 * @param eager a smaller correction is made, too, and a poorer one
 * @returns null where the borders foretell the backdrop well enough, or nothing smooth does better
 */
export function fitLight(
  width: number,
  height: number,
  ratioAt: (x: number, y: number) => number,
  limitAt: (x: number, y: number) => number,
  eager = false,
): BackdropLight | null {
  const [off, nearly] = eager ? [EAGER_OFF, EAGER_NEARLY] : [OFF, NEARLY]
  const [across, down] = [Math.floor(width / CELL), Math.floor(height / CELL)]
  if (across < 4 || down < 4) return null
  const cells = Array.from({ length: across * down }, (_, i) =>
    cellAt(i % across, Math.floor(i / across), width, height, ratioAt, limitAt),
  )
  const backdrop = connected(cells, across, down)
  if (backdrop.length < LEAST_CELLS) return null
  const before = share(
    backdrop.map(({ ratio, limit }) => Math.max(0, ratio - 1) / limit),
    1 - OFF_SHARE,
  )
  if (before < off) return null
  const terms = fitted(backdrop)
  const row = new Float64Array(POWERS.length)
  const after = share(
    backdrop.map(({ u, v, ratio, limit }) => {
      values(u, v, row)
      return Math.abs(ratio - dot(row, terms)) / limit
    }),
    1 - OFF_SHARE,
  )
  return after < nearly && after < (1 - BETTERED) * before ? { width, height, terms } : null
}

function share(list: number[], at: number): number {
  return list.sort((a, b) => a - b)[Math.floor(at * (list.length - 1))]!
}

function dot(row: Float64Array, terms: readonly number[]): number {
  return terms.reduce((sum, t, k) => sum + t * row[k]!, 0)
}

function cellAt(
  cx: number,
  cy: number,
  width: number,
  height: number,
  ratioAt: (x: number, y: number) => number,
  limitAt: (x: number, y: number) => number,
): Cell {
  const ratios: number[] = []
  for (let dy = 0; dy < CELL; dy += 2)
    for (let dx = 0; dx < CELL; dx += 2) {
      const r = ratioAt(cx * CELL + dx, cy * CELL + dy)
      if (Number.isFinite(r)) ratios.push(r)
    }
  const [x, y] = [(cx + 0.5) * CELL, (cy + 0.5) * CELL]
  const limit = limitAt(Math.floor(x), Math.floor(y))
  const all = (CELL / 2) ** 2
  ratios.sort((a, b) => a - b)
  const n = ratios.length
  const even = n > 0.9 * all && ratios[Math.floor(0.9 * n)]! - ratios[Math.floor(0.1 * n)]! < 2 * EVEN * limit
  const ratio = even ? ratios[n >> 1]! : NaN
  return { u: (2 * x) / width - 1, v: (2 * y) / height - 1, ratio, limit }
}

/** The even cells that hang together with the borders without a step. */
function connected(cells: readonly Cell[], across: number, down: number): Cell[] {
  const seen = new Uint8Array(cells.length)
  const queue: number[] = []
  const visit = (i: number) => {
    // What is darker than its borders make expect lies in a shadow; NaN is more than nothing, too.
    if (seen[i] || !(cells[i]!.ratio > 1 - STEADY * cells[i]!.limit)) return
    seen[i] = 1
    queue.push(i)
  }
  cells.forEach((_, i) => {
    const [x, y] = [i % across, Math.floor(i / across)]
    if (x === 0 || y === 0 || x === across - 1 || y === down - 1) visit(i)
  })
  for (let head = 0; head < queue.length; head++) {
    const i = queue[head]!
    const [x, y] = [i % across, Math.floor(i / across)]
    const step = STEADY * cells[i]!.limit
    for (const [nx, ny] of [
      [x - 1, y],
      [x + 1, y],
      [x, y - 1],
      [x, y + 1],
    ] as const)
      // prettier-ignore
      if (nx >= 0 && ny >= 0 && nx < across && ny < down) {
        const j = ny * across + nx
        if (Math.abs(cells[j]!.ratio - cells[i]!.ratio) < step) visit(j)
      }
  }
  return queue.map((i) => cells[i]!)
}

/** Shadows and other things are few beside the backdrop and count less the farther off they lie (Huber 1964). */
function fitted(cells: readonly Cell[]): number[] {
  const n = POWERS.length
  const rows = cells.map(({ u, v }) => {
    const row = new Float64Array(n)
    values(u, v, row)
    return row
  })
  const SD = 0.01
  const { parameters } = leastSquares(
    POWERS.map((_, k) => (k === 0 ? 1 : 0)),
    cells.length + n,
    (x, out) => {
      rows.forEach((row, i) => (out[i] = (dot(row, x) - cells[i]!.ratio) / SD))
      // What few cells tell nothing of stays small.
      x.forEach((v, k) => (out[cells.length + k] = k === 0 ? 0 : v))
    },
    {
      steps: POWERS.map(() => 1e-3),
      huber: 1.5,
      slopesOf: (_, jacobian) => {
        rows.forEach((row, i) => row.forEach((v, k) => (jacobian[i * n + k] = v / SD)))
        for (let k = 0; k < n; k++)
          for (let j = 0; j < n; j++) jacobian[(cells.length + k) * n + j] = k === j && k > 0 ? 1 : 0
      },
    },
  )
  return parameters
}

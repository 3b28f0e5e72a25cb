import { chiSquareTail } from './chi-square'

/** One size as the scale sees it. */
export interface ScaleInput {
  id: string
  /** Real size and its standard error, mm. */
  mm: number
  sdMm: number
  /** Seen length and its standard error, in the view's unit. */
  seen: number
  sdSeen: number
}

export interface SizeDeviation {
  id: string
  /** What the scale makes of the marks, mm; and that minus the typed size, mm and as a share of it. */
  measuredMm: number
  deviationMm: number
  deviation: number
  /** What the other sizes make of the marks, mm; null for the only size. */
  othersMm: number | null
  /** Deviation from the others in standard errors; null for the only size. */
  t: number | null
}

export interface SolvedScale {
  /** Mm for one unit of the view. */
  scale: number
  /** Its standard error as a share of it; grown when the sizes disagree by more than their errors. */
  relativeSe: number
  sizes: SizeDeviation[]
  /** How well the sizes agree: probability of a disagreement as large by chance; 1 for a single size. */
  agreement: number
  /** The size that is probably wrong: without it the rest agree. Only named with three or more. */
  outlier: string | null
  /** True when sizes disagree but none can be blamed. */
  disagree: boolean
}

/** Disagreements rarer than this by chance are spoken of. */
const RARE = 0.01

/**
 * One scale over all sizes by weighted least squares of mm = scale · seen, both sides with errors:
 * weight 1 / (sd_mm² + scale² sd_seen²). With three or more that disagree, the one is blamed whose removal makes the
 * rest agree best, not the one with the largest residual: a wrong size of great weight pulls the scale and makes
 * right ones look wrong. The blamed one doesn't count until somebody has decided about it.
 * @param sizes at least one, all positive
 */
export function solveScale(sizes: readonly ScaleInput[]): SolvedScale {
  const together = fit(sizes)
  const others = sizes.map((_, i) => fit(sizes.filter((__, k) => k !== i)))
  const agreement = chiSquareTail(together.chi2, sizes.length - 1)
  let outlier: string | null = null
  let all = together
  let counted = sizes.length
  if (sizes.length >= 3 && agreement < RARE) {
    const rest = others.map((o) => chiSquareTail(o.chi2, sizes.length - 2))
    const best = rest.indexOf(Math.max(...rest))
    if (rest[best]! >= RARE) {
      outlier = sizes[best]!.id
      all = others[best]!
      counted--
    }
  }
  const deviations = sizes.map((size, i): SizeDeviation => {
    const measuredMm = all.scale * size.seen
    const rest = sizes.length > 1 ? others[i]! : null
    const othersMm = rest ? rest.scale * size.seen : null
    const sd = rest
      ? Math.sqrt(size.sdMm ** 2 + (rest.scale * size.sdSeen) ** 2 + (size.seen * rest.se) ** 2)
      : null
    return {
      id: size.id,
      measuredMm,
      deviationMm: measuredMm - size.mm,
      deviation: measuredMm / size.mm - 1,
      othersMm,
      t: sd === null ? null : (size.mm - othersMm!) / sd,
    }
  })
  const excess = counted > 1 ? Math.max(1, all.chi2 / (counted - 1)) : 1
  return {
    scale: all.scale,
    relativeSe: (all.se * Math.sqrt(excess)) / all.scale,
    sizes: deviations,
    agreement: sizes.length > 1 ? agreement : 1,
    outlier,
    disagree: sizes.length > 1 && agreement < RARE && outlier === null,
  }
}

function fit(sizes: readonly ScaleInput[]): { scale: number; se: number; chi2: number } {
  if (sizes.length === 0) return { scale: NaN, se: Infinity, chi2: 0 }
  let scale = sizes.reduce((s, x) => s + x.mm, 0) / sizes.reduce((s, x) => s + x.seen, 0)
  let weight = 0
  // The weights depend on the scale, but weakly: a few rounds settle them to rounding.
  for (let round = 0; round < 8; round++) {
    let top = 0
    weight = 0
    for (const { mm, sdMm, seen, sdSeen } of sizes) {
      const w = 1 / (sdMm ** 2 + (scale * sdSeen) ** 2)
      top += w * mm * seen
      weight += w * seen * seen
    }
    scale = top / weight
  }
  const chi2 = sizes.reduce(
    (s, { mm, sdMm, seen, sdSeen }) => s + (mm - scale * seen) ** 2 / (sdMm ** 2 + (scale * sdSeen) ** 2),
    0,
  )
  return { scale, se: 1 / Math.sqrt(weight), chi2 }
}

import type { Source } from './known-size'

/** An everyday thing of standardised size that can be photographed beside the piece. */
export interface StandardSize {
  id: string
  name: string
  side: string
  mm: number
  /** Standard error, mm: half of what the standard allows, or a rough guess for hands. */
  toleranceMm: number
  source: Source
  /** Where the figure comes from. */
  from: string
}

/**
 * ISO/IEC 7810:2019 ID-1: 85.60 x 53.98 mm. ISO 216: A4 210 x 297 mm, A5 148 x 210 mm, tolerance 1.5 to 2 mm up to
 * 600 mm. Euro coins: Council Regulation (EU) No 729/2014, Annex I. A hand: breadth of the palm at the knuckles, about
 * 85 mm for adults (common practice, no source). The figures of the standards are written from memory.
 */
export const STANDARD_SIZES: readonly StandardSize[] = [
  {
    id: 'card-long',
    name: 'Identity or bank card',
    side: 'long side',
    mm: 85.6,
    toleranceMm: 0.12,
    source: 'typed',
    from: 'ISO/IEC 7810 ID-1',
  },
  {
    id: 'card-short',
    name: 'Identity or bank card',
    side: 'short side',
    mm: 53.98,
    toleranceMm: 0.06,
    source: 'typed',
    from: 'ISO/IEC 7810 ID-1',
  },
  {
    id: 'a4-long',
    name: 'A4 sheet',
    side: 'long side',
    mm: 297,
    toleranceMm: 1,
    source: 'typed',
    from: 'ISO 216',
  },
  {
    id: 'a4-short',
    name: 'A4 sheet',
    side: 'short side',
    mm: 210,
    toleranceMm: 1,
    source: 'typed',
    from: 'ISO 216',
  },
  {
    id: 'a5-long',
    name: 'A5 sheet',
    side: 'long side',
    mm: 210,
    toleranceMm: 1,
    source: 'typed',
    from: 'ISO 216',
  },
  {
    id: 'a5-short',
    name: 'A5 sheet',
    side: 'short side',
    mm: 148,
    toleranceMm: 0.8,
    source: 'typed',
    from: 'ISO 216',
  },
  {
    id: 'euro-1',
    name: '1 euro coin',
    side: '⌀',
    mm: 23.25,
    toleranceMm: 0.05,
    source: 'typed',
    from: 'Regulation (EU) 729/2014',
  },
  {
    id: 'euro-2',
    name: '2 euro coin',
    side: '⌀',
    mm: 25.75,
    toleranceMm: 0.05,
    source: 'typed',
    from: 'Regulation (EU) 729/2014',
  },
  {
    id: 'euro-50c',
    name: '50 cent coin',
    side: '⌀',
    mm: 24.25,
    toleranceMm: 0.05,
    source: 'typed',
    from: 'Regulation (EU) 729/2014',
  },
  {
    id: 'hand',
    name: 'Hand, across the knuckles',
    side: 'width',
    mm: 85,
    toleranceMm: 7,
    source: 'rough',
    from: 'rough, common practice',
  },
]

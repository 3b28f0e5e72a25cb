import { isoThread } from '../solid/thread'
import { repeatsCarried } from '../solid/rhythm'
import { ON_AXIS } from '../solid/placement'
import { BODY } from '../solid/assemble'
import type { Part } from './schema'

/** Parts to begin with; what each is made of can be changed afterwards. */
export const PART_KINDS = [
  { kind: 'turned', name: 'Cap', words: 'Turned part: cap, collar, stopper' },
  { kind: 'notches', name: 'Battlements', words: 'Notches round the rim' },
  { kind: 'flutes', name: 'Flutes', words: 'Flutes down the side' },
  { kind: 'hole', name: 'Hole', words: 'Hole through the side' },
  { kind: 'knobs', name: 'Knobs', words: 'Knobs or balls' },
  { kind: 'block', name: 'Block', words: 'Block' },
  { kind: 'slot', name: 'Slot', words: 'Slot across the top' },
  { kind: 'flat', name: 'Flat', words: 'Flat on the side' },
  { kind: 'thread', name: 'Thread', words: 'Screw thread on the neck' },
  { kind: 'tube', name: 'Handle', words: 'Handle, spout or hose, drawn' },
  { kind: 'plate', name: 'Lever', words: 'Lever or bracket, drawn' },
  { kind: 'squeeze', name: 'Squeeze', words: 'Squeeze to an oval or a square' },
  { kind: 'filling', name: 'Filling', words: 'What it is filled with' },
] as const
export type PartKind = (typeof PART_KINDS)[number]['kind']

/** What the sizes of a new part go by, mm. */
export interface PartSurroundings {
  lowestMm: number
  highestMm: number
  maxRadiusMm: number
  /** Radius of the outside at a height, mm. */
  radiusAt(z: number): number
  sides: number
  side: 'left' | 'right'
  /** Lowest and highest level of the inside; null for a filled piece. */
  fill: { bottomMm: number; brimMm: number } | null
}

const QUARTER = Math.PI / 2
/** Below the top by this share of the height: under a lip's rounding, still on the neck. */
const BELOW_TOP = 0.06

/** A part of usual size and place for a piece. */
export function newPart(kind: PartKind, id: string, about: PartSurroundings): Part {
  const { lowestMm, highestMm, maxRadiusMm: wide, sides } = about
  const height = highestMm - lowestMm
  const top = about.radiusAt(highestMm - BELOW_TOP * height)
  const rounded = (mm: number) => Number(mm.toPrecision(3))
  const { name } = PART_KINDS.find((k) => k.kind === kind)!
  const base: Omit<Part, 'shape'> = {
    id,
    name,
    relation: 'cut',
    target: BODY,
    shown: true,
    material: null,
    place: { ...ON_AXIS },
    round: null,
    clearanceMm: null,
  }
  const at = (place: Partial<Part['place']>) => ({ ...base.place, ...place })
  switch (kind) {
    case 'turned':
      return { ...base, relation: 'separate', shape: { kind: 'turned', profile: { side: about.side, nodes: [] } } } // prettier-ignore
    case 'notches': {
      const rhythm = { up: 2, down: 1 }
      const count = repeatsCarried(sides, rhythm).find((n) => n <= 8)
      return {
        ...base,
        shape: {
          kind: 'sector',
          fromMm: rounded(highestMm - 0.1 * height),
          toMm: rounded(highestMm + 0.1 * height),
          innerDiameterMm: rounded(1.2 * top),
          angle: Math.PI / 6,
        },
        round: { count: count ?? 4, rhythm: count ? rhythm : null },
      }
    }
    case 'flutes':
      return {
        ...base,
        shape: {
          kind: 'cylinder',
          diameterMm: rounded(0.3 * wide),
          topDiameterMm: rounded(0.3 * wide),
          heightMm: rounded(height / 2),
        },
        place: at({ r: rounded(wide), z: rounded(lowestMm + height / 4) }),
        round: { count: 12, rhythm: null },
      }
    case 'hole':
      return {
        ...base,
        shape: {
          kind: 'cylinder',
          diameterMm: rounded(0.3 * wide),
          topDiameterMm: rounded(0.3 * wide),
          heightMm: rounded(4 * wide),
        },
        place: at({ r: -rounded(2 * wide), z: rounded(lowestMm + height / 2), lean: QUARTER }),
      }
    case 'knobs':
      return {
        ...base,
        relation: 'added',
        shape: { kind: 'ball', diameterMm: rounded(0.4 * wide) },
        place: at({ r: rounded(about.radiusAt(lowestMm + height / 2)), z: rounded(lowestMm + height / 2) }),
        round: { count: 4, rhythm: null },
      }
    case 'block':
      return {
        ...base,
        relation: 'added',
        shape: {
          kind: 'block',
          widthMm: rounded(0.3 * wide),
          depthMm: rounded(wide),
          heightMm: rounded(0.3 * height),
        },
        place: at({ r: rounded(about.radiusAt(lowestMm + height / 3)), z: rounded(lowestMm + height / 3) }),
      }
    case 'slot':
      return {
        ...base,
        shape: { kind: 'slot', widthMm: rounded(0.2 * Math.max(top, 0.3 * wide)) },
        place: at({ z: rounded(highestMm - 0.1 * height) }),
      }
    case 'flat':
      return {
        ...base,
        shape: { kind: 'flat', fromMm: rounded(lowestMm), toMm: rounded(highestMm) },
        place: at({ r: rounded(0.9 * wide) }),
      }
    case 'thread': {
      const neck = neckOf(about)
      const pitch = Math.max(0.5, rounded(Math.min(0.2 * neck.radiusMm, (neck.toMm - neck.fromMm) / 4)))
      const turns = Math.max(1, Math.min(3, Math.floor((neck.toMm - neck.fromMm) / pitch) - 2))
      const own = { ...isoThread(0, pitch), diameterMm: 2 * neck.radiusMm }
      return {
        ...base,
        relation: 'added',
        shape: { kind: 'thread', ...own, turns, starts: 1, hand: 'right' },
        place: at({ z: rounded(neck.toMm - pitch * (turns + 0.5)) }),
      }
    }
    case 'tube': {
      // An ear from the shoulder down to the belly, its ends within the wall.
      const [upper, lower] = [lowestMm + 0.75 * height, lowestMm + 0.3 * height]
      const [a, b] = [about.radiusAt(upper), about.radiusAt(lower)]
      const mm = rounded(0.2 * wide)
      const out = wide + 0.6 * wide
      const points = [
        { x: a - mm / 2, z: upper },
        { x: (a + out) / 2 + mm / 2, z: upper + mm / 2 },
        { x: out, z: (upper + lower) / 2 + 0.1 * height },
        { x: (b + out) / 2, z: lower + 0.03 * height },
        { x: b - mm / 2, z: lower },
      ].map(({ x, z }) => ({ x: rounded(x), z: rounded(z), mm }))
      return { ...base, relation: 'added', shape: { kind: 'tube', points, flat: 1, ends: 'flat' } }
    }
    case 'plate': {
      const z = lowestMm + height / 2
      const r = about.radiusAt(z)
      const [long, tall] = [0.8 * wide, 0.25 * wide]
      const points = [
        { x: r - tall / 2, z: z - tall / 2 },
        { x: r + long, z: z - tall / 4 },
        { x: r + long, z: z + tall / 4 },
        { x: r - tall / 2, z: z + tall / 2 },
      ].map((p) => ({ x: rounded(p.x), z: rounded(p.z) }))
      const widthMm = rounded(0.15 * wide)
      return { ...base, relation: 'added', shape: { kind: 'plate', points, widthMm, roundMm: rounded(widthMm / 4), smooth: false } } // prettier-ignore
    }
    case 'squeeze': {
      const [fromMm, toMm] = [rounded(lowestMm), rounded(lowestMm + 0.6 * height)]
      const blendMm = rounded(0.2 * height)
      return { ...base, shape: { kind: 'squeeze', fromMm, toMm, blendMm, across: 1, deep: 0.7, square: 0 } }
    }
    case 'filling': {
      const { bottomMm, brimMm } = about.fill ?? { bottomMm: lowestMm, brimMm: highestMm }
      return {
        ...base,
        relation: 'separate',
        shape: { kind: 'filling', levelMm: rounded(bottomMm + 0.7 * (brimMm - bottomMm)) },
      }
    }
  }
}

/** The neck is looked for in this share of the height below the top, at so many places. */
const NECK_SHARE = 0.4
const NECK_PLACES = 60
/** Radii within this share of the narrowest belong to the neck. */
const STRAIGHT = 0.01

/** The straight run about the narrowest place near the top. */
function neckOf({ lowestMm, highestMm, radiusAt }: PartSurroundings) {
  const step = (NECK_SHARE * (highestMm - lowestMm)) / NECK_PLACES
  const places = Array.from({ length: NECK_PLACES - 1 }, (_, k) => {
    const z = highestMm - step * (k + 1)
    return { z, r: radiusAt(z) }
  })
  const narrowest = places.reduce((least, p, k) => (p.r < places[least]!.r ? k : least), 0)
  const radiusMm = places[narrowest]!.r
  const straight = (k: number) => places[k] !== undefined && places[k].r <= radiusMm * (1 + STRAIGHT)
  let [above, below] = [narrowest, narrowest]
  while (straight(above - 1)) above--
  while (straight(below + 1)) below++
  return { radiusMm, fromMm: places[below]!.z, toMm: places[above]!.z }
}

import { diceOf } from '../dice'
import type { Vec } from '../../maker/vector'

/** What stands or hangs behind a piece, … */
export const WALLS = [
  'lights',
  'curtain',
  'window',
  'stripes',
  'tiles',
  'books',
  'hedge',
  'lightbox',
  'velvet',
  'ornaments',
  'boards',
  'plaster',
] as const
/** … what it stands on, … */
export const FLOORS = [
  'sweep',
  'planks',
  'gingham',
  'grid',
  'marble',
  'table',
  'doily',
  'cloth',
  'plain',
] as const
/** … and of it what lies below a piece on its side. */
export const FLOORS_OF_LYING = ['planks', 'plain', 'cloth', 'grid'] as const

export type Wall = (typeof WALLS)[number]
export type Floor = (typeof FLOORS)[number]

/** A room as people have them, in which a piece is photographed: nothing of it was made to be a backdrop. */
export interface Room {
  wall: Wall
  floor: Floor
  /** Light from all sides, and from the key. */
  ambient: number
  sun: number
  /** How far the wall is out of focus, 0 to 1. */
  soft: number
  /** How much of the wall the picture shows, mm: patterns are as large as they are in the picture. */
  field: number
  /** Largest size of the piece, and radius of its foot, mm. */
  size: number
  footRadius: number
  /** Linear colours of wall and floor. */
  tint: Vec
  ground: Vec
  seed: number
}

/** A wall is in focus this often. */
const SHARP = 0.35
const WHITE: Vec = [1.2, 1.2, 1.2]
const BLACK: Vec = [0.006, 0.006, 0.007]

/** Room number `index`; walls come in turn, all else by lot. */
export function roomOf(
  index: number,
  { lying, ...sizes }: Pick<Room, 'field' | 'size' | 'footRadius'> & { lying: boolean },
): Room {
  const { between, pick, next } = diceOf(515 + 17 * index)
  const wall = WALLS[index % WALLS.length]!
  const usual = lying ? pick(FLOORS_OF_LYING) : pick(FLOORS)
  const colour = (): Vec => {
    const grey = between(0.06, 0.6)
    return [grey * between(0.7, 1.3), grey * between(0.7, 1.2), grey * between(0.5, 1.2)]
  }
  const [tint, ground] = [colour(), colour()]
  return {
    ...sizes,
    wall,
    floor: wall === 'lightbox' ? 'sweep' : wall === 'velvet' ? 'plain' : usual,
    ambient: between(0.15, 0.6),
    sun: between(0.3, 0.9),
    soft: next() < SHARP ? 0 : between(0.2, 1),
    tint,
    ground: wall === 'lightbox' ? WHITE : wall === 'velvet' ? BLACK : ground,
    seed: 7000 + index,
  }
}

import { extent } from '../profile/flatten'
import { backwardsSegment, endOf, startOf, type Segment } from '../profile/segments'

/** Ends nearer than this share of the drawing's extent meet: rounding in files, not gaps that anybody drew. */
const MEETS = 1e-5

/**
 * Segments in any order and direction as chains, the longest first: ends that meet are joined. A place where more than two meet
 * is joined as they come.
 */
export function chainsOf(segments: readonly Segment[]): Segment[][] {
  const kept = segments.filter((s) => s.kind === 'arc' || lengthOf(s) > 0)
  const tolerance = MEETS * extent(kept)
  const places = new Places(kept, tolerance)
  const used = new Uint8Array(kept.length)
  const chains: Segment[][] = []
  for (let i = 0; i < kept.length; i++) {
    if (used[i]) continue
    used[i] = 1
    const forwards = [kept[i]!]
    grow(forwards)
    // What comes before it, followed backwards.
    const before = [backwardsSegment(kept[i]!)]
    grow(before)
    chains.push([...before.slice(1).reverse().map(backwardsSegment), ...forwards])
  }
  return chains.sort((a, b) => total(b) - total(a))

  function grow(chain: Segment[]): void {
    for (;;) {
      const end = endOf(chain.at(-1)!)
      const next = places.near(end).find((k) => !used[k])
      if (next === undefined) return
      used[next] = 1
      const s = kept[next]!
      chain.push(distance(startOf(s), end) <= tolerance ? s : backwardsSegment(s))
    }
  }
}

type Pair = readonly [number, number]
const distance = (a: Pair, b: Pair) => Math.hypot(a[0] - b[0], a[1] - b[1])
const lengthOf = (s: Segment) => (s.kind === 'arc' ? s.arc.radius * Math.abs(s.arc.sweep) : distance(startOf(s), endOf(s)) || distance([s.cubic[2], s.cubic[3]], startOf(s))) // prettier-ignore
const total = (chain: readonly Segment[]) => chain.reduce((sum, s) => sum + lengthOf(s), 0)

/** Finds segments by their ends. */
class Places {
  private cells = new Map<string, number[]>()

  constructor(
    private segments: readonly Segment[],
    private tolerance: number,
  ) {
    segments.forEach((s, k) => {
      for (const end of [startOf(s), endOf(s)]) {
        const key = this.key(end, 0, 0)
        const list = this.cells.get(key)
        if (list) list.push(k)
        else this.cells.set(key, [k])
      }
    })
  }

  private key([x, y]: Pair, dx: number, dy: number): string {
    const size = 2 * this.tolerance || 1
    return `${Math.floor(x / size) + dx},${Math.floor(y / size) + dy}`
  }

  /** Segments with an end at a place. */
  near(place: Pair): number[] {
    const found: number[] = []
    for (const dx of [-1, 0, 1])
      for (const dy of [-1, 0, 1])
        for (const k of this.cells.get(this.key(place, dx, dy)) ?? []) {
          const s = this.segments[k]!
          if (Math.min(distance(startOf(s), place), distance(endOf(s), place)) <= this.tolerance)
            found.push(k)
        }
    return found
  }
}

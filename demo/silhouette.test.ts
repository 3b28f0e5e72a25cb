import { describe, expect, it } from 'vitest'
import { silhouetteMisses, silhouetteReport, type EdgeMiss } from '../core/measure/silhouette'
import { tracedEdges, trueView } from './bench/true-silhouette'
import { LAMP_ROOM } from './lamp-room'
import { truthOf } from './maker/photo'

/** A closed half-profile of what lies between two heights; straight runs are cut where they cross them. */
function clipped(profile: readonly (readonly [number, number])[], low: number, high: number): Float64Array {
  const kept = profile.flatMap(([r, z], i): [number, number][] => {
    const own: [number, number][] = z >= low && z <= high ? [[r, z]] : []
    const next = profile[i + 1]
    if (!next) return own
    const cuts = [low, high].filter((level) => level > Math.min(z, next[1]) && level < Math.max(z, next[1]))
    const upwards = next[1] > z ? cuts : cuts.reverse()
    return [...own, ...upwards.map((level): [number, number] => [r + ((next[0] - r) * (level - z)) / (next[1] - z), level])] // prettier-ignore
  })
  return Float64Array.from([[0, kept[0]![1]], ...kept, [0, kept.at(-1)![1]]].flat())
}

describe('the silhouette through the photo’s own camera', () => {
  it.each(LAMP_ROOM.map((spec) => [spec.name, spec] as const))(
    '%s: the true profile lies on the maker’s contour within a tenth of a pixel',
    (_name, spec) => {
      const truth = truthOf(spec)
      const edges = tracedEdges(spec)
      const profile = Float64Array.from(truth.profile.flat())
      const misses = (list: [number, number][]): EdgeMiss[] => silhouetteMisses(trueView(spec), list.map(([x, y]) => ({ x, y })), [profile]) // prettier-ignore
      const report = silhouetteReport(misses(edges.left), misses(edges.right))!
      expect(edges.left.length).toBeGreaterThan(60)
      expect(report.rmsPx).toBeLessThan(0.1)
      expect(Math.abs(report.worst.px)).toBeLessThan(0.5)
      // Two per cent fatter it lies inside of nothing any more: the measure says by how much.
      const fat = profile.map((v, i) => (i % 2 ? v : 1.02 * v))
      const fatMisses = silhouetteMisses(trueView(spec), edges.right.map(([x, y]) => ({ x, y })), [fat]) // prettier-ignore
      const widest = fatMisses.reduce((w, m) => (m.mm < w.mm ? m : w))
      expect(widest.mm / (-0.01 * truth.maxDiameter)).toBeGreaterThan(0.9)
      expect(widest.mm / (-0.01 * truth.maxDiameter)).toBeLessThan(1.1)
      // Parted into a foot and a cap that overlap a little, both together show what the whole one shows.
      const half = truth.height / 2
      const parted = [clipped(truth.profile, -1, half + 1), clipped(truth.profile, half - 1, 1e6)]
      const points = edges.left.map(([x, y]) => ({ x, y }))
      const together = silhouetteMisses(trueView(spec), points, parted)
      expect(Math.max(...misses(edges.left).map((m, i) => Math.abs(m.px - together[i]!.px)))).toBeLessThan(
        0.3,
      )
    },
  )
})

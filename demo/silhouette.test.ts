import { describe, expect, it } from 'vitest'
import { silhouetteMisses, silhouetteReport, type EdgeMiss } from '../core/measure/silhouette'
import { tracedEdges, trueView } from './bench/true-silhouette'
import { LAMP_ROOM } from './lamp-room'
import { truthOf } from './maker/photo'

describe('the silhouette through the photo’s own camera', () => {
  it.each(LAMP_ROOM.map((spec) => [spec.name, spec] as const))(
    '%s: the true profile lies on the maker’s contour within a tenth of a pixel',
    (_name, spec) => {
      const truth = truthOf(spec)
      const edges = tracedEdges(spec)
      const profile = Float64Array.from(truth.profile.flat())
      const misses = (list: [number, number][]): EdgeMiss[] => silhouetteMisses(trueView(spec), list.map(([x, y]) => ({ x, y })), profile) // prettier-ignore
      const report = silhouetteReport(misses(edges.left), misses(edges.right))!
      expect(edges.left.length).toBeGreaterThan(60)
      expect(report.rmsPx).toBeLessThan(0.1)
      expect(Math.abs(report.worst.px)).toBeLessThan(0.5)
      // Two per cent fatter it lies inside of nothing any more: the measure says by how much.
      const fat = profile.map((v, i) => (i % 2 ? v : 1.02 * v))
      const fatMisses = silhouetteMisses(trueView(spec), edges.right.map(([x, y]) => ({ x, y })), fat) // prettier-ignore
      const widest = fatMisses.reduce((w, m) => (m.mm < w.mm ? m : w))
      expect(widest.mm / (-0.01 * truth.maxDiameter)).toBeGreaterThan(0.9)
      expect(widest.mm / (-0.01 * truth.maxDiameter)).toBeLessThan(1.1)
    },
  )
})

import { expect, it } from 'vitest'
import { DELIVERABLES } from '../../../core/piece/deliver'
import { handOver } from '../../../core/piece/hand-over'
import { newPiece } from '../../../core/piece/schema'
import { node } from '../../../core/profile/test-samples'
import { formatGroups } from './format-groups'

it('sizes are said before writing, right within a tenth; every format has its card', () => {
  const nodes = [node(0, 0), node(30, 0, 'corner', { next: 'arc', bulge: 0.2 }), node(34, 60, 'smooth', { next: 'arc', bulge: -0.15 }), node(20, 90, 'corner', { next: 'arc', bulge: 0.3 }), node(18, 100), node(0, 100)] // prettier-ignore
  const document = { ...newPiece('Jar'), profile: { side: 'right' as const, nodes }, solid: { sides: 96 } }
  const triangles = (handOver(document, 'stl').length - 84) / 50
  const cards = formatGroups({ triangles, segments: 5 }).flatMap((g) => g.cards)
  expect(cards.map((c) => c.format).sort()).toEqual(Object.keys(DELIVERABLES).sort())
  for (const format of ['stl', '3mf', 'glb', 'obj', 'ply'] as const) {
    const [, number, unit] = /([\d.]+) (kB|MB)$/.exec(cards.find((c) => c.format === format)!.size)!
    const said = Number(number) * (unit === 'MB' ? 1e6 : 1e3)
    expect(Math.abs(said / handOver(document, format).length - 1), format).toBeLessThan(0.1)
  }
})

import { describe, expect, it } from 'vitest'
import { makeEye, project, type NearView } from '../camera/view'
import type { OutlineSide } from '../outline/refine'
import { matDoubts } from './mat-doubts'
import { readProfile } from './read-profile'

/** A camera 600 mm away and 160 mm above the foot, level. */
const view: NearView = {
  kind: 'near',
  lens: null,
  eye: makeEye(5000, { x: 1000, y: 1000 }, { foot: { x: 1000, y: 1900 }, top: { x: 1000, y: 100 } }, 0),
  distance: 600,
  height: 160,
}

/** Outline of a tumbler ⌀ 100 mm, 150 mm high, on a disc so wide and thick, mm, as the camera sees it. */
function outline(side: 1 | -1, disc: number, thick: number): OutlineSide {
  const out: number[] = []
  const push = (r: number, a: number, z: number) => {
    const p = project(view, [side * r * Math.sin(a), -r * Math.cos(a), z])
    out.push(p.x, p.y)
  }
  // Where a ray grazes a cylinder: sin of the azimuth past its side is radius over distance.
  const grazed = (r: number) => Math.PI / 2 - Math.asin(r / view.distance)
  const flankX = Math.abs(project(view, [50 * Math.sin(grazed(50)), -50 * Math.cos(grazed(50)), 0]).x - 1000)
  for (let a = 0; a < grazed(disc); a += 0.01) push(disc, a, 0)
  for (let z = 0; z <= thick; z += 0.2) push(disc, grazed(disc), z)
  // The disc's far edge, as far as the tumbler doesn't hide it; and from there its flank.
  let seenTo = 0
  for (let a = grazed(disc); a < Math.PI; a += 0.005) {
    const p = project(view, [disc * Math.sin(a), -disc * Math.cos(a), thick])
    if (Math.abs(p.x - 1000) < flankX) break
    push(disc, a, thick)
    seenTo = p.y
  }
  for (let z = thick; z <= 150; z += 0.2) {
    if (project(view, [50 * Math.sin(grazed(50)), -50 * Math.cos(grazed(50)), z]).y < seenTo)
      push(50, grazed(50), z)
  }
  for (let a = grazed(50); a < Math.PI; a += 0.01) push(50, a, 150)
  const points = Float64Array.from(out)
  return { points, sd: new Float64Array(points.length / 2).fill(0.05), blur: 1 }
}
const read = (disc: number, thick: number) =>
  readProfile(view, { left: outline(-1, disc, thick), right: outline(1, disc, thick) })

describe('a flat disc at the foot', () => {
  it('of hardly any height is said to be a mat, it may be', () => {
    const doily = read(70, 0)
    // It is in the half-profile, which knows that it hides what stands on it.
    expect(Math.max(...doily.points.map(([r]) => r))).toBeCloseTo(70, 0)
    expect(matDoubts(doily)).toEqual([
      expect.stringMatching(/flat disc, (39|40|41) % wider.*paint all that shows of it as backdrop/),
    ])
  })

  it('of little height is said to be one below what stands upright on it, but not below what narrows on, as a stem glass does', () => {
    expect(matDoubts(read(70, 2.5))).toEqual([expect.stringMatching(/flat disc, (39|40|41) % wider/)])
    const glass = (above: [number, number][]) => {
      const points: [number, number][] = [[0, 0], [35, 0], [35, 1.6], ...above, [35, 150]] // prettier-ignore
      return matDoubts({ ...read(70, 0), points, states: points.map(() => 'both'), foot: 0, top: 150 })
    }
    expect(glass([[30, 3.2], [22, 7], [6, 14], [5, 70]])).toEqual([]) // prettier-ignore
    expect(glass([[30, 3.2], [30, 7], [30, 14]])).toHaveLength(1) // prettier-ignore
  })

  it('as thick as a foot is a foot, and a foot no wider than what stands on it is none', () => {
    expect(matDoubts(read(70, 4))).toEqual([])
    expect(matDoubts(read(50, 0))).toEqual([])
  })
})

import { describe, expect, it } from 'vitest'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { unrolledBand, writeUnrolled } from './unrolled'

const jar = profileSegments([node(0, 0), node(30, 0), node(30, 60), node(20, 100), node(0, 100)])

describe('a band laid flat', () => {
  it('of a cylinder is a rectangle as long as its circumference', () => {
    const band = unrolledBand(jar, 10, 50)
    expect(band.widthMm).toBeCloseTo(60 * Math.PI, 9)
    expect(band.boxHeightMm).toBe(40)
    expect(band.path).toBe('M0 0H188.496V40H0Z')
  })

  it.each([
    ['narrows', 60, 100, 30, 20],
    ['widens', 0, 40, 20, 30],
  ])('of a cone that %s upwards is the sector of a ring (closed form)', (way, from, to, lower, upper) => {
    const cone =
      way === 'narrows' ? jar : profileSegments([node(0, 0), node(20, 0), node(30, 40), node(0, 40)])
    const band = unrolledBand(cone, from + 1e-9, to - 1e-9)
    const slant = Math.hypot(40, 10)
    expect([band.lowerMm, band.upperMm, band.heightMm].map((v) => Number(v.toFixed(4)))).toEqual([2 * Math.PI * lower, 2 * Math.PI * upper, slant].map((v) => Number(v.toFixed(4)))) // prettier-ignore
    // Radii about the tip: r s / Δr; the angle leaves the circumferences as they are.
    const radii = [...band.path.matchAll(/A([\d.]+) /g)].map((m) => Number(m[1]))
    expect(radii[0]).toBeCloseTo((30 * slant) / 10, 2)
    expect(radii[1]).toBeCloseTo((20 * slant) / 10, 2)
    const half = (Math.PI * 10) / slant
    expect(band.widthMm).toBeCloseTo(2 * radii[0]! * Math.sin(half), 2)
    // A narrowing band smiles: its broad edge lies lower in its middle; a widening one frowns.
    const [first, middle] = [Number(/^M[\d.]+ ([\d.]+)/.exec(band.path)![1]), band.boxHeightMm]
    if (way === 'narrows') expect(first).toBeLessThan(middle)
    else expect(first).toBeGreaterThan(0)
  })

  it('that bulges, or isn’t there, is refused in words', () => {
    const ball = profileSegments([
      node(0, 0, 'smooth', { next: 'curve' }),
      node(30, 30, 'smooth', { next: 'curve' }),
      node(0, 60, 'smooth'),
    ])
    expect(() => unrolledBand(ball, 15, 45)).toThrow(/bulges by/)
    expect(() => unrolledBand(jar, 80, 300)).toThrow(/doesn’t reach/)
    expect(() => unrolledBand(jar, 50, 50)).toThrow(/doesn’t reach/)
  })

  it('is written in real millimetres', () => {
    const svg = new TextDecoder().decode(writeUnrolled(unrolledBand(jar, 10, 50), 'A & B'))
    expect(svg).toContain('width="198.496mm" height="50mm" viewBox="-5 -5 198.496 50"')
    expect(svg).toContain('<title>A &amp; B</title>')
  })
})

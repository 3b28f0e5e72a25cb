import { describe, expect, it } from 'vitest'
import { withoutBareKinks } from './kinks'
import { farOff, oneSideShows, RADII, silhouetteOf, stripOf, vase } from './test-strips'

describe('a way where no edge is seen', () => {
  const hidden = (row: number) => row >= 60 && row < 100
  const bare = stripOf(vase, (row) => (hidden(row) ? 0 : 0.8))
  const kinked = vase.map((half, row) =>
    hidden(row) ? half - (row < 90 ? row - 60 : 3 * (100 - row)) : half,
  )

  it('a kink inwards and out again is led past', () => {
    const found = withoutBareKinks(bare, silhouetteOf(bare, kinked))
    expect(farOff(silhouetteOf(bare, kinked), vase)).toBeGreaterThan(25)
    // The straight way cuts off what the vase bulges there.
    expect(farOff(found, vase)).toBeLessThan(5)
  })

  it('is led along the edge that one side shows beside the straight way', () => {
    const half = stripOf(vase, (row) => (hidden(row) ? 0 : 0.8))
    oneSideShows(half, vase, hidden)
    const found = withoutBareKinks(half, silhouetteOf(half, kinked))
    expect(farOff(found, vase)).toBeLessThan(1)
  })

  it('the same kink stays where edges show it', () => {
    const seen = stripOf(kinked, () => 0.8)
    expect(withoutBareKinks(seen, silhouetteOf(seen, kinked)).half).toEqual(Float32Array.from(kinked))
  })

  it('a flank that isn’t seen goes straight on to where it is, without the jump the way took for it', () => {
    const gone = (row: number) => row >= 30 && row < 70
    const strip = stripOf(vase, (row) => (gone(row) ? 0 : 0.8))
    const jumping = vase.map((half, row) => (row >= 30 && row < 64 ? vase[29]! : half))
    expect(farOff(silhouetteOf(strip, jumping), vase)).toBeGreaterThan(11)
    expect(farOff(withoutBareKinks(strip, silhouetteOf(strip, jumping)), vase)).toBeLessThan(3)
    // A shoulder whose flank one side shows is where it jumps.
    const shoulder = stripOf(jumping, (row) => (gone(row) ? 0 : 0.8))
    oneSideShows(shoulder, jumping, gone)
    const found = withoutBareKinks(shoulder, silhouetteOf(shoulder, jumping))
    expect(found.half).toEqual(Float32Array.from(jumping))
  })

  it('a flank that isn’t seen leads past a line of the floor to where the way comes back, but on to a flange', () => {
    /** What is followed over most of the hidden rows, and in the six after them, where an edge is seen again. */
    const led = (over: number, beyond: number) => {
      const half = vase.map((each, row) =>
        hidden(row) && row >= 66 ? over : row >= 100 && row < 106 ? beyond : each,
      )
      const strip = stripOf(half, (row) => (hidden(row) ? 0 : 0.8))
      return { half, found: withoutBareKinks(strip, silhouetteOf(strip, half)) }
    }
    const floor = led(80, 85)
    expect(farOff(silhouetteOf(bare, floor.half), vase)).toBeGreaterThan(25)
    expect(farOff(floor.found, vase)).toBeLessThan(5)
    const flange = led(62, 65)
    expect([...flange.found.half.subarray(100, 106)]).toEqual(flange.half.slice(100, 106))
  })

  it('a smooth waist stays, and so does a foot that only leads inwards', () => {
    const waist = vase.map((half, row) =>
      hidden(row) ? half - Math.round(12 * Math.sin(((row - 60) / 40) * Math.PI)) : half,
    )
    expect(withoutBareKinks(bare, silhouetteOf(bare, waist)).half).toEqual(Float32Array.from(waist))
    const foot = vase.map((half, row) => (row >= 100 && half > 0 ? 20 : half))
    const strip = stripOf(foot, (row) => (row >= 70 && row < 125 ? 0 : 0.8))
    expect(withoutBareKinks(strip, silhouetteOf(strip, foot)).half).toEqual(Float32Array.from(foot))
  })

  it('a step stays along which an edge runs', () => {
    const stepped = vase.map((half, row) => (hidden(row) ? 20 : half))
    const strip = stripOf(vase, (row) => (hidden(row) ? 0 : 0.8))
    for (const row of [59, 60, 99, 100]) strip.level.fill(0.9, row * (RADII + 1) + 20, row * (RADII + 1) + 60)
    const found = withoutBareKinks(strip, silhouetteOf(strip, stepped))
    expect(found.half[61]).toBe(20)
  })
})

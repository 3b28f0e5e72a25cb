import { describe, expect, it } from 'vitest'
import { withoutBareBulges, withoutBareKinks, withoutBareNotches, withoutRaggedNotches } from './bulges'
import type { Strip } from './silhouette'
import { farOff, RADII, silhouetteOf, stripOf, vase } from './test-strips'

/** In these rows one side alone shows an edge at half-widths. */
const oneSideShows = ({ both }: Strip, halves: readonly number[], where: (row: number) => boolean) =>
  halves.forEach((half, row) => where(row) && (both[row * (RADII + 1) + half] = 0.8))

describe('silhouettes where no edge is seen', () => {
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

  it('a cap stays that only one side shows, a handle’s mirror image before the other flank goes', () => {
    const isTop = (row: number) => row >= 20 && row < 40
    const capped = vase.map((half, row) => (isTop(row) ? half + 15 : half))
    const cap = stripOf(capped, (row) => (row < 40 ? 0 : 0.8))
    oneSideShows(cap, capped, isTop)
    const kept = withoutBareBulges(cap, silhouetteOf(cap, capped), false).half
    expect(kept).toEqual(Float32Array.from(capped))
    const handle = { ...cap, both: cap.both.slice() }
    oneSideShows(handle, vase, isTop)
    const without = withoutBareBulges(handle, silhouetteOf(handle, capped), false).half
    // What is left of it is the straight way up.
    expect(without[30]).toBeLessThan(vase[40]! + 3)
  })

  it('a line of the wall on both sides is none of the piece whose own edge runs past it, a flange is', () => {
    const isLine = (row: number) => row >= 70 && row < 76
    const flanged = vase.map((half, row) => (isLine(row) ? half + 20 : half))
    const flange = stripOf(flanged, (row) => (isLine(row) ? 0.6 : 0.8))
    const seenPast = (sharp: number): Strip => {
      const [weaker, both] = [flange.weaker.slice(), flange.both.slice()]
      vase.forEach((half, row) => {
        if (!isLine(row)) return
        weaker[row * (RADII + 1) + half] = sharp
        both[row * (RADII + 1) + half] = 2 * sharp
      })
      return { ...flange, weaker, both }
    }
    const found = (strip: Strip, busy: boolean) =>
      withoutBareBulges(strip, silhouetteOf(strip, flanged), busy)
    expect(farOff(found(seenPast(0.7), false), vase)).toBeLessThan(2)
    // A painted band on a flange is fainter than its edge; before a backdrop full of lines less is enough.
    expect(found(seenPast(0.4), false).half).toEqual(Float32Array.from(flanged))
    expect(farOff(found(seenPast(0.4), true), vase)).toBeLessThan(2)
    expect(found(flange, true).half).toEqual(Float32Array.from(flanged))
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

  it('a notch with nothing along it is led past, one with edges stays', () => {
    const notched = vase.map((half, row) => (row >= 70 && row < 90 ? 20 : half))
    const strip = stripOf(vase, (row) => (row >= 70 && row < 90 ? 0 : 0.8))
    expect(farOff(withoutBareNotches(strip, silhouetteOf(strip, notched)), vase)).toBeLessThan(3)
    const real = stripOf(notched, () => 0.8)
    expect(withoutBareNotches(real, silhouetteOf(real, notched)).half).toEqual(Float32Array.from(notched))
  })

  it('a bulge that was taken along goes, a flange with edges stays', () => {
    const bulged = vase.map((half, row) => (row >= 70 && row < 85 ? half + 15 : half))
    const strip = stripOf(vase, () => 0.8)
    expect(farOff(withoutBareBulges(strip, silhouetteOf(strip, bulged), false), vase)).toBeLessThan(3)
    const flange = stripOf(bulged, () => 0.8)
    expect(withoutBareBulges(flange, silhouetteOf(flange, bulged), false).half).toEqual(
      Float32Array.from(bulged),
    )
  })

  it('a notch is led past to its very edge, over a landing on the way out', () => {
    // Down at once, back in steps that rest for a row or two.
    const out = (row: number) => 18 + 8 * Math.floor((row - 80) / 2)
    const notched = vase.map((half, row) =>
      row >= 66 && row < 80 ? 18 : row >= 80 && row < 92 ? Math.min(half, out(row)) : half,
    )
    const strip = stripOf(vase, (row) => (row >= 66 && row < 92 ? 0 : 0.8))
    expect(farOff(silhouetteOf(strip, notched), vase)).toBeGreaterThan(35)
    expect(farOff(withoutBareNotches(strip, silhouetteOf(strip, notched)), vase)).toBeLessThan(3)
  })

  it('before boards and bricks a bulge goes that one side’s own edge runs past, and stays where none does', () => {
    const level = (row: number) => row >= 85 && row < 94
    const shelf = vase.map((half, row) => (level(row) ? half + 28 : half))
    // The lines of the floor bound the bulge on both sides; there the piece shows its edge on one side only.
    const strip = stripOf(shelf, (row) => (level(row) ? 0.6 : 0.9))
    const n = RADII + 1
    const past = { ...strip, both: strip.both.slice() }
    vase.forEach((half, row) => {
      if (level(row)) past.both[row * n + half] = 1
    })
    expect(farOff(withoutBareBulges(past, silhouetteOf(past, shelf), true), vase)).toBeLessThan(2)
    expect(withoutBareBulges(past, silhouetteOf(past, shelf), false).half).toEqual(Float32Array.from(shelf))
    expect(withoutBareBulges(strip, silhouetteOf(strip, shelf), true).half).toEqual(Float32Array.from(shelf))
  })

  it('before boards what lies beside the foot goes too where its own edge runs down to it; a foot that is wider stays', () => {
    const isFloor = (row: number) => row >= 110 && row < 136
    const onBoards = vase.map((half, row) => (isFloor(row) ? half + 30 : half))
    const strip = stripOf(onBoards, (row) => (isFloor(row) ? 0.5 : 0.9))
    const n = RADII + 1
    const past = { ...strip, weaker: strip.weaker.slice(), both: strip.both.slice() }
    for (let row = 110; row < 136; row++) {
      past.weaker[row * n + vase[row]!] = 0.45
      past.both[row * n + vase[row]!] = 0.9
    }
    expect(farOff(withoutBareBulges(past, silhouetteOf(past, onBoards), true), vase)).toBeLessThan(7)
    expect(withoutBareBulges(past, silhouetteOf(past, onBoards), false).half).toEqual(Float32Array.from(onBoards)) // prettier-ignore
    expect(withoutBareBulges(strip, silhouetteOf(strip, onBoards), true).half).toEqual(Float32Array.from(onBoards)) // prettier-ignore
  })

  it('a flare below a horizon stays: the horizon is left where the way steps back in, and a foot’s own corner is no line', () => {
    // A bell on boards: the flank of 40 px flares to 60 at its foot, where the horizon and its shadow lay beside it.
    const bell = Array.from({ length: 160 }, (_, row) =>
      row < 20 || row >= 140 ? 0 : row < 112 ? 40 : row < 138 ? 40 + Math.round(0.8 * (row - 112)) : 20,
    )
    const isFloor = (row: number) => row >= 112 && row < 124
    const onBoards = bell.map((half, row) => (isFloor(row) ? 84 : half))
    const strip = stripOf(onBoards, (row) => (isFloor(row) ? 0.5 : 0.9))
    const n = RADII + 1
    for (let row = 112; row < 138; row++) {
      // What runs down inside of the flare: grain, a highlight.
      strip.both[row * n + 40 + Math.round((row - 112) / 5)] = 1.3
      if (!isFloor(row)) continue
      strip.weaker[row * n + bell[row]!] = 0.45
      strip.both[row * n + bell[row]!] = 0.9
    }
    expect(farOff(withoutBareBulges(strip, silhouetteOf(strip, onBoards), true), bell)).toBeLessThan(5)
  })

  describe('a notch', () => {
    const n = RADII + 1
    /** The vase with a notch of so many rows, and the edges of that. */
    const notched = (rows: number, sharp: number) => {
      const half = vase.map((r, row) => (row >= 70 && row < 70 + rows ? 30 : r))
      return { half, strip: stripOf(half, (row) => (row >= 70 && row < 70 + rows ? sharp : 0.8)) }
    }
    /** Edges across the axis in a row, from the notch out to the vase. */
    const withStep = (strip: Strip, row: number): Strip => {
      const level = strip.level.slice()
      level.fill(0.6, row * n + 31, row * n + vase[row]! + 1)
      return { ...strip, level }
    }
    const led = ({ half, strip }: ReturnType<typeof notched>) =>
      farOff(withoutBareNotches(strip, silhouetteOf(strip, half)), vase) < 3

    it('goes that begins with no step: specks that lie evenly about the axis lead there', () => {
      const { half, strip } = notched(12, 0.7)
      expect(led({ half, strip })).toBe(true)
      expect(led({ half, strip: withStep(strip, 70) })).toBe(false)
      // Of an upright piece, seen from above, the step is at the upper end; of a lying one it may be at either.
      const below = withStep(strip, 82)
      expect(led({ half, strip: below })).toBe(true)
      expect(led({ half, strip: { ...below, axis: { ...below.axis, up: { x: 1, y: 0 } } } })).toBe(false)
    })

    it('stays that is taller than specks are, or leads to something else', () => {
      expect(led(notched(24, 0.7))).toBe(false)
      const { half, strip } = notched(12, 0.7)
      const wider = half.map((r, row) => (row >= 82 && row < 140 ? r + 25 : r))
      expect(withoutBareNotches(strip, silhouetteOf(strip, wider)).half).toEqual(Float32Array.from(wider))
    })
  })

  it('a ragged notch from speckle to speckle is led past; a turned one with edges stays, and so does a plain one', () => {
    const ragged = (row: number) => 30 + [0, 12, 3, 15, -4, 10, 2, 14][row % 8]!
    const speckled = vase.map((half, row) => (row >= 70 && row < 94 ? Math.min(half, ragged(row)) : half))
    const strip = stripOf(vase, (row) => (row >= 70 && row < 94 ? 0 : 0.8))
    const n = RADII + 1
    // Speckles show an edge here and there.
    for (let row = 70; row < 94; row += 3) strip.weaker[row * n + speckled[row]!] = 0.7
    expect(farOff(withoutRaggedNotches(strip, silhouetteOf(strip, speckled)), vase)).toBeLessThan(3)
    const turned = stripOf(speckled, () => 0.8)
    expect(withoutRaggedNotches(turned, silhouetteOf(turned, speckled)).half).toEqual(Float32Array.from(speckled)) // prettier-ignore
    const plain = vase.map((half, row) => (row >= 70 && row < 94 ? 30 : half))
    expect(withoutRaggedNotches(strip, silhouetteOf(strip, plain)).half).toEqual(Float32Array.from(plain))
  })

  it('a tall bulge goes that only the lines across it bound, a short one with slanting edges stays', () => {
    const jutting = (rows: number) =>
      vase.map((half, row) => (row >= 70 && row < 70 + rows ? half + 20 : half))
    const n = RADII + 1
    const lines = (rows: number) => {
      const half = jutting(rows)
      // Edges in the first and the last three rows of it only.
      return { half, strip: stripOf(half, (row) => (row < 73 || row >= 67 + rows ? 0.5 : 0)) }
    }
    const joint = lines(20)
    expect(farOff(withoutBareBulges(joint.strip, silhouetteOf(joint.strip, joint.half), false), vase)).toBeLessThan(3) // prettier-ignore
    const bead = lines(6)
    expect(bead.strip.weaker[70 * n + bead.half[70]!]).toBe(0.5)
    expect(withoutBareBulges(bead.strip, silhouetteOf(bead.strip, bead.half), false).half).toEqual(Float32Array.from(bead.half)) // prettier-ignore
  })

  describe('of which one side shows an edge', () => {
    const n = RADII + 1
    const notched = vase.map((half, row) => (row >= 70 && row < 92 ? half - 18 : half))
    /** The vase, whose edges only one side shows in the notch's rows, beside as clear an edge of one side along the notch. */
    const strip = (past: number, along: number) => {
      const made = stripOf(vase, (row) => (row >= 70 && row < 92 ? 0 : 0.8))
      for (let row = 70; row < 92; row++) {
        made.both[row * n + vase[row]!] = past
        made.both[row * n + notched[row]!] = along
      }
      made.level.fill(0.5, 70 * n + notched[70]!, 70 * n + vase[70]! + 1)
      return made
    }

    it('none is left where the straight way past it shows as much', () => {
      const made = strip(0.9, 0.9)
      expect(farOff(withoutBareNotches(made, silhouetteOf(made, notched)), vase)).toBeLessThan(2)
    })

    it('it stays where it shows more, and where it shows an edge on both sides', () => {
      const more = strip(0.5, 0.9)
      expect(withoutBareNotches(more, silhouetteOf(more, notched)).half).toEqual(Float32Array.from(notched))
      const both = strip(0.9, 0.9)
      for (let row = 70; row < 92; row++) both.weaker[row * n + notched[row]!] = 0.5
      expect(withoutBareNotches(both, silhouetteOf(both, notched)).half).toEqual(Float32Array.from(notched))
    })
  })
})

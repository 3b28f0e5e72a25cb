import { describe, expect, it } from 'vitest'
import { withoutBareBulges } from './bulges'
import type { Strip } from './silhouette'
import { farOff, oneSideShows, RADII, silhouetteOf, stripOf, vase } from './test-strips'

describe('bulges of a silhouette', () => {
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

  it('a bulge that was taken along goes, a flange with edges stays', () => {
    const bulged = vase.map((half, row) => (row >= 70 && row < 85 ? half + 15 : half))
    const strip = stripOf(vase, () => 0.8)
    expect(farOff(withoutBareBulges(strip, silhouetteOf(strip, bulged), false), vase)).toBeLessThan(3)
    const flange = stripOf(bulged, () => 0.8)
    expect(withoutBareBulges(flange, silhouetteOf(flange, bulged), false).half).toEqual(
      Float32Array.from(bulged),
    )
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

  it('before boards a foot with a flange stays that is firmly told for the piece, though what is painted on it runs on past it', () => {
    const n = RADII + 1
    const isFoot = (row: number) => row >= 110 && row < 136
    const flanged = vase.map((half, row) => (isFoot(row) ? half + 30 : half))
    const strip = stripOf(flanged, (row) => (isFoot(row) ? 0.5 : 0.9))
    for (let row = 110; row < 136; row++) {
      strip.weaker[row * n + vase[row]!] = 0.45
      strip.both[row * n + vase[row]!] = 0.9
    }
    const saying = (ofFlange: number) => {
      const sums = new Float32Array(strip.both.length).fill(-2)
      flanged.forEach((half, row) => {
        for (let r = 0; r <= half; r++) sums[row * n + r] = isFoot(row) && r > vase[row]! ? ofFlange : 2
      })
      return withoutBareBulges(strip, silhouetteOf(strip, flanged), true, { sums: () => sums, isFirm: true })
    }
    expect(saying(1.6).half).toEqual(Float32Array.from(flanged))
    // Boards look a little like piece, too.
    expect(farOff(saying(0.4), vase)).toBeLessThan(7)
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

  it('a cap stays that looks like piece on both sides, though a rough axis parts its edges', () => {
    const isTop = (row: number) => row >= 20 && row < 40
    const capped = vase.map((half, row) => (isTop(row) ? half + 9 : half))
    const strip = stripOf(vase, (row) => (isTop(row) ? 0.3 : 0.8))
    const saying = (ofCap: number) => {
      const sums = new Float32Array(strip.both.length).fill(-2)
      capped.forEach((half, row) => {
        for (let r = 0; r <= half; r++) sums[row * (RADII + 1) + r] = isTop(row) ? ofCap : 2
      })
      return withoutBareBulges(strip, silhouetteOf(strip, capped), false, { sums: () => sums, isFirm: false })
        .half
    }
    expect(saying(1)).toEqual(Float32Array.from(capped))
    // A handle’s mirror image looks like the backdrop on one side.
    expect(saying(-0.4)[30]).toBeLessThan(vase[40]! + 3)
  })
})

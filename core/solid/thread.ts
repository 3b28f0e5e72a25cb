import { CoreError } from '../errors'
import type { Mesh } from './mesh'
import { sideError } from './sides'

/** A ridge that winds up a cylinder, mm. Between the flanks' feet it is `rootMm` high, at its crest `crestMm`. */
export interface Thread {
  /** Of the cylinder that it stands on. */
  diameterMm: number
  /** From one ridge to the next one above it. */
  pitchMm: number
  depthMm: number
  crestMm: number
  rootMm: number
  /** Turns of each ridge. */
  turns: number
  /** Ridges that begin side by side. */
  starts: number
  hand: 'right' | 'left'
  /** Grown by this on all sides: cut out of a cap it leaves so much room about the same thread. */
  clearanceMm: number
}

/**
 * The basic profile of ISO 68-1: 60° flanks, crest P/8, root P/4, depth 5/8 of the triangle's height 0.866 P (from memory).
 * @param majorMm ⌀ over the crests
 */
export function isoThread(
  majorMm: number,
  pitchMm: number,
): Pick<Thread, 'diameterMm' | 'pitchMm' | 'depthMm' | 'crestMm' | 'rootMm'> {
  const depthMm = (5 / 8) * (Math.sqrt(3) / 2) * pitchMm
  return {
    diameterMm: majorMm - 2 * depthMm,
    pitchMm,
    depthMm,
    crestMm: pitchMm / 8,
    rootMm: (3 / 4) * pitchMm,
  }
}

/** Ridges rise from the cylinder and sink back into it within this part of a turn. */
const FADE_TURNS = 0.25
/** What is left of the depth at the very ends, as a share: a section must have an area. */
const FADED = 0.05
/** Turns by which a grown thread goes on beyond each end of its counterpart, at least. */
const BEYOND = 1 / 8
/** Neighbouring ridges keep this share of the pitch apart. */
const APART = 0.001

/**
 * The ridges as closed meshes; their feet lie a little inside the cylinder, by what its sides leave out of the circle.
 * The origin is the middle of the first ridge's beginning.
 * @param sides a turn; the same as those of the cylinder
 * @throws CoreError `thread` for sizes that can't be wound
 */
export function threadMesh(thread: Thread, sides: number): Mesh {
  requireWindable(thread)
  const { diameterMm, pitchMm, starts, hand, clearanceMm } = thread
  const grown = clearanceMm > 0
  // By whole sides, so that the flat pieces of both lie over each other.
  const first = grown ? -Math.ceil(BEYOND * sides) / sides : 0
  const turns = thread.turns - 2 * first
  const steps = Math.max(3, Math.round(turns * sides))
  const lead = pitchMm * starts
  const section = sectionOf(thread)
  const foot = diameterMm / 2
  const buried = buriedFoot(section, foot, sunkMm(foot, sides), pitchMm)
  const rings = steps + 1
  const positions = new Float64Array(3 * CORNERS * starts * rings)
  const triangles: number[] = []
  for (let start = 0; start < starts; start++) {
    for (let k = 0; k <= steps; k++) {
      const along = (turns * k) / steps
      const share = grown ? 1 : faded(Math.min(along, turns - along))
      const z = lead * (first + along)
      const angle = 2 * Math.PI * (first + along + start / starts)
      const crest = foot + section.depth * share
      const wide = section.root + (section.crest - section.root) * share
      const { inner, bend, half } = buried
      const corners = [inner, -half, bend, -half, crest, -wide / 2, crest, wide / 2, bend, half, inner, half]
      for (let c = 0; c < CORNERS; c++) {
        const r = corners[2 * c]!
        const at = 3 * (CORNERS * (start * rings + k) + c)
        positions.set([r * Math.cos(angle), r * Math.sin(angle) * (hand === 'left' ? -1 : 1), z + corners[2 * c + 1]!], at) // prettier-ignore
      }
    }
    const vertex = (ring: number, corner: number) => CORNERS * (start * rings + ring) + (corner % CORNERS)
    for (let k = 0; k < steps; k++)
      for (let c = 0; c < CORNERS; c++) {
        const [a, b, d, e] = [vertex(k, c), vertex(k + 1, c), vertex(k + 1, c + 1), vertex(k, c + 1)]
        triangles.push(a, b, d, a, d, e)
      }
    // The section is convex but for its foot, which a strip from side to side fills.
    for (const [a, b, c] of SECTION) {
      triangles.push(vertex(0, a), vertex(0, b), vertex(0, c))
      triangles.push(vertex(steps, a), vertex(steps, c), vertex(steps, b))
    }
  }
  // Mirrored, its faces would look inwards.
  if (hand === 'left')
    for (let i = 0; i < triangles.length; i += 3)
      [triangles[i + 1], triangles[i + 2]] = [triangles[i + 2]!, triangles[i + 1]!]
  return { positions, triangles: Uint32Array.from(triangles) }
}

/** Corners of the section: in the wall, where the flank begins, at the crest; below and above. */
const CORNERS = 6
const SECTION = [
  [0, 1, 4],
  [0, 4, 5],
  [1, 2, 3],
  [1, 3, 4],
] as const

/** How deep the feet lie inside the cylinder, mm: its sides lie within the circle. */
const sunkMm = (footRadius: number, sides: number) => 0.02 + 1.5 * sideError(footRadius, sides)

/** The flanks go on straight below the cylinder's surface until the ridges would meet; from there they go straight in. */
function buriedFoot(
  { root, slope }: ReturnType<typeof sectionOf>,
  foot: number,
  sunk: number,
  pitchMm: number,
) {
  const most = (pitchMm * (1 - APART)) / 2
  // Grown ridges may meet above the surface already: then what lies below belongs to the sleeve.
  const depth = slope > 0 ? Math.min(sunk, (most - root / 2) / slope) : sunk
  return { inner: foot - sunk - 0.01, bend: foot - depth, half: root / 2 + slope * depth }
}

const faded = (turnsFromEnd: number) => FADED + (1 - FADED) * Math.min(1, turnsFromEnd / FADE_TURNS)

/** Depth and heights of the section, grown square to its flanks. */
function sectionOf({ depthMm, crestMm, rootMm, clearanceMm: c }: Thread) {
  const slope = (rootMm - crestMm) / 2 / depthMm
  const flank = Math.hypot(1, slope)
  return {
    slope,
    depth: depthMm + c,
    crest: crestMm + 2 * c * (flank - slope),
    root: rootMm + 2 * c * flank,
  }
}

/**
 * Where grown ridges run into each other: the cylinder that they share, by its height from the origin; null where they keep
 * apart.
 */
export function threadSleeve(thread: Thread): { diameterMm: number; fromMm: number; toMm: number } | null {
  const { root, slope } = sectionOf(thread)
  const { diameterMm, pitchMm, starts, turns } = thread
  const above = slope > 0 ? (root - pitchMm * (1 - APART)) / 2 / slope : 0
  if (above <= 0) return null
  const beyond = pitchMm * starts * BEYOND + pitchMm / 2
  return { diameterMm: diameterMm + 2 * above, fromMm: -beyond, toMm: pitchMm * starts * turns + beyond }
}

function requireWindable({ diameterMm, pitchMm, depthMm, crestMm, rootMm, turns, starts }: Thread): void {
  const problem = !(diameterMm > 0 && pitchMm > 0 && depthMm > 0 && crestMm > 0 && turns > 0 && starts >= 1)
    ? 'Its ⌀, pitch, depth, crest and turns must be more than 0.'
    : rootMm < crestMm
      ? 'It would overhang: make its root at least as broad as its crest.'
      : rootMm > pitchMm
        ? 'Its turns would run into each other: make the root narrower than the pitch.'
        : depthMm >= diameterMm / 2
          ? 'It is deeper than its cylinder.'
          : null
  if (problem) throw new CoreError({ code: 'thread', message: problem })
}

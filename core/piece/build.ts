import { CoreError } from '../errors'
import { paintValues, type ValueAt } from '../measure/paint'
import { assemble, BODY, PLAIN_MAPPING, chordRuns, type Assembly, type PartProblem } from '../solid/assemble'
import type { Kernel, SurfaceRun } from '../solid/kernel'
import type { Mesh } from '../solid/mesh'
import { revolve, type Turn } from '../solid/revolve'
import { shadingBuffers, type ShadingBuffers } from '../solid/shading'
import { subdivided } from '../solid/catmull-clark'
import { creased } from '../solid/creased'
import { edgesOfPoly, trianglesOfPoly } from '../solid/poly-mesh'
import { cageMesh, type Cage } from './cage'
import type { SolidProfile } from './derive'
import { bodySurfaces, isAssembled, planAssembly, type Making, type Surface } from './plan-assembly'
import { zonedProfile } from './zones'

/** A solid as it is drawn and handed over. */
export interface BuiltSolid {
  /** `body`, or the id of a separate part. */
  id: string
  name: string
  buffers: ShadingBuffers
  /** Whose surface the triangles are, from an index on; what is cut open has the number after the last of them. */
  runs: SurfaceRun[]
  /** Edges to draw, [x y z x y z ...]; absent: those of the triangles, where wire is wanted. */
  edges?: Float32Array
  /** What its surface is painted by, one a vertex, mm; absent: nothing. */
  values?: Float32Array
}

export interface Build {
  solids: BuiltSolid[]
  /** By number. */
  surfaces: Surface[]
  problems: PartProblem[]
  /** What booleans made; null for a piece without parts. */
  assembly: Assembly | null
}

export interface BuildOptions {
  /** Needed when the piece has parts. */
  kernel?: Kernel
  /** Cut open for looking: the wedge that is taken out. */
  cutOpen?: Turn
  /** The mesh of quads in place of the body: subdivided so many times. */
  cage?: { cage: Cage; levels: number }
  /** With texture coordinates. */
  mapped?: boolean
  /** What the body's surface shows in colours. */
  paint?: ValueAt
  onStep?: (done: number, all: number) => void
}

/**
 * Builds all solids of a piece, as measured, before the finished size.
 * @throws CoreError `no-kernel` when there are parts and nothing to build them with
 */
export function build(document: Making, solid: SolidProfile, options: BuildOptions = {}): Build {
  if (options.cage) return buildCage(document, solid, options.cage)
  const built = isAssembled(document) ? buildAssembly(document, solid, options) : buildBody(document, solid, options) // prettier-ignore
  const [body, ...others] = built.solids
  if (!options.paint || !body) return built
  return {
    ...built,
    solids: [{ ...body, values: paintValues(body.buffers.positions, options.paint) }, ...others],
  }
}

function buildCage(
  document: Making,
  solid: SolidProfile,
  { cage, levels }: NonNullable<BuildOptions['cage']>,
): Build {
  const poly = subdivided(cageMesh(solid, cage), levels)
  const buffers = creased(trianglesOfPoly(poly))
  const body = {
    id: BODY,
    name: document.name,
    buffers,
    runs: [{ from: 0, surface: 0 }],
    edges: edgesOfPoly(poly),
  }
  return { solids: [body], surfaces: bodySurfaces(document, solid.flat), problems: [], assembly: null }
}

function buildBody(document: Making, solid: SolidProfile, options: BuildOptions): Build {
  const { sides } = document.solid
  const { flat, surfaces: chords } = zonedProfile(solid.flat, document.zones, solid.hollow)
  const surfaces = bodySurfaces(document, solid.flat)
  const turn = options.cutOpen ? rest(options.cutOpen) : (document.solid.turn ?? undefined)
  const mapping = options.mapped ? (document.solid.mapping ?? PLAIN_MAPPING) : undefined
  const buffers = shadingBuffers(flat, sides, turn, mapping)
  const runs = chordRuns(
    { flat, sides, turn, surfaces: chords },
    buffers,
    options.cutOpen ? surfaces.length : 0,
  )
  return {
    solids: [{ id: BODY, name: document.name, buffers, runs }],
    surfaces,
    problems: [],
    assembly: null,
  }
}

/** What is left of a full turn. */
const rest = ({ start, sweep }: Turn): Turn => ({ start: start + sweep, sweep: 2 * Math.PI - sweep })

function buildAssembly(
  document: Making,
  solid: SolidProfile,
  { kernel, cutOpen, onStep }: BuildOptions,
): Build {
  if (!kernel)
    throw new CoreError({
      code: 'no-kernel',
      message: 'The piece has parts, and what joins them could not be loaded. Reload, or hide the parts.',
    })
  const { plan, surfaces, problems } = planAssembly(document, solid)
  const assembly = assemble(kernel, { ...plan, cutOpen }, onStep)
  const nameOf = (id: string) => document.parts.find((p) => p.id === id)?.name ?? document.name
  return {
    solids: assembly.solids.map(({ id, buffers, runs }) => ({ id, name: nameOf(id), buffers, runs })),
    surfaces,
    problems: [...problems, ...assembly.problems],
    assembly,
  }
}

/** The closed mesh of each solid, one index a point. */
export function meshesOf(
  document: Making,
  solid: SolidProfile,
  { assembly }: Build,
): { id: string; mesh: Mesh }[] {
  if (assembly) return assembly.solids.map(({ id, mesh }) => ({ id, mesh }))
  const { sides, turn } = document.solid
  const { flat } = zonedProfile(solid.flat, document.zones, solid.hollow)
  return [{ id: BODY, mesh: revolve(flat.points, { sides, turn: turn ?? undefined }) }]
}

import { solveCalibration } from '../core/calibrate/calibrate'
import { newKnownSize } from '../core/calibrate/known-size'
import { toPicture, toPlane } from '../core/camera/view'
import { newPiece, type PieceDocument, type PiecePhoto } from '../core/piece/schema'
import type { ProfileNode } from '../core/profile/profile'
import { makeCamera } from './maker/camera'
import { contourOf, truthOf, type PhotoSpec } from './maker/photo'
import { chainOf, type Chain, type Op } from './maker/shape'

/** Arcs get a node at least every so many radians (50°), as a careful hand would set them. */
const ARC_PER_NODE = (50 * Math.PI) / 180

/**
 * Where the surface is so level that its outline lies far in front of the axis or behind it (sine of the azimuth),
 * nobody would click; the node is set at the ring's own side instead.
 */
const STEEPEST = 0.3

/**
 * The document of a finished demo piece, as a careful user would have made it on this photo: plumb line and known
 * height on the axis, nodes clicked on the visible outline. What the distant view gets wrong for a near camera is left in.
 */
export function finishedDocument(spec: PhotoSpec, photo: PiecePhoto): PieceDocument {
  const document = calibratedDocument(spec, photo)
  const { view } = solveCalibration(document.calibration, photo)
  const camera = makeCamera(spec.camera)
  const chain = chainOf(spec.shape)
  const outside = chainOf(spec.shape, true)
  const nodes: ProfileNode[] = []
  for (const { index, next } of nodePlaces(
    chain,
    spec.shape.ops.map(({ op }) => op),
  )) {
    const r = chain.r[index]!
    const z = chain.z[index]!
    const seen = index < outside.r.length ? contourOf(camera, outside, index, STEEPEST) : null
    const drawn = seen ? { x: seen[0], y: seen[1] } : toPicture(view, { x: r, z })
    const plane = toPlane(view, drawn)
    const before = nodes[nodes.length - 1]
    const beforeIndex = before ? Number(before.id.slice(1)) : 0
    nodes.push({
      id: `n${index}`,
      // What is level or upright is drawn so, by snapping to the node before.
      r: r === 0 ? 0 : before && chain.r[beforeIndex] === r ? before.r : plane.x,
      z: index === 0 ? 0 : before && chain.z[beforeIndex] === z ? before.z : plane.z,
      joint: isSmooth(chain, index) ? 'smooth' : 'corner',
      next,
      drawn,
    })
  }
  return { ...document, profile: { side: 'right', nodes } }
}

/** The same photo calibrated, with nothing drawn. */
export function calibratedDocument(spec: PhotoSpec, photo: PiecePhoto): PieceDocument {
  const truth = truthOf(spec)
  const [foot, top] = truth.axisPx.map(([x, y]) => ({ x, y }))
  const document = newPiece(spec.name, photo)
  document.calibration = {
    ...document.calibration,
    plumb: { foot: foot!, top: top!, by: 'hand' },
    ground: foot!,
    knownSizes: [
      newKnownSize({
        id: 'height',
        kind: 'overall',
        a: foot!,
        b: top!,
        mm: truth.height,
        text: `${truth.height} mm`,
        source: 'caliper',
      }),
    ],
  }
  return document
}

/** Indices of the chain where nodes stand, with the kind of the segment that follows each. */
function nodePlaces(chain: Chain, ops: Op[]): { index: number; next: ProfileNode['next'] }[] {
  const kindOf = (op: Op | undefined): ProfileNode['next'] => (!op || op.kind === 'line' ? 'line' : 'curve')
  const places = [{ index: 0, next: kindOf(ops[0]) }]
  let start = 0
  ops.forEach((op, k) => {
    let end = start
    while (end + 1 < chain.r.length && chain.op[end] === k) end++
    const parts =
      op.kind === 'line'
        ? 1
        : op.kind === 'cubic'
          ? 3
          : Math.max(2, Math.ceil((4 * Math.atan(Math.abs(op.bulge))) / ARC_PER_NODE))
    for (let i = 1; i < parts; i++)
      places.push({ index: Math.round(start + ((end - start) * i) / parts), next: 'curve' })
    places.push({ index: end, next: kindOf(ops[k + 1]) })
    start = end
  })
  return places
}

function isSmooth(chain: Chain, index: number): boolean {
  if (index === 0 || index >= chain.r.length - 1) {
    // A pole is round when the curve reaches it level.
    const k = index === 0 ? 0 : 2 * (index - 1)
    const normals = index === 0 ? chain.startNormal : chain.endNormal
    const chord = Math.hypot(chain.r[Math.max(1, index)]! - chain.r[Math.max(0, index - 1)]!, 0)
    return Math.abs(normals[k + 1]!) > 0.99 && chord < 3
  }
  const [a, b] = [2 * index - 2, 2 * index]
  return (
    chain.endNormal[a]! * chain.startNormal[b]! + chain.endNormal[a + 1]! * chain.startNormal[b + 1]! > 0.999
  )
}

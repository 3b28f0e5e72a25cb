import Module from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { isClosedAndOriented, meshVolume } from '../core/measure/mesh-measures'
import { build, meshesOf } from '../core/piece/build'
import { derive } from '../core/piece/derive'
import { newPart, PART_KINDS } from '../core/piece/new-part'
import type { PieceDocument } from '../core/piece/schema'
import { outerRadiusAt } from '../core/profile/at-height'
import type { Kernel } from '../core/solid/kernel'
import { finishedDocument } from './documents'
import { LAMP_ROOM, photoFileName } from './lamp-room'

let kernel: Kernel
beforeAll(async () => {
  kernel = await Module()
  kernel.setup()
})

/** Every kind of part that is added ready made; a turned one has to be drawn first. */
const KINDS = PART_KINDS.map((k) => k.kind).filter((kind) => kind !== 'turned')

describe('everything that can be made of the demo pieces', () => {
  it.each(LAMP_ROOM.map((spec) => [spec.name, spec] as const))(
    '%s: closed and oriented, or refused by name',
    (name, spec) => {
      const { width, height } = spec.camera
      const photo = { sha256: 'a'.repeat(64), fileName: photoFileName(name), mediaType: 'image/jpeg' as const, width, height, focalLength35mm: 50, quarterTurns: 0, crop: null } // prettier-ignore
      const plain = finishedDocument(spec, photo)
      const { measures, solid } = derive(plain)
      for (const sides of [15]) {
        const about = {
          lowestMm: measures!.lowestMm,
          highestMm: measures!.highestMm,
          maxRadiusMm: measures!.maxRadiusMm,
          radiusAt: (z: number) => outerRadiusAt(solid!.segments, z) ?? measures!.maxRadiusMm,
          sides,
          side: 'right' as const,
          fill: null,
        }
        for (const kind of KINDS) {
          const document: PieceDocument = { ...plain, solid: { sides }, parts: [newPart(kind, 'p', about)] }
          const built = build(document, solid!, { kernel })
          if (built.problems.length > 0) expect(built.problems[0]!.message).toContain(document.parts[0]!.name)
          for (const { mesh } of meshesOf(document, solid!, built)) {
            expect([kind, isClosedAndOriented(mesh)]).toEqual([kind, true])
            expect(meshVolume(mesh)).toBeGreaterThan(0)
          }
        }
      }
    },
  )
})

import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import { filledTo, fillRange, levelOf } from '../../../core/measure/capacity'
import { correctedBody } from '../../../core/measure/assembly-figures'
import { bodyQuantities, type Quantities } from '../../../core/measure/body'
import { standing, together } from '../../../core/measure/standing'
import { materialOf, WATER_DENSITY } from '../../../core/piece/materials'
import { vesselShare } from '../../../core/piece/plan-assembly'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { useBuild } from './use-build'

/** What a piece weighs and holds: of the exact curve, at the measured size; one computation for bar, panel and overlay. */
export const useVessel = createSharedComposable(() => {
  const bench = useBench()
  const piece = usePiece()
  const { built } = useBuild()
  const solid = computed(() => piece.wholeDerived.solid)
  /** Of each section of the round vessel, where it is squeezed; absent where it isn't. */
  const share = computed(() => vesselShare(piece.whole))
  /** A part of a turn, radians; absent: all round. */
  const turn = computed(() => piece.whole.solid.turn ?? null)
  /** What can be filled: a part of a turn is open at its flat ends. */
  const inside = computed(() => (turn.value ? null : (solid.value?.hollow?.inside ?? null)))
  const range = computed(() => (inside.value ? fillRange(inside.value) : null))
  const brim = computed(() =>
    inside.value ? filledTo(inside.value, range.value!.brimMm, share.value) : null,
  )

  /** What it is filled with: to a level, or with a volume, whichever was typed. */
  const filling = computed(() => {
    const wish = bench.filling
    if (!inside.value || !range.value || !brim.value || !wish) return null
    const { bottomMm, brimMm } = range.value
    if (wish.by === 'level')
      return filledTo(inside.value, Math.min(brimMm, Math.max(bottomMm, wish.mm)), share.value)
    return wish.mm3 < brim.value.volumeMm3 ? levelOf(inside.value, wish.mm3, share.value) : brim.value
  })

  const material = computed(() => materialOf(piece.whole.solid.material))
  /** The body as it is with its parts: volume, surface and centre of gravity. */
  const body = computed((): Quantities | null => {
    if (!solid.value) return null
    const exact = bodyQuantities(solid.value.segments, turn.value)
    const figures = built.value?.figures
    return figures ? correctedBody(exact, figures) : exact
  })
  /** Parts by themselves, each with what it weighs where its material is known. */
  const others = computed(() =>
    (built.value?.figures?.solids.slice(1) ?? []).map((figures) => {
      const part = piece.whole.parts.find((p) => p.id === figures.id)
      const own = materialOf(part?.material) ?? material.value
      const liquid = part?.shape.kind === 'filling' && !part.material
      const density = liquid ? WATER_DENSITY : (own?.density ?? null)
      const massG = density === null ? null : (density * figures.volumeMm3) / 1000
      return { name: part?.name ?? '', volumeMm3: figures.volumeMm3, massG, liquid }
    }),
  )
  const empty = computed(() =>
    body.value && material.value
      ? { massG: (material.value.density * body.value.volumeMm3) / 1000, centreMm: body.value.centre[2] }
      : null,
  )
  const full = computed(() => {
    const f = filling.value
    if (!empty.value || !f || f.volumeMm3 <= 0) return null
    const water = { massG: (f.volumeMm3 * WATER_DENSITY) / 1000, centreMm: f.momentMm4 / f.volumeMm3 }
    return together(empty.value, water)
  })
  /** Where it balances doesn't depend on the density, so that without a material it is known too. */
  const stands = computed(() => {
    if (!solid.value || !body.value) return null
    const [x, y, centreMm] = body.value.centre
    const aside = Math.hypot(x, y)
    const { segments } = solid.value
    return {
      centreMm,
      aside,
      alone: standing(segments, centreMm, aside, turn.value?.sweep),
      // What is filled in sits on the axis and brings the whole nearer to it.
      filled: full.value && empty.value ? standing(segments, full.value.centreMm, (aside * empty.value.massG) / full.value.massG) : null, // prettier-ignore
    }
  })
  /** Standard error of lengths from the calibration, as a share; null without one. */
  const uncertainty = computed(() => piece.wholeDerived.calibration.scale?.relativeSe ?? null)

  return {
    solid,
    body,
    turn,
    others,
    inside,
    range,
    brim,
    filling,
    material,
    empty,
    full,
    stands,
    share,
    uncertainty,
  }
})

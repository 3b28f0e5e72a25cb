import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import { filledTo, fillRange, levelOf } from '../../../core/measure/capacity'
import { bodyOf, standing, together } from '../../../core/measure/standing'
import { materialOf, WATER_DENSITY } from '../../../core/piece/materials'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** What a piece weighs and holds: of the exact curve, at the measured size; one computation for bar, panel and overlay. */
export const useVessel = createSharedComposable(() => {
  const bench = useBench()
  const piece = usePiece()
  const solid = computed(() => piece.derived.solid)
  const inside = computed(() => solid.value?.hollow?.inside ?? null)
  const range = computed(() => (inside.value ? fillRange(inside.value) : null))
  const brim = computed(() => (inside.value ? filledTo(inside.value, range.value!.brimMm) : null))

  /** What it is filled with: to a level, or with a volume, whichever was typed. */
  const filling = computed(() => {
    const wish = bench.filling
    if (!inside.value || !range.value || !brim.value || !wish) return null
    const { bottomMm, brimMm } = range.value
    if (wish.by === 'level') return filledTo(inside.value, Math.min(brimMm, Math.max(bottomMm, wish.mm)))
    return wish.mm3 < brim.value.volumeMm3 ? levelOf(inside.value, wish.mm3) : brim.value
  })

  const material = computed(() => materialOf(piece.document.solid.material))
  const empty = computed(() =>
    solid.value && material.value ? bodyOf(solid.value.segments, material.value.density) : null,
  )
  const full = computed(() => {
    const f = filling.value
    if (!empty.value || !f || f.volumeMm3 <= 0) return null
    const water = { massG: (f.volumeMm3 * WATER_DENSITY) / 1000, centreMm: f.momentMm4 / f.volumeMm3 }
    return together(empty.value, water)
  })
  /** Where it balances doesn't depend on the density, so that without a material it is known too. */
  const stands = computed(() => {
    if (!solid.value) return null
    const { centreMm } = bodyOf(solid.value.segments, 1)
    const alone = standing(solid.value.segments, centreMm)
    return {
      centreMm,
      alone,
      filled: full.value ? standing(solid.value.segments, full.value.centreMm) : null,
    }
  })
  /** Standard error of lengths from the calibration, as a share; null without one. */
  const share = computed(() => piece.derived.calibration.scale?.relativeSe ?? null)

  return { solid, inside, range, brim, filling, material, empty, full, stands, share }
})

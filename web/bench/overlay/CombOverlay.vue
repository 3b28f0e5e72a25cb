<script setup lang="ts">
import { computed } from 'vue'
import { formatLength } from '../../../core/units/format-length'
import { useView } from '../../composables/use-view'
import { usePiece } from '../../stores/piece'
import { useDeviation } from '../shape/use-deviation'
import CombTeeth from './CombTeeth.vue'

/** How far the outline lies from the curve, drawn across it and enlarged: a tooth a point. */
const props = defineProps<{ sign: number; width: number; height: number }>()
const piece = usePiece()
const view = useView()
const { deviation } = useDeviation()

/** The longest tooth on the screen, px; shorter deviations than these, mm, aren't worth more. */
const TOOTH_PX = 28
const LEAST_MM = 0.02

const comb = computed(() => {
  const d = deviation.value
  if (!d?.most) return null
  const { most } = d
  const tolerance = piece.document.outline?.fitMm ?? Infinity
  const scale = TOOTH_PX / Math.max(LEAST_MM, Math.abs(most.mm))
  const screen = ([r, z]: readonly [number, number]) => view.planeToScreen({ x: props.sign * r, z })
  let [within, beyond] = ['', '']
  for (const { r, z, mm, at } of d.points) {
    const a = screen(at)
    const b = screen([r, z])
    const length = Math.hypot(b.sx - a.sx, b.sy - a.sy)
    if (length < 1e-9) continue
    const k = (Math.abs(mm) * scale) / length
    const tooth = `M${a.sx.toFixed(1)} ${a.sy.toFixed(1)}l${(k * (b.sx - a.sx)).toFixed(1)} ${(k * (b.sy - a.sy)).toFixed(1)}`
    if (Math.abs(mm) <= tolerance) within += tooth
    else beyond += tooth
  }
  const at = screen(most.at)
  const words = `${formatLength(Math.abs(most.mm), { unit: piece.document.unit, fine: true })} ${most.mm > 0 ? 'outside' : 'inside'}`
  return { within, beyond, at, words }
})
</script>

<template>
  <CombTeeth
    v-if="comb"
    :rim="comb.within + comb.beyond"
    :at="comb.at"
    :words="comb.words"
    colour="var(--line-measured)"
    :width="width"
    :height="height"
    data-testid="comb"
  >
    <path class="within" :d="comb.within" />
    <path class="beyond" :d="comb.beyond" />
  </CombTeeth>
</template>

<style scoped>
path {
  fill: none;
  stroke-width: 1;
}
.within {
  stroke: var(--line-measured);
}
.beyond {
  stroke: var(--line-doubt);
  stroke-width: 1.6;
}
</style>

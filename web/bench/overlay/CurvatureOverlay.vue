<script setup lang="ts">
import { computed } from 'vue'
import { curvatureComb } from '../../../core/profile/curvature'
import { formatLength } from '../../../core/units/format-length'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import CombTeeth from './CombTeeth.vue'

/** How strongly the curve bends, drawn across it on the outer side of the bend: waves and steps show what isn't fair. */
const props = defineProps<{ sign: number; width: number; height: number }>()
const bench = useBench()
const piece = usePiece()
const view = useView()

/** The curvature that nine tenths of the teeth stay under is drawn this long, px; none longer than the second. */
const TOOTH_PX = 30
const LONGEST_PX = 60
const USUAL = 0.9

const comb = computed(() => {
  const runs = curvatureComb(piece.derived.segments.filter((s) => s.kind !== 'line'))
  const sizes = runs
    .flat()
    .map((t) => Math.abs(t.curvature))
    .sort((a, b) => a - b)
  const usual = sizes[Math.floor(USUAL * (sizes.length - 1))]
  if (!usual) return null
  let teeth = ''
  let rims = ''
  let tightest = { curvature: 0, at: { sx: 0, sy: 0 } }
  for (const run of runs)
    run.forEach(({ at, normal, curvature }, k) => {
      const px = Math.min(LONGEST_PX, (Math.abs(curvature) / usual) * TOOTH_PX) * Math.sign(curvature)
      const mm = px / bench.view.pxPerMm
      const foot = view.planeToScreen({ x: props.sign * at[0], z: at[1] })
      const tip = view.planeToScreen({
        x: props.sign * (at[0] - normal[0] * mm),
        z: at[1] - normal[1] * mm,
      })
      const end = `${tip.sx.toFixed(1)} ${tip.sy.toFixed(1)}`
      teeth += `M${foot.sx.toFixed(1)} ${foot.sy.toFixed(1)}L${end}`
      rims += `${k === 0 ? 'M' : 'L'}${end}`
      if (Math.abs(curvature) > tightest.curvature) tightest = { curvature: Math.abs(curvature), at: tip }
    })
  const words = `tightest: radius ${formatLength(1 / tightest.curvature, { unit: piece.document.unit })}`
  return { teeth, rims, at: tightest.at, words }
})
</script>

<template>
  <CombTeeth
    v-if="comb"
    :rim="comb.teeth + comb.rims"
    :at="comb.at"
    :words="comb.words"
    colour="var(--line-modelled)"
    :width="width"
    :height="height"
    data-testid="curvature-comb"
  >
    <path class="teeth" :d="comb.teeth" />
    <path class="envelope" :d="comb.rims" />
  </CombTeeth>
</template>

<style scoped>
path {
  fill: none;
  stroke: var(--line-modelled);
}
.teeth {
  stroke-width: 0.8;
  opacity: 0.8;
}
.envelope {
  stroke-width: 1.6;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { radiusAt } from '../../../core/measure/profile-measures'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import MarkLabel from './MarkLabel.vue'

/** The level under the pointer, drawn through a pane, with the ⌀ read at it. */
const props = defineProps<{
  width: number
  height: number
  axisX: number
  quiet?: boolean
  elevation?: number
  middleZ?: number
}>()
const bench = useBench()
const piece = usePiece()

const level = computed(() => {
  if (bench.level === null) return null
  const { groundY, pxPerMm } = bench.view
  const e = props.elevation ?? 0
  const zm = props.middleZ ?? 0
  // Seen from above a level is an ellipse about its place on the axis.
  const sy = groundY - zm * pxPerMm - (bench.level - zm) * Math.cos(e) * pxPerMm
  const r = piece.derived.solid ? radiusAt(piece.derived.solid.flat, bench.level) : null
  return { sy, r, half: (r ?? 0) * pxPerMm, ry: Math.abs((r ?? 0) * pxPerMm * Math.sin(e)), flat: e === 0 }
})
const text = computed(() => {
  const r = level.value?.r
  if (!r) return null
  return `⌀ ${formatLength(2 * r, { unit: piece.document.unit })}`
})
</script>

<template>
  <g v-if="level" class="level">
    <path v-if="level.flat" class="hair" :d="`M0 ${level.sy}H${width}`" />
    <ellipse v-else-if="level.r" class="hair" :cx="axisX" :cy="level.sy" :rx="level.half" :ry="level.ry" />
    <g v-if="level.r && level.flat">
      <path
        class="caliper"
        :d="`M${axisX - level.half} ${level.sy - 7}v14M${axisX + level.half} ${level.sy - 7}v14`"
      />
    </g>
    <MarkLabel
      v-if="text && !quiet"
      :sx="axisX + level.half"
      :sy="level.sy"
      :text="text"
      :pane-width="width"
      :pane-height="height"
      :dx="10"
      :dy="-15"
    />
  </g>
</template>

<style scoped>
.level {
  pointer-events: none;
}
.hair {
  fill: none;
  stroke: #2b2723;
  stroke-width: 1;
  stroke-opacity: 0.55;
  filter: drop-shadow(0 0 0.8px #fff);
}
.caliper {
  stroke: var(--line-modelled);
  stroke-width: 2.4;
  filter: drop-shadow(0 0 1px #fff);
}
</style>

<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'
import { formatLength } from '../../core/units/format-length'
import { MM_PER_UNIT, typedUnit } from '../../core/units/units'
import { useView } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'

/** The height scale both panes share: the same millimetre stands at the same screen height left and right. */
const props = defineProps<{ height: number; dimmed: boolean }>()
const bench = useBench()
const piece = usePiece()
const view = useView()

const scaled = computed(() => piece.derived.calibration.known.scale || !piece.document.photo)
const unitMm = computed(() => (scaled.value ? MM_PER_UNIT[typedUnit(piece.document.unit)] : 1))
const unitName = computed(() => (scaled.value ? typedUnit(piece.document.unit) : 'px'))
const ticks = computed(() => {
  if (props.height === 0) return []
  const k = unitMm.value
  const scale = scaleLinear().domain([view.screenToHeight(props.height) / k, view.screenToHeight(0) / k])
  const wanted = Math.max(2, props.height / 55)
  const format = scale.tickFormat(wanted)
  const major = new Set(scale.ticks(wanted).map((t) => format(t)))
  return scale.ticks(wanted * 5).map((t) => {
    const text = format(t)
    return {
      y: view.heightToScreen(t * k),
      text:
        major.has(text) && Math.abs(Number(text.replace('−', '-').replace(/,/g, '')) - t) < 1e-9 ? text : '',
      value: t,
    }
  })
})
const level = computed(() =>
  bench.level === null
    ? null
    : {
        y: view.heightToScreen(bench.level),
        text: scaled.value
          ? formatLength(bench.level, { unit: piece.document.unit, withUnit: false })
          : bench.level.toFixed(1),
      },
)
</script>

<template>
  <svg class="ruler" :class="{ dimmed }" width="56" :height="height" aria-hidden="true">
    <rect width="56" :height="height" class="strip" />
    <g v-for="tick in ticks" :key="tick.value">
      <path :d="`M56 ${tick.y}h${tick.text ? -12 : -6}`" />
      <text v-if="tick.text && tick.y > 22" x="40" :y="tick.y + 4">{{ tick.text }}</text>
    </g>
    <text class="unit" x="40" y="15">{{ unitName }}</text>
    <g v-if="level && !dimmed">
      <rect x="2" :y="level.y - 10" width="52" height="20" rx="4" class="now" />
      <text class="now-text" x="28" :y="level.y + 4.5">{{ level.text }}</text>
    </g>
  </svg>
</template>

<style scoped>
.ruler {
  position: absolute;
  inset: 0 auto 0 0;
  pointer-events: none;
}
.strip {
  fill: var(--paper);
  opacity: 0.94;
}
path {
  stroke: var(--ink-soft);
  stroke-width: 1;
}
text {
  fill: var(--ink-soft);
  font-size: 11.5px;
  text-anchor: end;
}
.unit {
  font-weight: 600;
}
.now {
  fill: var(--ink);
}
.now-text {
  fill: var(--paper);
  font-weight: 600;
  text-anchor: middle;
}
.dimmed path,
.dimmed text {
  opacity: 0.35;
}
</style>

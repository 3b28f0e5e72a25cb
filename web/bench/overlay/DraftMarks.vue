<script setup lang="ts">
import { computed } from 'vue'
import { ellipsePoints } from '../../../core/camera/ellipse-of'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { axisLineOf } from '../calibration-marks'
import type { CalibrationTools } from '../use-calibration-tools'
import { useDividers } from '../use-dividers'
import MarkLabel from './MarkLabel.vue'
import TwoTone from './TwoTone.vue'

/** What the tool in hand has so far, on to the pointer; and the dividers. */
const props = defineProps<{
  tools: CalibrationTools
  pointer: ScreenPoint | null
  width: number
  height: number
}>()
const bench = useBench()
const view = useView()
const dividers = useDividers()

const points = computed(() => {
  const set = props.tools.clicks.value.map((p) => view.pictureToScreen(p))
  return props.pointer && set.length > 0 ? [...set, props.pointer] : set
})
const path = computed(() => {
  const [a, b, c] = points.value
  if (!a || !b) return ''
  if (bench.tool === 'crop') return `M${a.sx} ${a.sy}H${b.sx}V${b.sy}H${a.sx}Z`
  if (bench.tool === 'ring' && c) {
    const axis = axisLineOf(view.frame.value)
    const [p, q, r] = [a, b, c].map((s) => view.screenToPicture(s)) as [
      { x: number; y: number },
      { x: number; y: number },
      { x: number; y: number },
    ]
    const along = (s: { x: number; y: number }) =>
      (s.x - axis.at.x) * axis.up.x + (s.y - axis.at.y) * axis.up.y
    const v0 = (along(p) + along(q)) / 2
    const ellipse = { v0, a: Math.hypot(p.x - q.x, p.y - q.y) / 2, b: Math.max(0.1, Math.abs(along(r) - v0)) }
    const outline = ellipsePoints(ellipse, axis, 60).map((s) => view.pictureToScreen(s))
    return `M${outline.map((s) => `${s.sx} ${s.sy}`).join('L')}Z`
  }
  return `M${points.value.map((p) => `${p.sx} ${p.sy}`).join('L')}`
})
const colour = computed(() =>
  bench.tool === 'size' || bench.tool === 'dividers' ? 'var(--line-known)' : 'var(--line-measured)',
)
const held = computed(() => {
  const d = bench.dividers
  if (!d || !dividers.value) return null
  const a = view.pictureToScreen(d.a)
  const b = view.pictureToScreen(d.b)
  return { d: `M${a.sx} ${a.sy}L${b.sx} ${b.sy}`, a, b, text: dividers.value.short }
})
</script>

<template>
  <g class="draft">
    <TwoTone v-if="path" :d="path" :colour="colour" :width="1.6" dash="6 4" />
    <circle
      v-for="(p, i) in tools.clicks.value.map((q) => view.pictureToScreen(q))"
      :key="i"
      :cx="p.sx"
      :cy="p.sy"
      r="4"
      class="set"
      :style="{ stroke: colour }"
    />
    <g v-if="held">
      <TwoTone :d="held.d" colour="var(--line-known)" :width="1.6" />
      <path
        :d="`M${held.a.sx - 5} ${held.a.sy}h10m-5 -5v10M${held.b.sx - 5} ${held.b.sy}h10m-5 -5v10`"
        class="point"
      />
      <MarkLabel
        :sx="(held.a.sx + held.b.sx) / 2"
        :sy="(held.a.sy + held.b.sy) / 2"
        :text="held.text"
        colour="var(--line-known)"
        :pane-width="width"
        :pane-height="height"
        data-testid="dividers"
      />
    </g>
  </g>
</template>

<style scoped>
.draft {
  pointer-events: none;
}
.set {
  fill: rgb(255 255 255 / 0.7);
  stroke-width: 1.8;
}
.point {
  stroke: var(--line-known);
  stroke-width: 1.6;
}
</style>

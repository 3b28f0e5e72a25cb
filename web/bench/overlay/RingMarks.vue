<script setup lang="ts">
import { computed } from 'vue'
import type { Calibration } from '../../../core/calibrate/calibration'
import { ellipseOf, ellipsePoints } from '../../../core/camera/ellipse-of'
import { useView } from '../../composables/use-view'
import { axisLineOf } from '../calibration-marks'
import TwoTone from './TwoTone.vue'

/** Rings of the piece as ellipses on the photo, with the points they were found by. */
const props = defineProps<{ calibration: Calibration }>()
const view = useView()
const rings = computed(() =>
  props.calibration.rings.flatMap((ring) => {
    const axis = axisLineOf(view.frame.value)
    const ellipse = ellipseOf(ring.points, axis)
    if (!ellipse) return []
    const outline = ellipsePoints(ellipse, axis, 90).map((p) => view.pictureToScreen(p))
    const dots = ring.by === 'found' ? ring.points.map((p) => view.pictureToScreen(p)) : []
    return [
      {
        id: ring.id,
        d: `M${outline.map((p) => `${p.sx.toFixed(1)} ${p.sy.toFixed(1)}`).join('L')}Z`,
        dots,
      },
    ]
  }),
)
</script>

<template>
  <g v-for="ring in rings" :key="ring.id">
    <TwoTone :d="ring.d" colour="var(--line-measured)" :width="1.4" dash="7 4" />
    <circle v-for="(p, i) in ring.dots" :key="i" :cx="p.sx" :cy="p.sy" r="1.6" class="dot" />
  </g>
</template>

<style scoped>
.dot {
  fill: var(--line-measured);
  stroke: rgb(255 255 255 / 0.9);
  stroke-width: 0.8;
}
</style>

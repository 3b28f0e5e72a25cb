<script setup lang="ts">
import { computed } from 'vue'
import { radiusAt } from '../../../core/measure/profile-measures'
import { ringOutline } from '../../../core/camera/view'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { useView } from '../../composables/use-view'
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
const view = useView()

const level = computed(() => {
  if (bench.level === null) return null
  const z = bench.level
  const r = piece.derived.solid ? radiusAt(piece.derived.solid.flat, z) : null
  const e = props.elevation ?? 0
  if (e === 0) {
    // As the photo's camera sees it: a line from afar, an ellipse from near.
    const sy = view.heightToScreen(z)
    const ring = r && view.seen.value.kind === 'near' ? ringPath(r, z) : null
    const left = r ? view.planeToScreen({ x: -r, z }, props.axisX) : null
    const right = r ? view.planeToScreen({ x: r, z }, props.axisX) : null
    return { sy, r, ring, left, right, ellipse: null }
  }
  // A turned solid is drawn by parallel rays: an ellipse about its place on the axis.
  const { groundY, pxPerMm } = bench.view
  const zm = props.middleZ ?? 0
  const sy = groundY - zm * pxPerMm - (z - zm) * Math.cos(e) * pxPerMm
  const rx = (r ?? 0) * pxPerMm
  return {
    sy,
    r,
    ring: null,
    left: null,
    right: { sx: props.axisX + rx, sy },
    ellipse: { rx, ry: Math.abs(rx * Math.sin(e)) },
  }
})
function ringPath(r: number, z: number): string {
  const points = ringOutline(view.seen.value, r, z).map((p) => view.pictureToScreen(p, props.axisX))
  return `M${points.map(({ sx, sy }) => `${sx.toFixed(1)} ${sy.toFixed(1)}`).join('L')}Z`
}
const text = computed(() => {
  const r = level.value?.r
  if (!r) return null
  return `⌀ ${formatLength(2 * r, { unit: piece.document.unit })}`
})
</script>

<template>
  <g v-if="level" class="level">
    <path v-if="!level.ellipse" class="hair" :d="`M0 ${level.sy}H${width}`" :class="{ faint: level.ring }" />
    <path v-if="level.ring" class="hair" :d="level.ring" />
    <ellipse
      v-if="level.ellipse && level.r"
      class="hair"
      :cx="axisX"
      :cy="level.sy"
      :rx="level.ellipse.rx"
      :ry="level.ellipse.ry"
    />
    <path
      v-if="level.left && level.right"
      class="caliper"
      :d="`M${level.left.sx} ${level.left.sy - 7}v14M${level.right.sx} ${level.right.sy - 7}v14`"
    />
    <MarkLabel
      v-if="text && !quiet && level.right"
      :sx="level.right.sx"
      :sy="level.right.sy"
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
.faint {
  stroke-opacity: 0.22;
}
.caliper {
  stroke: var(--line-modelled);
  stroke-width: 2.4;
  filter: drop-shadow(0 0 1px #fff);
}
</style>

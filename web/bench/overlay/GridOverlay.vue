<script setup lang="ts">
import { computed } from 'vue'
import { formatLength } from '../../../core/units/format-length'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** The grid that nodes snap to, in height and in radius, with its step. */
const props = defineProps<{ width: number; height: number }>()
const bench = useBench()
const piece = usePiece()
const view = useView()

/** Lines nearer to each other than this only darken the photo, px: then every second, fifth, tenth … is drawn. */
const LEAST_PX = 9
const COARSER = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000]

const grid = computed(() => {
  const step = bench.gridMm
  const every = COARSER.find((k) => k * step * bench.view.pxPerMm >= LEAST_PX)
  if (!(step > 0) || !every) return null
  const drawn = every * step
  const corners = [0, props.width].flatMap((sx) =>
    [0, props.height].map((sy) => view.screenToPlane({ sx, sy })),
  )
  const range = (values: number[]) => [
    Math.ceil(Math.min(...values) / drawn),
    Math.floor(Math.max(...values) / drawn),
  ]
  const xs = corners.map((c) => c.x)
  const zs = corners.map((c) => c.z)
  let d = ''
  const line = (a: { x: number; z: number }, b: { x: number; z: number }) => {
    const [p, q] = [view.planeToScreen(a), view.planeToScreen(b)]
    d += `M${p.sx.toFixed(1)} ${p.sy.toFixed(1)}L${q.sx.toFixed(1)} ${q.sy.toFixed(1)}`
  }
  const [x0, x1] = range(xs) as [number, number]
  for (let k = x0; k <= x1; k++)
    line({ x: k * drawn, z: Math.min(...zs) }, { x: k * drawn, z: Math.max(...zs) })
  const [z0, z1] = range(zs) as [number, number]
  for (let k = z0; k <= z1; k++)
    line({ x: Math.min(...xs), z: k * drawn }, { x: Math.max(...xs), z: k * drawn })
  const length = (mm: number) => formatLength(mm, { unit: piece.document.unit })
  const words = `grid ${length(step)}${every > 1 ? `, each ${every}th line drawn` : ''}`
  return { d, words }
})
</script>

<template>
  <g v-if="grid" class="grid" data-testid="grid">
    <path class="halo" :d="grid.d" />
    <path :d="grid.d" />
    <text :x="10" :y="height - 10">{{ grid.words }}</text>
  </g>
</template>

<style scoped>
.grid {
  pointer-events: none;
}
path {
  fill: none;
  stroke: rgb(43 39 35 / 0.22);
  stroke-width: 0.8;
}
.halo {
  stroke: rgb(251 249 245 / 0.16);
  stroke-width: 2;
}
text {
  fill: #2b2723;
  stroke: #fbf9f5;
  stroke-width: 3;
  paint-order: stroke;
  font-size: 12px;
}
</style>

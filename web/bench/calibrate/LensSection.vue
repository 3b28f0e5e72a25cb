<script setup lang="ts">
import { Button as AButton, InputNumber as AInputNumber } from 'ant-design-vue'
import { computed } from 'vue'
import { fitLens, TRUSTED_BOW } from '../../../core/camera/lens'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import type { CalibrationTools } from '../use-calibration-tools'

/** Radial distortion, by edges that are straight in reality, or typed. */
const props = defineProps<{ tools: CalibrationTools | null }>()
const bench = useBench()
const piece = usePiece()
const view = useView()
const lens = computed(() => piece.document.calibration.lens)
const fit = computed(() => {
  const { photo } = piece.document
  if (!lens.value?.edges.length || !photo) return null
  try {
    const centre = { x: photo.width / 2, y: photo.height / 2 }
    return fitLens(lens.value.edges, { unitPx: lens.value.unitPx, centre })
  } catch {
    return null
  }
})
const trusted = computed(() => fit.value && Math.abs(fit.value.lens.k1) > TRUSTED_BOW * fit.value.sdK1)
const defaultUnit = () => {
  const { photo } = piece.document
  return view.focal.value?.px ?? Math.hypot(photo?.width ?? 1000, photo?.height ?? 1000) / 2
}
function type(k: 'k1' | 'k2', value: unknown) {
  if (typeof value !== 'number') return
  const old = lens.value ?? { k1: 0, k2: 0, unitPx: defaultUnit(), edges: [] }
  piece.dispatch({ type: 'set-lens', lens: { ...old, [k]: value, by: 'typed' } })
}
function removeEdge(i: number) {
  const edges = lens.value!.edges.filter((_, k) => k !== i)
  if (edges.length) props.tools?.refitLens(edges)
  else piece.dispatch({ type: 'set-lens', lens: null })
}
const toggle = () => (bench.tool = bench.tool === 'lens' ? 'none' : 'lens')
</script>

<template>
  <p class="soft">
    Straight things near the border that show bent: mark five or more points along a shelf, a door frame or a
    ruler.
  </p>
  <div class="row">
    <AButton size="small" :type="bench.tool === 'lens' ? 'primary' : 'default'" @click="toggle"
      >Mark a straight edge</AButton
    >
    <AButton v-if="bench.tool === 'lens'" size="small" @click="tools?.endEdge()">End this edge</AButton>
  </div>
  <ul v-if="lens?.edges.length">
    <li v-for="(edge, i) in lens.edges" :key="i">
      Edge {{ i + 1 }}, {{ edge.length }} marks
      <AButton size="small" type="text" @click="removeEdge(i)">Remove</AButton>
    </li>
  </ul>
  <p v-if="fit" :class="trusted ? 'soft' : 'doubt'">
    Bow {{ fit.bowPx.toFixed(1) }} px, {{ fit.rmsPx.toFixed(2) }} px left. k1 {{ fit.lens.k1.toFixed(4) }} ±
    {{ fit.sdK1.toFixed(4)
    }}<template v-if="!trusted"
      >; that could as well be chance, so mark longer edges nearer to the border</template
    >.
  </p>
  <label v-for="k in ['k1', 'k2'] as const" :key="k"
    ><span>{{ k }}</span
    ><AInputNumber
      :value="lens?.[k] ?? 0"
      :step="0.01"
      size="small"
      :aria-label="`Distortion ${k}`"
      @change="(v: unknown) => type(k, v)"
  /></label>
  <p class="soft small">
    Brown-Conrady, radius in
    {{
      lens && Math.abs(lens.unitPx - (view.focal.value?.px ?? 0)) < 1
        ? 'focal lengths'
        : 'half diagonals unless the focal length is known'
    }}; negative is barrel.
  </p>
  <AButton v-if="lens" size="small" @click="piece.dispatch({ type: 'set-lens', lens: null })"
    >No distortion</AButton
  >
</template>

<style scoped>
label {
  display: grid;
  grid-template-columns: 84px 110px;
  align-items: center;
}
label span:first-child {
  color: var(--ink-soft);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.small {
  font-size: 12.5px;
}
.doubt {
  color: var(--doubt);
}
</style>

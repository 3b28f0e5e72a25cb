<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, onBeforeUnmount } from 'vue'
import type { Part } from '../../../core/piece/schema'
import ChoiceRow from '../../common/ChoiceRow.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import PieceLength from '../shape/PieceLength.vue'
import { useFitting } from './use-fitting'

/** The points of a fitting, drawn and dragged over the photo, each typed as well. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const piece = usePiece()
const fitting = useFitting()
bench.fitting = props.part.id
onBeforeUnmount(() => {
  bench.fitting = null
  if (bench.tool === 'fitting') bench.tool = 'none'
})

const shape = computed(() => fitting.shape.value)
const points = computed((): { x: number; z: number; mm?: number }[] => [...(shape.value?.points ?? [])])
const set = (index: number, change: { x?: number; z?: number; mm?: number }) =>
  fitting.set(points.value.map((p, k) => (k === index ? { ...p, ...change } : p)))
const change = (value: Part['shape']) =>
  piece.dispatch({ type: 'set-part', part: { ...props.part, shape: value } })
const ENDS = [
  { value: 'flat', text: 'flat' },
  { value: 'round', text: 'round' },
] as const
const OUTLINES = [
  { value: 'straight', text: 'straight' },
  { value: 'smooth', text: 'smooth' },
] as const
</script>

<template>
  <template v-if="shape">
    <div class="row">
      <AButton
        size="small"
        :type="bench.tool === 'fitting' ? 'primary' : 'default'"
        :aria-pressed="bench.tool === 'fitting'"
        data-testid="draw-fitting"
        @click="bench.tool = bench.tool === 'fitting' ? 'none' : 'fitting'"
        >{{ bench.tool === 'fitting' ? 'Drawing' : 'Draw on' }}</AButton
      >
      <AButton size="small" @click="fitting.set([])">Draw it anew</AButton>
    </div>
    <details>
      <summary>{{ points.length }} points</summary>
      <div v-for="(p, i) in points" :key="i" class="point">
        <PieceLength :label="`${i + 1}: from axis`" :value-mm="p.x" signed @commit="(x) => set(i, { x })" />
        <PieceLength label="height" :value-mm="p.z" signed @commit="(z) => set(i, { z })" />
        <PieceLength v-if="p.mm !== undefined" label="⌀" :value-mm="p.mm" @commit="(mm) => set(i, { mm })" />
        <AButton size="small" @click="fitting.set(points.filter((_, k) => k !== i))">Remove point</AButton>
      </div>
    </details>
    <ChoiceRow
      v-if="shape.kind === 'tube'"
      label="Its ends"
      :value="shape.ends"
      :choices="ENDS"
      @choose="(ends) => shape?.kind === 'tube' && change({ ...shape, ends })"
    />
    <ChoiceRow
      v-else
      label="Outline"
      :value="shape.smooth ? 'smooth' : 'straight'"
      :choices="OUTLINES"
      @choose="(v) => shape?.kind === 'plate' && change({ ...shape, smooth: v === 'smooth' })"
    />
  </template>
</template>

<style scoped>
.point {
  display: grid;
  gap: 4px;
  justify-items: stretch;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
.point .ant-btn {
  justify-self: start;
}
</style>

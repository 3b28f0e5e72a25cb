<script setup lang="ts">
import { computed } from 'vue'
import { usePiece } from '../stores/piece'
import { useVessel } from './solid/use-vessel'
import { formatVolume, useFigures } from './use-figures'

/** The figures of the piece, always in view below the panes. */
const piece = usePiece()
const figures = useFigures()
const { brim } = useVessel()
const scale = computed(() => {
  const { calibration } = piece.derived
  return calibration.known.scale ? `${calibration.frame.mmPerPx.toPrecision(4)} mm` : 'no scale yet'
})
const items = computed(() => {
  const f = figures.value
  return [
    { name: 'Height', value: f?.height ?? '–', id: 'height' },
    { name: 'Largest ⌀', value: f?.diameter ?? '–', note: f ? `at ${f.at}` : '', id: 'diameter' },
    { name: brim.value ? 'Material' : 'Volume', value: f?.volume ?? '–', id: 'volume' },
    // One line: what a hollow piece holds stands in place of its surface, which Check shows.
    brim.value && f?.scaled
      ? { name: 'Holds', value: formatVolume(brim.value.volumeMm3, piece.document.unit), id: 'holds' }
      : { name: 'Surface', value: f?.area ?? '–', id: 'area' },
    { name: '1 px', value: scale.value, id: 'scale' },
  ]
})
</script>

<template>
  <dl class="bar">
    <div v-for="item in items" :key="item.name">
      <dt>{{ item.name }}</dt>
      <dd :data-testid="`measure-${item.id}`">
        {{ item.value }} <span v-if="item.note" class="soft">{{ item.note }}</span>
      </dd>
    </div>
  </dl>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  margin: 0;
  padding: 7px 12px;
  font-size: 13px;
  border-top: 1px solid var(--rule);
  background: var(--paper);
}
.bar div {
  display: flex;
  gap: 6px;
  white-space: nowrap;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-weight: 600;
}
dd .soft {
  font-weight: 400;
}
</style>

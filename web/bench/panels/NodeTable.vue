<script setup lang="ts">
import { nextTick, watch } from 'vue'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** All nodes from first to last, in step with the drawing: select in one, seen in the other. */
const bench = useBench()
const piece = usePiece()
const show = (mm: number) => formatLength(mm, { unit: piece.document.unit, withUnit: false })
watch(
  () => [...bench.selected].at(-1),
  async (id) => {
    await nextTick()
    if (id) document.querySelector(`[data-row="${CSS.escape(id)}"]`)?.scrollIntoView({ block: 'nearest' })
  },
)
</script>

<template>
  <div class="scroll" tabindex="0" role="group" aria-label="Nodes">
    <table>
      <thead>
        <tr>
          <th scope="col">#</th>
          <th scope="col" class="figure">⌀</th>
          <th scope="col" class="figure">Height</th>
          <th scope="col">Joint</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(node, i) in piece.document.profile.nodes"
          :key="node.id"
          :data-row="node.id"
          :class="{ selected: bench.selected.has(node.id) }"
          @click="bench.select(node.id)"
        >
          <td>{{ i + 1 }}</td>
          <td class="figure">{{ node.r === 0 ? 'axis' : show(2 * node.r) }}</td>
          <td class="figure">{{ show(node.z) }}</td>
          <td class="soft">{{ node.joint === 'corner' ? '◻ corner' : '○ smooth' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  max-height: 232px;
  overflow-y: auto;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 13px;
}
th {
  position: sticky;
  top: 0;
  background: var(--paper);
  color: var(--ink-soft);
  font-weight: 500;
  text-align: left;
}
th,
td {
  padding: 3px 8px;
}
.figure {
  text-align: right;
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: color-mix(in srgb, var(--ink) 5%, transparent);
}
tr.selected {
  background: color-mix(in srgb, var(--modelled) 18%, transparent);
}
</style>

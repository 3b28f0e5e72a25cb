<script setup lang="ts">
import { useScroll } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { ProfileNode } from '../../../core/profile/profile'
import { segmentLength } from '../../../core/profile/segment-measures'
import { sharpSegments } from '../../../core/profile/segments'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** All nodes from first to last, in step with the drawing: select in one, seen in the other. */
const bench = useBench()
const piece = usePiece()
const show = (mm: number) => formatLength(mm, { unit: piece.document.unit, withUnit: false })
const segments = computed(() => new Map(sharpSegments(piece.document.profile.nodes).map((s) => [s.index, s])))
const SIGNS = { line: '╱', arc: '◠', curve: '∿' } as const

function jointWords(node: ProfileNode): string {
  if (!node.edge) return node.joint === 'corner' ? '◻' : '○'
  const size = formatLength(node.edge.mm, { unit: piece.document.unit, withUnit: false })
  return node.edge.kind === 'fillet' ? `◝ ${size}` : `◸ ${size}`
}
function segmentWords(node: ProfileNode, index: number): string {
  const sign = node.way === 'level' ? '─' : node.way === 'upright' ? '│' : SIGNS[node.next]
  const segment = segments.value.get(index)
  return segment ? `${sign} ${show(segmentLength(segment))}` : sign
}
/** With Shift all rows from the last chosen one, with Ctrl one more. */
function choose(id: string, event: MouseEvent) {
  const ids = piece.document.profile.nodes.map((n) => n.id)
  const last = [...bench.selected].at(-1)
  if (event.shiftKey && last) {
    const [a, b] = [ids.indexOf(last), ids.indexOf(id)].sort((p, q) => p - q) as [number, number]
    bench.selected = new Set([...bench.selected, ...ids.slice(a, b + 1)])
  } else if (event.ctrlKey || event.metaKey) bench.selected = new Set([...bench.selected, id])
  else bench.select(id)
}
/** Height of a row, px; of more than a few nodes only so many rows are drawn above and below those in sight. */
const ROW_PX = 27
const FEW = 80
const BEYOND = 6
const box = ref<HTMLElement | null>(null)
const { y } = useScroll(box)
const drawn = computed(() => {
  const { nodes } = piece.document.profile
  const few = nodes.length <= FEW
  const from = few ? 0 : Math.max(0, Math.floor(y.value / ROW_PX) - BEYOND)
  const to = few ? nodes.length : Math.min(nodes.length, from + 2 * BEYOND + Math.ceil(HEIGHT_PX / ROW_PX))
  return {
    rows: nodes.slice(from, to).map((node, k) => ({ node, i: from + k })),
    above: from * ROW_PX,
    below: (nodes.length - to) * ROW_PX,
  }
})
const HEIGHT_PX = 232
// The row of what is chosen comes into sight; of what is taken in hand when it is let go, since that lays the page out.
watch([() => [...bench.selected].at(-1), () => bench.dragging], ([id, dragging]) => {
  if (dragging || !id) return
  const row = piece.document.profile.nodes.findIndex((n) => n.id === id) * ROW_PX
  if (row < 0 || !box.value) return
  // The header covers the first row's height.
  if (row < box.value.scrollTop) box.value.scrollTop = row
  else if (row + 2 * ROW_PX > box.value.scrollTop + HEIGHT_PX) box.value.scrollTop = row + 2 * ROW_PX - HEIGHT_PX // prettier-ignore
})
</script>

<template>
  <div ref="box" class="scroll" tabindex="0" role="group" aria-label="Nodes">
    <table>
      <thead>
        <tr>
          <th scope="col">#</th>
          <th scope="col" class="figure">⌀</th>
          <th scope="col" class="figure">Height</th>
          <th scope="col">Joint</th>
          <th scope="col">Then</th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="drawn.above" :style="{ height: `${drawn.above}px` }" aria-hidden="true" />
        <tr
          v-for="{ node, i } in drawn.rows"
          :key="node.id"
          :data-row="node.id"
          :class="{ selected: bench.selected.has(node.id) }"
          @click="choose(node.id, $event)"
        >
          <td>{{ i + 1 }}</td>
          <td class="figure">{{ node.r === 0 ? 'axis' : show(2 * node.r) }}</td>
          <td class="figure">{{ show(node.z) }}</td>
          <td class="soft">{{ jointWords(node) }}</td>
          <td class="soft">{{ i + 1 < piece.document.profile.nodes.length ? segmentWords(node, i) : '' }}</td>
        </tr>
        <tr v-if="drawn.below" :style="{ height: `${drawn.below}px` }" aria-hidden="true" />
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
  height: 27px;
  /* Shift chooses rows, not their text. */
  user-select: none;
  cursor: pointer;
}
tbody tr:hover {
  background: color-mix(in srgb, var(--ink) 5%, transparent);
}
tr.selected {
  background: color-mix(in srgb, var(--modelled) 18%, transparent);
}
</style>

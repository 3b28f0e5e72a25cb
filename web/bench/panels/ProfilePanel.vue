<script setup lang="ts">
import { Button as AButton, RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'
import { computed } from 'vue'
import LengthField from '../../common/LengthField.vue'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import NodeTable from './NodeTable.vue'
import PanelFrame from './PanelFrame.vue'

const bench = useBench()
const piece = usePiece()
const emit = defineEmits<{ next: [] }>()

const nodes = computed(() => piece.document.profile.nodes)
const chosen = computed(() =>
  bench.selected.size === 1 ? nodes.value.find((n) => bench.selected.has(n.id)) : undefined,
)
const chosenIndex = computed(() => nodes.value.findIndex((n) => n.id === chosen.value?.id))
const isEnd = computed(() => chosenIndex.value === 0 || chosenIndex.value === nodes.value.length - 1)
const open = computed(() => piece.derived.openEnds)
const openWords = computed(() =>
  open.value.map(
    (e) =>
      `The profile is open at the ${e.place}: its end lies ${formatLength(e.gapMm, { unit: piece.document.unit })} from the axis.`,
  ),
)

function typed(coordinate: 'r' | 'z', mm: number) {
  if (chosen.value) piece.dispatch({ type: 'type-coordinate', id: chosen.value.id, coordinate, mm })
}
function close() {
  piece.dispatch({ type: 'close-profile', ids: [newId(), newId()] })
  bench.tool = 'none'
}
function clear() {
  piece.dispatch({ type: 'clear-profile' })
  bench.select()
}
function remove() {
  piece.dispatch({ type: 'delete-nodes', ids: [...bench.selected] })
  bench.select()
}
</script>

<template>
  <PanelFrame
    title="Half-profile"
    lead="One side only: from the axis at the foot, out and up, to the axis or the rim at the top."
  >
    <div class="row">
      <AButton
        :type="bench.tool === 'pen' ? 'primary' : 'default'"
        :aria-pressed="bench.tool === 'pen'"
        @click="bench.tool = bench.tool === 'pen' ? 'none' : 'pen'"
        >{{ bench.tool === 'pen' ? 'Drawing' : nodes.length ? 'Draw on' : 'Draw' }}</AButton
      >
      <ARadioGroup v-model:value="bench.penKind" aria-label="Kind of the next segment">
        <ARadioButton value="line">Lines</ARadioButton>
        <ARadioButton value="curve">Curves</ARadioButton>
      </ARadioGroup>
    </div>
    <div v-if="open.length" class="open">
      <p v-for="words in openWords" :key="words" role="status">{{ words }}</p>
      <AButton size="small" @click="close">Close it straight to the axis</AButton>
    </div>
    <p v-for="fault in piece.derived.faults" :key="fault.code" class="doubt" role="alert">
      {{ fault.message }}
    </p>

    <section v-if="chosen" class="chosen">
      <h3>Node {{ chosenIndex + 1 }}</h3>
      <LengthField
        label="⌀"
        :value-mm="2 * chosen.r"
        :unit="piece.document.unit"
        :disabled="chosen.r === 0"
        @commit="(mm) => typed('r', mm / 2)"
      />
      <LengthField
        label="Height"
        :value-mm="chosen.z"
        :unit="piece.document.unit"
        :min-mm="-100000"
        @commit="(mm) => typed('z', mm)"
      />
      <p v-if="chosen.r === 0" class="soft">On the axis, exactly.</p>
      <div v-else class="pair">
        <span class="name">Joint</span>
        <ARadioGroup
          size="small"
          :value="chosen.joint"
          aria-label="Joint"
          @update:value="(joint) => piece.dispatch({ type: 'set-joint', id: chosen!.id, joint })"
        >
          <ARadioButton value="corner">corner</ARadioButton>
          <ARadioButton value="smooth">smooth</ARadioButton>
        </ARadioGroup>
      </div>
      <div v-if="chosen.r === 0 && isEnd" class="pair">
        <span class="name">Pole</span>
        <ARadioGroup
          size="small"
          :value="chosen.joint"
          aria-label="Pole"
          @update:value="(joint) => piece.dispatch({ type: 'set-joint', id: chosen!.id, joint })"
        >
          <ARadioButton value="corner">pointed</ARadioButton>
          <ARadioButton value="smooth">round</ARadioButton>
        </ARadioGroup>
      </div>
      <div v-if="chosenIndex < nodes.length - 1" class="pair">
        <span class="name">Next is a</span>
        <ARadioGroup
          size="small"
          :value="chosen.next"
          aria-label="Following segment"
          @update:value="(next) => piece.dispatch({ type: 'set-segment', id: chosen!.id, next })"
        >
          <ARadioButton value="line">line</ARadioButton>
          <ARadioButton value="curve">curve</ARadioButton>
        </ARadioGroup>
      </div>
      <AButton size="small" @click="remove">Delete node</AButton>
    </section>
    <p v-else-if="nodes.length && bench.tool !== 'pen'" class="soft">
      Drag a node, or press on the curve to insert one. Arrow keys nudge by 0.1 mm, with Shift by 1 mm.
    </p>

    <NodeTable v-if="nodes.length" />
    <div v-if="nodes.length" class="row">
      <ARadioGroup
        size="small"
        :value="piece.document.profile.side"
        aria-label="Drawn side"
        @update:value="(side) => piece.dispatch({ type: 'set-side', side })"
      >
        <ARadioButton value="left">left side</ARadioButton>
        <ARadioButton value="right">right side</ARadioButton>
      </ARadioGroup>
      <AButton size="small" @click="clear">Clear</AButton>
    </div>
    <AButton v-if="piece.derived.solid && !open.length" type="primary" @click="emit('next')"
      >To the solid</AButton
    >
  </PanelFrame>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  justify-content: space-between;
}
.open {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 10px 12px;
  border: 1px dashed var(--doubt);
  border-radius: 6px;
  color: var(--doubt);
}
.doubt {
  color: var(--doubt);
}
.chosen {
  display: grid;
  gap: 8px;
  padding: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
  justify-items: stretch;
}
.chosen > .ant-btn {
  justify-self: start;
}
.pair {
  display: grid;
  grid-template-columns: 84px 1fr;
  align-items: center;
  gap: 8px;
}
.name {
  color: var(--ink-soft);
}
</style>

<script setup lang="ts">
import {
  Button as AButton,
  RadioButton as ARadioButton,
  RadioGroup as ARadioGroup,
  Switch as ASwitch,
} from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import FoldSection from '../../common/FoldSection.vue'
import LengthField from '../../common/LengthField.vue'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { INSIDE, usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import { useWarmUp } from '../warm-up'
import BringInSection from '../shape/BringInSection.vue'
import FitSection from '../shape/FitSection.vue'
import MirrorSection from '../shape/MirrorSection.vue'
import NodeCard from '../shape/NodeCard.vue'
import SelectionCard from '../shape/SelectionCard.vue'
import StationSection from '../shape/StationSection.vue'
import StrokeList from '../shape/StrokeList.vue'
import StretchSection from '../shape/StretchSection.vue'
import NodeTable from './NodeTable.vue'
import PanelFrame from './PanelFrame.vue'

const bench = useBench()
const piece = usePiece()
const emit = defineEmits<{ next: []; done: [] }>()
useWarmUp()
/** Whose half-profile is in hand, in words; empty for the piece's own. */
const whose = computed(() => {
  if (piece.inHand === INSIDE && piece.whole.solid.inside) return 'the inside'
  const part = piece.whole.parts.find((p) => p.id === piece.inHand)
  return part ? `“${part.name}”` : ''
})
const LEADS = {
  own: 'One side only: from the axis at the foot, out and up, to the axis or the rim at the top.',
  inside: 'From the axis at the floor, out and up, to the rim. It must not cross the outside.',
}
const inside = computed(() => piece.inHand === INSIDE)
const wallProblems = computed(() => (inside.value ? piece.wholeDerived.wallNotes : []))

const nodes = computed(() => piece.document.profile.nodes)
const chosen = computed(() =>
  bench.selected.size === 1 ? nodes.value.find((n) => bench.selected.has(n.id)) : undefined,
)
/** Whose card is shown. A node that is taken in hand gets its card when it is let go: making one would hold the hand up. */
const carded = ref<string>()
watch(
  [() => chosen.value?.id, () => bench.dragging],
  ([id, dragging]) => {
    if (!dragging) carded.value = id
  },
  { immediate: true, flush: 'sync' },
)
const inHandWords = computed(() => {
  const node = chosen.value
  if (!node) return ''
  const { unit } = piece.document
  return `Node ${nodes.value.indexOf(node) + 1}: ⌀ ${formatLength(2 * node.r, { unit })}, height ${formatLength(node.z, { unit })}`
})
const folds = ref({ fit: false, stations: false, stretch: false, mirror: false, bringIn: false })
const stationNote = computed(
  () => piece.document.stations.map((s) => s.name).join(', ') || 'named heights, checked by caliper',
)
const open = computed(() => piece.derived.openEnds)
const openWords = computed(() =>
  open.value.map(
    (e) =>
      `The profile is open at the ${e.place}: its end lies ${formatLength(e.gapMm, { unit: piece.document.unit })} from the axis.`,
  ),
)

function close() {
  piece.dispatch({ type: 'close-profile', ids: [newId(), newId()] })
  bench.tool = 'none'
}
function clear() {
  piece.dispatch({ type: 'clear-profile' })
  bench.select()
}
/** What is in hand lies aside; the pen begins another stroke. */
function begin() {
  piece.dispatch({ type: 'lay-aside', stroke: newId() })
  bench.select()
  bench.tool = 'pen'
}
function remove() {
  piece.dispatch({ type: 'delete-nodes', ids: [...bench.selected] })
  bench.select()
}
</script>

<template>
  <PanelFrame
    :title="whose ? `Half-profile of ${whose}` : 'Half-profile'"
    :lead="inside ? LEADS.inside : LEADS.own"
  >
    <AButton v-if="whose" type="primary" data-testid="part-done" @click="emit('done')"
      >Back to the solid</AButton
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
        <ARadioButton value="arc">Arcs</ARadioButton>
        <ARadioButton value="curve">Curves</ARadioButton>
        <ARadioButton v-if="piece.document.photo" value="edge" title="Along the edge of the photo"
          >Edge</ARadioButton
        >
      </ARadioGroup>
    </div>
    <StrokeList />
    <p v-for="note in wallProblems" :key="note.code" class="doubt" role="alert" data-testid="inside-problem">
      {{ note.message }}
    </p>
    <p v-if="inside" class="soft">
      Traced through clear glass, the inner edge is seen displaced: glass bends light, and a thick wall shows
      its inside up to one and a half times as wide. Trust a caliper more.
    </p>
    <div v-if="open.length && !inside" class="unclosed">
      <p v-for="words in openWords" :key="words" role="status">{{ words }}</p>
      <AButton size="small" @click="close">Close it straight to the axis</AButton>
    </div>
    <p v-for="fault in piece.derived.faults" :key="fault.code" class="doubt" role="alert">
      {{ fault.message }}
    </p>

    <p v-if="piece.refusal" class="doubt" role="alert" data-testid="refusal">{{ piece.refusal }}</p>
    <NodeCard v-if="chosen && carded === chosen.id" :id="chosen.id" :key="chosen.id" @remove="remove" />
    <p v-else-if="chosen" class="soft">{{ inHandWords }}</p>
    <SelectionCard v-else-if="bench.selected.size > 1" @remove="remove" />
    <p v-else-if="nodes.length && bench.tool !== 'pen'" class="soft">
      Drag a node, or press on the curve to insert one. With Shift a press takes the whole segment, a drag
      beside the curve frames several nodes. Arrow keys nudge by 0.1 mm, with Shift by 1 mm.
    </p>

    <FoldSection
      v-model:open="folds.bringIn"
      title="Bring in a drawing"
      note="half-profile from SVG, DXF or a table (CSV)"
      ><BringInSection @taken="folds.bringIn = false"
    /></FoldSection>
    <NodeTable v-if="nodes.length" />
    <div v-if="nodes.length > 1" class="sections">
      <LengthField
        label="Reach"
        :value-mm="bench.reach"
        :min-mm="0"
        :unit="piece.document.unit"
        @commit="(mm) => (bench.reach = mm)"
      />
      <LengthField
        label="Grid step"
        :value-mm="bench.gridMm || null"
        :min-mm="0"
        :unit="piece.document.unit"
        placeholder="no grid"
        @commit="(mm) => (bench.gridMm = mm)"
      />
      <label class="switch"
        ><ASwitch v-model:checked="bench.curvature" size="small" /> Comb of curvature</label
      >
      <FoldSection
        v-if="piece.document.outline"
        v-model:open="folds.fit"
        title="Fit to the outline"
        note="nodes against deviation, comb and chart"
        ><FitSection
      /></FoldSection>
      <FoldSection v-model:open="folds.stations" title="Stations" :note="stationNote"
        ><StationSection
      /></FoldSection>
      <FoldSection v-model:open="folds.stretch" title="Ready stretch" note="bead, cove, ogee, listel …"
        ><StretchSection
      /></FoldSection>
      <FoldSection v-model:open="folds.mirror" title="Same at both ends" note="mirror one end to the other"
        ><MirrorSection
      /></FoldSection>
    </div>
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
      <AButton size="small" @click="begin">New stroke</AButton>
      <AButton size="small" @click="piece.dispatch({ type: 'reverse-stroke' })">Turn round</AButton>
      <AButton size="small" @click="clear">Clear</AButton>
    </div>
    <AButton v-if="!whose && piece.derived.solid && !open.length" type="primary" @click="emit('next')"
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
.unclosed {
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
.switch {
  display: flex;
  align-items: center;
  gap: 6px;
  color: var(--ink-soft);
}
.sections {
  display: grid;
  gap: 8px;
}
</style>

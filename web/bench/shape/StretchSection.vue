<script setup lang="ts">
import { Button as AButton, Select as ASelect } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { SIZE_WORDS, STRETCHES, type StretchKind } from '../../../core/profile/ready-stretches'
import LengthField from '../../common/LengthField.vue'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'

/** A bead, a cove … put between two heights of the outside. */
const piece = usePiece()
const heights = piece.document.profile.nodes.map((n) => n.z)
const [foot, top] = [Math.min(...heights), Math.max(...heights)]
const kind = ref<StretchKind>('bead')
const low = ref(foot + 0.45 * (top - foot))
const high = ref(foot + 0.5 * (top - foot))
const size = ref(0.025 * (top - foot))
const upper = ref(0.02 * (top - foot))
const sizeWords = computed(() => SIZE_WORDS[kind.value])

const CHOICES = STRETCHES.map((value) => ({ value, label: value }))
const SHAPES: Record<StretchKind, string> = {
  bead: 'A convex arc.',
  cove: 'A concave arc.',
  torus: 'A half-round.',
  ogee: 'A hollow quarter and a round one.',
  listel: 'The flat: a band that stands out square.',
  'V-groove': 'Two straight sides to a point.',
  taper: 'Straight from one ⌀ to another.',
  ball: 'A ball about the axis.',
}
function insert() {
  piece.dispatch({
    type: 'insert-stretch',
    stretch: { kind: kind.value, low: low.value, high: high.value, size: size.value, upper: upper.value },
    idPrefix: newId(),
  })
}
</script>

<template>
  <label class="pair">
    <span class="name">Shape</span>
    <ASelect v-model:value="kind" :options="CHOICES" aria-label="Shape" />
  </label>
  <p class="soft">{{ SHAPES[kind] }}</p>
  <LengthField
    label="From height"
    :value-mm="low"
    :unit="piece.document.unit"
    :min-mm="-100000"
    @commit="(mm) => (low = mm)"
  />
  <LengthField
    label="To height"
    :value-mm="high"
    :unit="piece.document.unit"
    :min-mm="-100000"
    @commit="(mm) => (high = mm)"
  />
  <LengthField
    v-if="sizeWords"
    :label="sizeWords"
    :value-mm="size"
    :unit="piece.document.unit"
    @commit="(mm) => (size = mm)"
  />
  <LengthField
    v-if="kind === 'taper'"
    label="⌀ above"
    :value-mm="upper"
    :unit="piece.document.unit"
    @commit="(mm) => (upper = mm)"
  />
  <AButton size="small" data-testid="insert-stretch" @click="insert">Insert the {{ kind }}</AButton>
</template>

<style scoped>
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

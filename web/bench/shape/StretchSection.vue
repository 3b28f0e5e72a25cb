<script setup lang="ts">
import { Button as AButton, Select as ASelect } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { radiusAt } from '../../../core/measure/profile-measures'
import { SIZE_WORDS, STRETCHES, type StretchKind } from '../../../core/profile/ready-stretches'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import PieceLength from './PieceLength.vue'

/** A bead, a cove … put between two heights of the outside. */
const piece = usePiece()
const heights = piece.document.profile.nodes.map((n) => n.z)
const [foot, top] = [Math.min(...heights), Math.max(...heights)]
const kind = ref<StretchKind>('bead')
const low = ref(foot + 0.45 * (top - foot))
const high = ref(foot + 0.5 * (top - foot))
const size = ref(0.025 * (top - foot))
const upper = ref(0)
/** A ⌀ starts with that of the piece there; what stands out or goes in, with a little. */
watch(kind, (now) => {
  const diameter = (z: number) => 2 * (radiusAt(piece.derived.drawn, z) ?? 0.1 * (top - foot))
  size.value =
    now === 'taper'
      ? diameter(low.value)
      : now === 'ball'
        ? diameter((low.value + high.value) / 2)
        : 0.025 * (top - foot)
  upper.value = diameter(high.value)
})
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
  <PieceLength label="From height" :value-mm="low" signed @commit="(mm) => (low = mm)" />
  <PieceLength label="To height" :value-mm="high" signed @commit="(mm) => (high = mm)" />
  <PieceLength v-if="sizeWords" :label="sizeWords" :value-mm="size" @commit="(mm) => (size = mm)" />
  <PieceLength v-if="kind === 'taper'" label="⌀ above" :value-mm="upper" @commit="(mm) => (upper = mm)" />
  <AButton size="small" data-testid="insert-stretch" @click="insert">Insert the {{ kind }}</AButton>
</template>

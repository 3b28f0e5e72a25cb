<script setup lang="ts">
import { Button as AButton, RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'
import { computed } from 'vue'
import { groupOf } from '../../../core/profile/locks'
import { usePiece } from '../../stores/piece'
import EdgeRow from './EdgeRow.vue'
import LockButton from './LockButton.vue'
import SegmentRows from './SegmentRows.vue'
import PieceLength from './PieceLength.vue'

/** One node with its joint, its corner's edge and the segment that follows it: everything can be typed. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ remove: [] }>()
const piece = usePiece()

const nodes = computed(() => piece.document.profile.nodes)
const index = computed(() => nodes.value.findIndex((n) => n.id === props.id))
const node = computed(() => nodes.value[index.value]!)
const isEnd = computed(() => index.value === 0 || index.value === nodes.value.length - 1)
const held = (coordinate: 'r' | 'z') => node.value.held?.includes(coordinate) ?? false

/** Which other nodes a typed ⌀ or height moves along. */
const shared = computed(() => {
  const others = (coordinate: 'r' | 'z') =>
    groupOf(piece.document.profile, props.id, coordinate)
      .filter((id) => id !== props.id)
      .map((id) => nodes.value.findIndex((n) => n.id === id) + 1)
  const words = (name: string, list: number[]) =>
    list.length > 0 ? [`its ${name} with node${list.length > 1 ? 's' : ''} ${list.join(', ')}`] : []
  const parts = [...(node.value?.r ? words('⌀', others('r')) : []), ...words('height', others('z'))]
  return parts.length > 0 ? `Shares ${parts.join(', ')}.` : ''
})

function typed(coordinate: 'r' | 'z', mm: number) {
  piece.dispatch({ type: 'type-coordinate', id: props.id, coordinate, mm })
}
function hold(coordinate: 'r' | 'z') {
  piece.dispatch({ type: 'hold-node', id: props.id, coordinate, on: !held(coordinate) })
}
</script>

<template>
  <section v-if="node" class="card">
    <h3>Node {{ index + 1 }}<span v-if="node.by === 'outline'" class="soft"> follows the outline</span></h3>
    <div class="locked">
      <PieceLength
        label="⌀"
        :value-mm="2 * node.r"
        :disabled="node.r === 0"
        @commit="(mm) => typed('r', mm / 2)"
      />
      <LockButton
        v-if="node.r > 0"
        :on="held('r')"
        name="Hold the ⌀"
        why="Held: only typing changes this ⌀."
        @toggle="hold('r')"
      />
    </div>
    <div class="locked">
      <PieceLength label="Height" :value-mm="node.z" signed @commit="(mm) => typed('z', mm)" />
      <LockButton
        :on="held('z')"
        name="Hold the height"
        why="Held: only typing changes this height."
        @toggle="hold('z')"
      />
    </div>
    <p v-if="node.r === 0" class="soft">On the axis, exactly.</p>
    <p v-if="shared" class="soft">{{ shared }}</p>
    <div v-if="node.r > 0 || isEnd" class="pair">
      <span class="name">{{ node.r === 0 ? 'Pole' : 'Joint' }}</span>
      <ARadioGroup
        size="small"
        :value="node.joint"
        :aria-label="node.r === 0 ? 'Pole' : 'Joint'"
        @update:value="(joint) => piece.dispatch({ type: 'set-joint', id, joint })"
      >
        <ARadioButton value="corner">{{ node.r === 0 ? 'pointed' : 'corner' }}</ARadioButton>
        <ARadioButton value="smooth">{{ node.r === 0 ? 'round' : 'smooth' }}</ARadioButton>
      </ARadioGroup>
    </div>
    <EdgeRow v-if="!isEnd && node.joint === 'corner'" :ids="[id]" :edge="node.edge ?? null" />
    <SegmentRows v-if="index < nodes.length - 1" :id="id" />
    <AButton size="small" class="remove" @click="emit('remove')">Delete node</AButton>
  </section>
</template>

<style scoped src="./card.css"></style>

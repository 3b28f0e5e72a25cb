<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed } from 'vue'
import { groupOf } from '../../../core/profile/locks'
import { formatLength } from '../../../core/units/format-length'
import { curvaturesAt } from '../../../core/profile/even-joints'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import ChoiceRow from '../../common/ChoiceRow.vue'
import EdgeRow from './EdgeRow.vue'
import LockButton from './LockButton.vue'
import SegmentRows from './SegmentRows.vue'
import PieceLength from './PieceLength.vue'

/** One node with its joint, its corner's edge and the segment that follows it: everything can be typed. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ remove: [] }>()
const bench = useBench()
const piece = usePiece()

/** Less curvature than this, 1/mm, is none to the eye: a radius of a kilometre. */
const STRAIGHT = 1e-6

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

const joints = computed(() => {
  const pole = node.value.r === 0
  return [
    { value: 'corner' as const, text: pole ? 'pointed' : 'corner' },
    { value: 'smooth' as const, text: pole ? 'round' : 'smooth' },
    ...(isEnd.value ? [] : [{ value: 'even' as const, text: 'even', title: 'Smooth, and of one curvature on both sides' }]), // prettier-ignore
  ]
})
/** How tightly the curve bends just before and after a smooth joint. */
const bends = computed(() => {
  if (node.value?.joint !== 'smooth') return ''
  const found = curvaturesAt(nodes.value, index.value)
  if (!found) return ''
  const upwards = nodes.value[0]!.z <= nodes.value.at(-1)!.z
  const [a, b] = found.map((k) => {
    if (Math.abs(k) < STRAIGHT) return 'straight'
    // Drawn upwards, a hollow turns to the right.
    const hollow = k < 0 === upwards ? ' hollow' : ''
    return `radius ${formatLength(1 / Math.abs(k), { unit: piece.document.unit })}${hollow}`
  })
  return a === b ? `Bends with ${a} on both sides.` : `Bends with ${a} before it, ${b} after it.`
})

/** Chooses this node and all from it to the lower or the upper end: to lengthen a neck, say. */
function chooseOn(way: 'up' | 'down') {
  const upwards = nodes.value[0]!.z <= nodes.value.at(-1)!.z
  const onwards = (way === 'up') === upwards
  const list = onwards ? nodes.value.slice(index.value) : nodes.value.slice(0, index.value + 1)
  bench.select(...list.map((n) => n.id))
}
function part() {
  piece.dispatch({ type: 'split-stroke', id: props.id, node: newId(), stroke: newId() })
  bench.select()
}
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
    <ChoiceRow
      v-if="node.r > 0 || isEnd"
      wide
      :label="node.r === 0 ? 'Pole' : 'Joint'"
      :value="node.even ? 'even' : node.joint"
      :choices="joints"
      @choose="(joint) => piece.dispatch({ type: 'set-joint', id, joint })"
    />
    <p v-if="bends" class="soft" data-testid="bends">{{ bends }}</p>
    <EdgeRow v-if="!isEnd && node.joint === 'corner'" :ids="[id]" :edge="node.edge ?? null" />
    <SegmentRows v-if="index < nodes.length - 1" :id="id" />
    <div class="row">
      <AButton size="small" @click="chooseOn('down')">With all below</AButton>
      <AButton size="small" @click="chooseOn('up')">With all above</AButton>
      <AButton v-if="!isEnd" size="small" @click="part">Part here</AButton>
      <AButton size="small" @click="emit('remove')">Delete node</AButton>
    </div>
  </section>
</template>

<style scoped src="./card.css"></style>

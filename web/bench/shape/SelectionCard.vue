<script setup lang="ts">
import { Button as AButton, Switch as ASwitch } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { bulgeThrough } from '../../../core/profile/arc'
import NumberField from '../../common/NumberField.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import ChoiceRow from '../../common/ChoiceRow.vue'
import EdgeRow from './EdgeRow.vue'
import PieceLength from './PieceLength.vue'
import StretchTools from './StretchTools.vue'

/** Several nodes at once: moved, scaled, aligned, tied, their corners worked alike. */
const emit = defineEmits<{ remove: [] }>()
const bench = useBench()
const piece = usePiece()

/** Copies are turned upside down. */
const mirrored = ref(false)

const nodes = computed(() => piece.document.profile.nodes)
const chosen = computed(() => nodes.value.filter((n) => bench.selected.has(n.id)))
const ids = computed(() => chosen.value.map((n) => n.id))
const offAxis = computed(() => chosen.value.filter((n) => n.r > 0))
const corners = computed(() => {
  const last = nodes.value.length - 1
  return nodes.value
    .filter((n, i) => bench.selected.has(n.id) && i > 0 && i < last && n.joint === 'corner')
    .map((n) => n.id)
})
const edge = computed(() => chosen.value.find((n) => corners.value.includes(n.id))?.edge ?? null)
const ties = computed(() =>
  (piece.document.profile.ties ?? []).filter(
    (t) => ids.value.filter((id) => t.nodes.includes(id)).length > 1,
  ),
)

function move(change: { dr?: number; dz?: number; factor?: number }) {
  piece.dispatch({ type: 'move-nodes', ids: ids.value, reachMm: bench.reach, ...change })
}
function align(coordinate: 'r' | 'z', mm: number) {
  const list = coordinate === 'r' ? offAxis.value : chosen.value
  piece.dispatch({ type: 'align-nodes', ids: list.map((n) => n.id), coordinate, mm })
}
function copy(low: number) {
  piece.dispatch({ type: 'copy-stretch', copy: { ids: ids.value, low, mirrored: mirrored.value }, idPrefix: newId() }) // prettier-ignore
}
const inner = computed(() => {
  const last = nodes.value.length - 1
  return nodes.value.filter((n, i) => bench.selected.has(n.id) && i > 0 && i < last && n.r > 0)
})
const JOINTS = [
  { value: 'corner', text: 'corners' },
  { value: 'smooth', text: 'smooth' },
] as const
/** The joint that all of them have; none when they differ. */
const joint = computed(() => {
  const kinds = new Set(inner.value.map((n) => n.joint))
  return kinds.size === 1 ? [...kinds][0] : undefined
})
function setJoints(kind: 'corner' | 'smooth') {
  const step = newId()
  for (const n of inner.value) piece.dispatch({ type: 'set-joint', id: n.id, joint: kind }, step)
}
/** One segment from the first to the last of them, instead of all between. */
function replaceBy(next: 'line' | 'arc') {
  const step = newId()
  const [a, b] = [chosen.value[0]!, chosen.value.at(-1)!]
  const between = chosen.value.slice(1, -1)
  const through = between[between.length >> 1]
  if (through) piece.dispatch({ type: 'delete-nodes', ids: between.map((n) => n.id) }, step)
  piece.dispatch({ type: 'set-segment', id: a.id, next }, step)
  if (next === 'arc' && through) {
    const bulge = bulgeThrough([a.r, a.z], [through.r, through.z], [b.r, b.z])
    // On a line there is no circle through three places.
    if (Math.abs(bulge) > LEAST_BULGE) piece.dispatch({ type: 'set-bulge', id: a.id, bulge }, step)
  }
  bench.select(a.id, b.id)
}
const LEAST_BULGE = 1e-3
function tie(coordinate: 'r' | 'z') {
  const list = coordinate === 'r' ? offAxis.value : chosen.value
  piece.dispatch({ type: 'tie-nodes', tie: { id: newId(), coordinate, nodes: list.map((n) => n.id) } })
}
</script>

<template>
  <section class="card">
    <h3>{{ chosen.length }} nodes</h3>
    <PieceLength label="Move up" :value-mm="0" signed @commit="(mm) => move({ dz: mm })" />
    <PieceLength label="⌀ grows by" :value-mm="0" signed @commit="(mm) => move({ dr: mm / 2 })" />
    <NumberField
      label="⌀ times"
      :value="100"
      unit="%"
      :digits="3"
      :min="1"
      :max="10000"
      @commit="(v) => move({ factor: v / 100 })"
    />
    <PieceLength
      label="All at ⌀"
      :value-mm="null"
      placeholder="type to align"
      @commit="(mm) => align('r', mm / 2)"
    />
    <PieceLength
      label="All at height"
      :value-mm="null"
      placeholder="type to align"
      signed
      @commit="(mm) => align('z', mm)"
    />
    <PieceLength
      label="Copy to height"
      :value-mm="null"
      placeholder="of its lower end"
      signed
      @commit="copy"
    />
    <label class="switch"><ASwitch v-model:checked="mirrored" size="small" /> copied upside down</label>
    <StretchTools />
    <ChoiceRow label="Joints" :value="joint" :choices="JOINTS" @choose="setJoints" />
    <EdgeRow v-if="corners.length" :ids="corners" :edge="edge" />
    <div class="row">
      <AButton size="small" @click="replaceBy('line')">Straighten</AButton>
      <AButton size="small" @click="replaceBy('arc')">Make one arc</AButton>
      <AButton v-if="offAxis.length > 1" size="small" @click="tie('r')">Keep one ⌀</AButton>
      <AButton size="small" @click="tie('z')">Keep one height</AButton>
      <AButton
        v-for="t in ties"
        :key="t.id"
        size="small"
        @click="piece.dispatch({ type: 'untie-nodes', id: t.id })"
        >Untie the {{ t.coordinate === 'r' ? '⌀' : 'height' }}</AButton
      >
      <AButton size="small" @click="emit('remove')">Delete nodes</AButton>
    </div>
  </section>
</template>

<style scoped src="./card.css"></style>

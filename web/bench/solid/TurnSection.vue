<script setup lang="ts">
import { computed } from 'vue'
import AngleField from '../../common/AngleField.vue'
import ChoiceRow from '../../common/ChoiceRow.vue'
import { usePiece } from '../../stores/piece'

/** How far the half-profile is revolved: all round, or a part of a turn closed by flat ends. */
const piece = usePiece()
const turn = computed(() => piece.document.solid.turn ?? null)
const TURNS = [
  { value: 'full', text: 'all round' },
  { value: 'part', text: 'a part' },
] as const
const AXES = [
  { value: 'stands', text: 'stands' },
  { value: 'lies', text: 'lies' },
] as const
/** Degrees. */
const LEAST = 1
const MOST = 359

function choose(how: 'full' | 'part') {
  const part = { start: 0, sweep: Math.PI }
  piece.dispatch({ type: 'set-turn', turn: how === 'part' ? part : null })
}
function set(change: { start?: number; sweep?: number }) {
  if (turn.value) piece.dispatch({ type: 'set-turn', turn: { ...turn.value, ...change } })
}
</script>

<template>
  <ChoiceRow
    label="Its axis"
    :value="piece.document.solid.lies ? 'lies' : 'stands'"
    :choices="AXES"
    @choose="(way) => piece.dispatch({ type: 'set-lies', lies: way === 'lies' })"
  />
  <p v-if="piece.document.solid.lies" class="soft">
    Seen from above it lies on its side, and meshes leave with the axis along x. Beside the photo, and in
    STEP, the axis stays upright.
  </p>
  <ChoiceRow label="Turned" :value="turn ? 'part' : 'full'" :choices="TURNS" @choose="choose" />
  <template v-if="turn">
    <AngleField label="From" :radians="turn.start" @commit="(start) => set({ start })" />
    <AngleField
      label="Over"
      :radians="turn.sweep"
      :min="LEAST"
      :max="MOST"
      @commit="(sweep) => set({ sweep })"
    />
    <AngleField
      label="Its middle at"
      :radians="turn.start + turn.sweep / 2"
      :min="-180"
      @commit="(middle) => set({ start: middle - turn!.sweep / 2 })"
    />
    <p class="soft">Closed by flat ends; it holds nothing to fill.</p>
  </template>
</template>

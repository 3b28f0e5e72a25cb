<script setup lang="ts">
import { computed } from 'vue'
import ChoiceRow from '../../common/ChoiceRow.vue'
import NumberField from '../../common/NumberField.vue'
import { usePiece } from '../../stores/piece'

/** How far the half-profile is revolved: all round, or a part of a turn closed by flat ends. */
const piece = usePiece()
const turn = computed(() => piece.document.solid.turn ?? null)
const degrees = (radians: number) => (180 * radians) / Math.PI
const radians = (deg: number) => (Math.PI * deg) / 180
const TURNS = [
  { value: 'full', text: 'all round' },
  { value: 'part', text: 'a part' },
] as const
const LEAST = 1
const MOST = 359

function choose(how: 'full' | 'part') {
  const part = { start: 0, sweep: Math.PI }
  piece.dispatch({ type: 'set-turn', turn: how === 'part' ? part : null })
}
function set(change: { start?: number; sweep?: number }) {
  if (turn.value) piece.dispatch({ type: 'set-turn', turn: { ...turn.value, ...change } })
}
/** The same part turned about its middle direction. */
const middle = computed(() => (turn.value ? degrees(turn.value.start + turn.value.sweep / 2) : 0))
</script>

<template>
  <ChoiceRow label="Turned" :value="turn ? 'part' : 'full'" :choices="TURNS" @choose="choose" />
  <template v-if="turn">
    <NumberField
      label="From"
      :value="degrees(turn.start)"
      unit="°"
      :digits="2"
      :min="-360"
      :max="360"
      @commit="(v) => set({ start: radians(v) })"
    />
    <NumberField
      label="Over"
      :value="degrees(turn.sweep)"
      unit="°"
      :digits="2"
      :min="LEAST"
      :max="MOST"
      @commit="(v) => set({ sweep: radians(v) })"
    />
    <NumberField
      label="Its middle at"
      :value="middle"
      unit="°"
      :digits="2"
      :min="-180"
      :max="360"
      @commit="(v) => set({ start: radians(v) - turn!.sweep / 2 })"
    />
    <p class="soft">Closed by flat ends. Volume and surface under Check are those of the whole turn.</p>
  </template>
</template>

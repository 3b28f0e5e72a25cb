<script setup lang="ts">
import { Button as AButton, Input as AInput } from 'ant-design-vue'
import { computed, ref } from 'vue'
import type { Station } from '../../../core/piece/schema'
import { readStations } from '../../../core/piece/stations'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import PieceLength from './PieceLength.vue'

/** Named heights with their ⌀; a caliper reading shows how far the profile is off, and may be met. */
const bench = useBench()
const piece = usePiece()
const readings = computed(() => readStations(piece.document.stations, piece.derived))
const length = (mm: number) => formatLength(mm, { unit: piece.document.unit })
const chosen = ref<string | null>(null)
/** Below this, mm, nothing is to be said. */
const NOTHING = 0.005
function offWords(mm: number): string {
  if (Math.abs(mm) < NOTHING) return 'as the caliper says'
  return `${length(Math.abs(mm))} ${mm > 0 ? 'over' : 'under'} the caliper`
}

/** What is usually called so, up to which share of the height. */
const NAMES = [
  ['Foot', 0.08],
  ['Belly', 0.6],
  ['Shoulder', 0.78],
  ['Neck', 0.93],
  ['Rim', Infinity],
] as const
function nameAt(share: number): string {
  const [name] = NAMES.find(([, upTo]) => share <= upTo)!
  const { stations } = piece.document
  return stations.some((s) => s.name === name) ? `Station ${stations.length + 1}` : name
}
function add() {
  const heights = piece.document.profile.nodes.map((n) => n.z)
  const [foot, top] = [Math.min(...heights), Math.max(...heights)]
  const selected = piece.document.profile.nodes.find((n) => bench.selected.has(n.id))
  const z = selected?.z ?? (foot + top) / 2
  const station: Station = { id: newId(), name: nameAt((z - foot) / (top - foot || 1)), z, caliperMm: null }
  piece.dispatch({ type: 'set-station', station })
  chosen.value = station.id
}
function change(station: Station, what: Partial<Station>) {
  piece.dispatch({ type: 'set-station', station: { ...station, ...what } })
}
function rename(station: Station, event: Event) {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name && name !== station.name) change(station, { name })
}
/** Neighbours follow within the reach that is set, or within a few hundredths of the height. */
const REACH_SHARE = 0.06
function meet(station: Station) {
  const tall = piece.derived.measures?.heightMm ?? 0
  piece.dispatch({
    type: 'meet-station',
    z: station.z,
    diameterMm: station.caliperMm!,
    reachMm: bench.reach || REACH_SHARE * tall,
    id: newId(),
  })
}
</script>

<template>
  <p v-if="readings.length === 0" class="soft">
    Name a height to see its ⌀ on photo, solid and chart, and to check it with a caliper.
  </p>
  <div
    v-for="{ station, diameterMm, offMm } in readings"
    :key="station.id"
    class="station"
    data-testid="station"
  >
    <button
      type="button"
      class="head bare"
      :aria-expanded="chosen === station.id"
      @click="chosen = chosen === station.id ? null : station.id"
    >
      <strong>{{ station.name }}</strong>
      <span>{{ diameterMm === null ? 'not reached' : `⌀ ${length(diameterMm)}` }}</span>
      <span class="soft">at {{ length(station.z) }}</span>
      <span v-if="offMm !== null" :class="{ doubt: Math.abs(offMm) > 0.2 }" data-testid="station-off">{{
        offWords(offMm)
      }}</span>
    </button>
    <template v-if="chosen === station.id">
      <label class="pair"
        ><span class="name">Name</span
        ><AInput :value="station.name" :maxlength="60" @change="rename(station, $event)"
      /></label>
      <PieceLength
        label="At height"
        :value-mm="station.z"
        signed
        @commit="(mm) => change(station, { z: mm })"
      />
      <PieceLength
        label="Caliper ⌀"
        :value-mm="station.caliperMm"
        placeholder="not read"
        @commit="(mm) => change(station, { caliperMm: mm })"
      />
      <div class="row">
        <AButton
          v-if="offMm !== null && Math.abs(offMm) > 1e-9"
          size="small"
          data-testid="meet-station"
          @click="meet(station)"
          >Let the profile pass through it</AButton
        >
        <AButton size="small" @click="piece.dispatch({ type: 'remove-station', id: station.id })"
          >Remove</AButton
        >
      </div>
    </template>
  </div>
  <AButton size="small" data-testid="add-station" @click="add">Add a station</AButton>
</template>

<style scoped>
.station {
  display: grid;
  gap: 6px;
  padding-bottom: 6px;
  border-bottom: 1px solid var(--rule);
}
.head {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 8px;
  padding: 2px 0;
}
.head .soft {
  white-space: nowrap;
}
.head .doubt {
  color: var(--doubt);
}
</style>

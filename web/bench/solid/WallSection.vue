<script setup lang="ts">
import { Button as AButton, Switch as ASwitch } from 'ant-design-vue'
import { computed } from 'vue'
import { thinnest, wallAlong } from '../../../core/measure/wall-thickness'
import { picturePointOf } from '../../../core/profile/edit'
import { flatten } from '../../../core/profile/flatten'
import type { ProfileNode } from '../../../core/profile/profile'
import { backwards, endOf } from '../../../core/profile/segments'
import { thicknessAt } from '../../../core/profile/thickness'
import { formatLength } from '../../../core/units/format-length'
import ChoiceRow from '../../common/ChoiceRow.vue'
import { usePiece } from '../../stores/piece'
import { solidClient } from '../../workers/solid-client'
import { newId } from '../new-id'
import PieceLength from '../shape/PieceLength.vue'
import { usualWall, type Wall } from './usual-wall'
import WallChart from './WallChart.vue'

/** Hollow by rule: thickness, floor, lip, and what came of it. */
const piece = usePiece()
const WAYS = [
  { value: 'inwards', text: 'outside' },
  { value: 'outwards', text: 'inside' },
] as const
const LIPS = (['flat', 'round', 'bead'] as const).map((value) => ({ value, text: value }))
const emit = defineEmits<{ shape: [] }>()

const wall = computed(() => piece.document.solid.wall ?? null)
const hollow = computed(() => piece.derived.solid?.hollow ?? null)
const height = computed(() => piece.derived.measures?.heightMm ?? 100)
const length = (mm: number) => formatLength(mm, { unit: piece.document.unit })

const places = computed(() => (hollow.value ? wallAlong(hollow.value.outside, hollow.value.inside) : []))
const least = computed(() => thinnest(places.value))

/** Narrower than this share of the bowl, and wider again by this below, the inside runs through a stem. */
const STEM = 0.5
const WIDER = 1.15
/** Where the inside is narrowest in a stem: bowls on a stem are filled up to there and above. */
const stem = computed(() => {
  const list = places.value
  const widest = list.reduce((w, p, i) => (p.r > list[w]!.r ? i : w), 0)
  const below = list.slice(widest)
  if (below.length === 0) return null
  let narrow = below[0]!
  for (const p of below) {
    if (p.r < narrow.r) narrow = p
    if (narrow.r > 0 && narrow.r < STEM * list[widest]!.r && p.r > WIDER * narrow.r) return narrow
  }
  return null
})
/** The bottom of the bowl lies so much above the narrowest place as the bowl's wall is thick there, and that once more. */
function fillStem() {
  const bottom = piece.derived.measures?.lowestMm ?? 0
  set({ floorMm: stem.value!.z - bottom + 2 * wall.value!.mm })
}

const byHand = computed(() => piece.document.solid.inside ?? null)
/** Near enough for a curve that a hand goes on with, as a share of the height. */
const TAKEN_SHARE = 1e-4
/** The inside that the rule made becomes a curve of few nodes; without one it is drawn from nothing. */
async function takeByHand() {
  const { side } = piece.document.profile
  const made = hollow.value?.inside
  let nodes: ProfileNode[] = []
  if (made) {
    const { points } = flatten(backwards(made), { toleranceMm: (TAKEN_SHARE * height.value) / 4 }) // prettier-ignore
    const pairs = Array.from({ length: points.length / 2 }, (_, i): [number, number] => [points[2 * i]!, points[2 * i + 1]!]) // prettier-ignore
    const fitted = await solidClient.call((worker) => worker.fitRun(pairs, TAKEN_SHARE * height.value))
    nodes = fitted.nodes.map((n) => ({ ...n, id: newId(), drawn: picturePointOf(side, n, piece.derived.calibration.view) })) // prettier-ignore
  }
  piece.dispatch({ type: 'set-inside', inside: { side, nodes } })
  emit('shape')
}

function turn(on: boolean) {
  piece.dispatch({ type: 'set-wall', wall: on ? usualWall(height.value) : null })
}
function set(change: Partial<Wall>) {
  if (wall.value) piece.dispatch({ type: 'set-wall', wall: { ...wall.value, ...change } })
}
/** A punt over two thirds of the foot, a fifth of that high. */
function setPunt(on: boolean) {
  const foot = piece.derived.solid?.hollow?.outside[0]
  const radius = foot ? endOf(foot)[0] : 10
  const rounded = (mm: number) => Number(mm.toPrecision(2))
  set({ punt: on ? { diameterMm: rounded((4 / 3) * radius), heightMm: rounded(0.25 * radius) } : null })
}
/** A level half-way between the highest one and the top, as thick as the wall is there. */
function addLevel() {
  const { levels, mm } = wall.value!
  const top = piece.derived.measures?.highestMm ?? height.value
  const z = levels.length > 0 ? (levels.at(-1)!.z + top) / 2 : top / 2
  const first = levels.length > 0 ? [] : [{ z: piece.derived.measures?.lowestMm ?? 0, mm }]
  setLevels([...levels, ...first, { z, mm: thicknessAt(wall.value!, z) }])
}
function setLevels(levels: Wall['levels']) {
  const sorted = [...levels].sort((a, b) => a.z - b.z)
  // Of two at one height the later one counts.
  set({ levels: sorted.filter((l, i) => sorted[i + 1]?.z !== l.z) })
}
function setLevel(index: number, change: Partial<Wall['levels'][number]>) {
  setLevels(wall.value!.levels.map((l, i) => (i === index ? { ...l, ...change } : l)))
}
</script>

<template>
  <section class="card">
    <label class="switch"
      ><ASwitch
        :checked="wall !== null || byHand !== null"
        :disabled="byHand !== null"
        size="small"
        data-testid="hollow"
        @change="(on) => turn(Boolean(on))"
      />
      Hollow</label
    >
    <template v-if="byHand">
      <p class="soft">The inside is drawn by hand.</p>
      <div class="row">
        <AButton size="small" type="primary" @click="emit('shape')">Shape the inside</AButton>
        <AButton size="small" @click="piece.dispatch({ type: 'set-inside', inside: null })"
          >By rule again</AButton
        >
      </div>
    </template>
    <template v-else-if="wall">
      <PieceLength
        label="Wall"
        :value-mm="wall.levels.length ? null : wall.mm"
        :placeholder="wall.levels.length ? 'by levels' : undefined"
        :disabled="wall.levels.length > 0"
        @commit="(mm) => set({ mm })"
      />
      <div v-for="(level, i) in wall.levels" :key="i" class="level">
        <PieceLength label="At height" :value-mm="level.z" signed @commit="(z) => setLevel(i, { z })" />
        <PieceLength label="thick" :value-mm="level.mm" @commit="(mm) => setLevel(i, { mm })" />
        <AButton
          size="small"
          :aria-label="`Remove the level at ${length(level.z)}`"
          @click="setLevels(wall.levels.filter((_, k) => k !== i))"
          >Remove</AButton
        >
      </div>
      <AButton size="small" class="start" @click="addLevel">{{
        wall.levels.length ? 'Another level' : 'Thicker and thinner by levels'
      }}</AButton>
      <PieceLength label="Floor" :value-mm="wall.floorMm" @commit="(floorMm) => set({ floorMm })" />
      <p v-if="stem" class="soft">
        The inside runs down through a stem.
        <AButton size="small" data-testid="fill-stem" @click="fillStem">Begin it above the stem</AButton>
      </p>
      <ChoiceRow
        label="Drawn is"
        name="Which side is drawn"
        :value="wall.way"
        :choices="WAYS"
        @choose="(way) => set({ way })"
      />
      <ChoiceRow label="Lip" :value="wall.lip" :choices="LIPS" @choose="(lip) => set({ lip })" />
      <label v-if="wall.way === 'inwards'" class="switch"
        ><ASwitch :checked="wall.bore" size="small" @change="(on) => set({ bore: Boolean(on) })" /> Neck bored
        straight to the rim</label
      >
      <PieceLength
        v-if="wall.lip === 'bead'"
        label="Bead ⌀"
        :value-mm="wall.beadMm ?? 2 * wall.mm"
        @commit="(beadMm) => set({ beadMm })"
      />
      <label v-if="wall.way === 'inwards'" class="switch"
        ><ASwitch :checked="Boolean(wall.punt)" size="small" @change="(on) => setPunt(Boolean(on))" /> Bottom
        pushed up (punt)</label
      >
      <template v-if="wall.punt">
        <PieceLength
          label="Punt ⌀"
          :value-mm="wall.punt.diameterMm"
          @commit="(diameterMm) => set({ punt: { ...wall!.punt!, diameterMm } })"
        />
        <PieceLength
          label="Punt height"
          :value-mm="wall.punt.heightMm"
          @commit="(heightMm) => set({ punt: { ...wall!.punt!, heightMm } })"
        />
      </template>
      <AButton size="small" class="start" data-testid="inside-by-hand" @click="takeByHand"
        >Shape the inside by hand</AButton
      >
    </template>
    <template v-if="wall || byHand">
      <p v-for="note in piece.derived.wallNotes" :key="note.code" class="doubt" role="alert">
        {{ note.message }}
      </p>
      <template v-if="least">
        <p class="soft" data-testid="thinnest">
          Thinnest: {{ length(least.mm) }} at a height of {{ length(least.z) }}.
        </p>
        <WallChart :places="places" />
      </template>
    </template>
  </section>
</template>

<style scoped src="../shape/card.css"></style>
<style scoped>
.switch {
  display: flex;
  align-items: center;
  gap: 8px;
}
.level {
  display: grid;
  gap: 4px;
  padding-left: 8px;
  border-left: 2px solid var(--rule);
  justify-items: stretch;
}
.start {
  justify-self: start;
}
</style>

<script setup lang="ts">
import { Button as AButton, Switch as ASwitch } from 'ant-design-vue'
import { computed } from 'vue'
import type { Part } from '../../../core/piece/schema'
import { BODY } from '../../../core/solid/assemble'
import { sidesCarrying, repeatsCarried } from '../../../core/solid/rhythm'
import { isoThread } from '../../../core/solid/thread'
import { formatLength } from '../../../core/units/format-length'
import AngleField from '../../common/AngleField.vue'
import LengthField from '../../common/LengthField.vue'
import NumberField from '../../common/NumberField.vue'
import SelectRow from '../../common/SelectRow.vue'
import { usePiece } from '../../stores/piece'
import { formatVolume } from '../use-figures'
import MaterialChoice from './MaterialChoice.vue'
import NameField from './NameField.vue'
import { PLACE_FIELDS, REPEATED, SHAPE_FIELDS, type PartField } from './part-fields'
import FittingPoints from './FittingPoints.vue'
import { useBuild } from './use-build'

/** All that can be said of one part. */
const props = defineProps<{ part: Part; first: boolean; last: boolean }>()
const emit = defineEmits<{ shape: [] }>()
const piece = usePiece()
const { figuresOf } = useBuild()

const RELATIONS = [
  { value: 'added', text: 'added to' },
  { value: 'cut', text: 'cut away from' },
  { value: 'common', text: 'what it has in common with' },
  { value: 'separate', text: 'stands by itself' },
] as const
/** No part lies as far as this, mm. */
const LOWEST = -100_000
const HANDS = [
  { value: 'right', text: 'right-handed' },
  { value: 'left', text: 'left-handed' },
] as const

const set = (change: Partial<Part>) =>
  piece.dispatch({ type: 'set-part', part: { ...props.part, ...change } })
const length = (mm: number) => formatLength(mm, { unit: piece.whole.unit })
/** Solids that it can belong to: the body, and separate parts above it. */
const targets = computed(() => {
  const { parts } = piece.whole
  const above = parts.slice(
    0,
    parts.findIndex((p) => p.id === props.part.id),
  )
  const others = above.filter((p) => p.relation === 'separate')
  return [{ value: BODY, text: 'the body' }, ...others.map((p) => ({ value: p.id, text: p.name }))]
})

/** The typed numbers of the part: what they are, and how a new value is set. */
const rows = computed(() => {
  const { shape, place, round } = props.part
  const sizes = SHAPE_FIELDS[shape.kind]
    // A rhythm says how broad the notches are.
    .filter((f) => !(f.key === 'angle' && round?.rhythm))
    .filter((f) => f.key !== 'filletMm' || (props.part.relation === 'added' && props.part.target === BODY))
    .map((field) => ({
      field,
      // A size that was never set is none.
      value: (shape as unknown as Record<string, number | undefined>)[field.key] ?? 0,
      set: (value: number) => set({ shape: { ...shape, [field.key]: value } as Part['shape'] }),
    }))
  const places = PLACE_FIELDS[shape.kind].map((field) => ({
    field,
    value: place[field.key as keyof Part['place']],
    set: (value: number) => set({ place: { ...place, [field.key]: value } }),
  }))
  return [...sizes, ...places]
})
const leastOf = ({ kind, orZero }: PartField) => (kind === 'height' ? LOWEST : orZero ? 0 : undefined)

/** It changes the body and is none itself. */
const presses = computed(() => props.part.shape.kind === 'squeeze')
const iso = computed(() => {
  const { shape } = props.part
  if (shape.kind !== 'thread') return null
  const wanted = isoThread(0, shape.pitchMm)
  const same = (['depthMm', 'crestMm', 'rootMm'] as const).every((k) => Math.abs(shape[k] - wanted[k]) < 1e-6)
  return { same, take: () => set({ shape: { ...shape, ...wanted, diameterMm: shape.diameterMm } }) }
})

const repeated = computed(() => REPEATED.has(props.part.shape.kind))
const setRound = (round: Part['round']) => set({ round })
/** In a rhythm that the sides don't carry: which numbers of sides, and which count of repeats, do. */
const refused = computed(() => {
  const { round } = props.part
  const { sides } = piece.whole.solid
  if (!round?.rhythm || sides % (round.count * (round.rhythm.up + round.rhythm.down)) === 0) return null
  return {
    sides: sidesCarrying(round.count, round.rhythm, sides),
    count: repeatsCarried(sides, round.rhythm)[0] ?? null,
  }
})

const fit = computed(() => {
  if (props.part.relation !== 'separate') return ''
  const f = figuresOf(props.part.id)
  if (!f) return ''
  if (f.overlapMm3 > 1e-6) return `It shares ${formatVolume(f.overlapMm3, piece.whole.unit)} with the body.`
  if (f.gapMm === null) return 'It stands clear of the body.'
  return f.gapMm < 1e-5 ? 'It touches the body.' : `At its narrowest ${length(f.gapMm)} from the body.`
})
</script>

<template>
  <NameField :value="part.name" what="part" @commit="(name) => set({ name })" />
  <SelectRow
    v-if="!presses"
    label="It is"
    name="Relation"
    :value="part.relation"
    :choices="RELATIONS"
    @choose="(relation) => set({ relation })"
  />
  <SelectRow
    v-if="!presses && part.relation !== 'separate' && targets.length > 1"
    label="of"
    name="Belongs to"
    :value="part.target"
    :choices="targets"
    @choose="(target) => set({ target })"
  />
  <MaterialChoice
    v-if="!presses"
    :value="part.material"
    :none="part.relation === 'separate' ? 'as the body' : 'as what it belongs to'"
    @choose="(material) => set({ material })"
  />
  <div v-if="part.shape.kind === 'turned'" class="row">
    <AButton
      :type="part.shape.profile.nodes.length ? 'default' : 'primary'"
      size="small"
      @click="emit('shape')"
      >Shape its half-profile</AButton
    >
  </div>
  <FittingPoints v-if="part.shape.kind === 'tube' || part.shape.kind === 'plate'" :part="part" />
  <template v-for="row in rows" :key="row.field.key">
    <AngleField
      v-if="row.field.kind === 'angle'"
      :label="row.field.label"
      :radians="row.value"
      :min="row.field.range?.[0]"
      :max="row.field.range?.[1]"
      @commit="row.set"
    />
    <NumberField
      v-else-if="row.field.kind === 'number'"
      :label="row.field.label"
      :value="row.value"
      unit=""
      :digits="2"
      :min="row.field.range?.[0]"
      :max="row.field.range?.[1]"
      @commit="(v) => row.set(row.field.whole ? Math.round(v) : v)"
    />
    <LengthField
      v-else
      :label="row.field.label"
      :value-mm="row.value"
      :unit="piece.whole.unit"
      :min-mm="leastOf(row.field)"
      @commit="row.set"
    />
  </template>
  <template v-if="part.shape.kind === 'thread'">
    <SelectRow
      label="Winds"
      name="Hand"
      :value="part.shape.hand"
      :choices="HANDS"
      @choose="(hand) => part.shape.kind === 'thread' && set({ shape: { ...part.shape, hand } })"
    />
    <p v-if="iso?.same" class="soft">Basic profile of ISO 68-1: 60°, crest P/8, root P/4.</p>
    <AButton v-else size="small" @click="iso?.take()">Profile of ISO 68-1 for this pitch</AButton>
  </template>
  <LengthField
    v-if="part.relation === 'separate' && part.shape.kind !== 'filling'"
    label="Clearance"
    :value-mm="part.clearanceMm"
    :unit="piece.whole.unit"
    :min-mm="0"
    placeholder="the body isn’t cut out"
    @commit="(mm) => set({ clearanceMm: mm || null })"
  />
  <p v-if="fit" class="soft" data-testid="fit">{{ fit }}</p>
  <template v-if="repeated">
    <label class="switch"
      ><ASwitch
        size="small"
        :checked="part.round !== null"
        @change="(on) => setRound(on ? { count: 4, rhythm: null } : null)"
      />
      Repeated about the axis</label
    >
    <template v-if="part.round">
      <NumberField
        label="Times"
        :value="part.round.count"
        unit=""
        :digits="0"
        :min="1"
        :max="360"
        @commit="(v) => setRound({ ...part.round!, count: Math.round(v) })"
      />
      <label v-if="part.shape.kind === 'sector'" class="switch"
        ><ASwitch
          size="small"
          :checked="part.round.rhythm !== null"
          @change="(on) => setRound({ ...part.round!, rhythm: on ? { up: 2, down: 1 } : null })"
        />
        By whole sides, in a rhythm</label
      >
      <template v-if="part.round.rhythm">
        <NumberField
          v-for="way in ['up', 'down'] as const"
          :key="way"
          :label="way === 'up' ? 'Sides up' : 'Sides down'"
          :value="part.round.rhythm[way]"
          unit=""
          :digits="0"
          :min="1"
          :max="100"
          @commit="
            (v) => setRound({ ...part.round!, rhythm: { ...part.round!.rhythm!, [way]: Math.round(v) } })
          "
        />
        <div v-if="refused" class="row" data-testid="rhythm-offers">
          <AButton
            v-for="n in refused.sides"
            :key="n"
            size="small"
            @click="piece.dispatch({ type: 'set-sides', sides: n })"
            >{{ n }} sides</AButton
          >
          <AButton
            v-if="refused.count"
            size="small"
            @click="setRound({ ...part.round!, count: refused!.count! })"
            >{{ refused.count }} repeats</AButton
          >
        </div>
      </template>
    </template>
  </template>
  <div class="row">
    <AButton size="small" @click="set({ shown: !part.shown })">{{ part.shown ? 'Hide' : 'Show' }}</AButton>
    <AButton
      size="small"
      :disabled="first"
      @click="piece.dispatch({ type: 'move-part', id: part.id, by: -1 })"
      >Earlier</AButton
    >
    <AButton size="small" :disabled="last" @click="piece.dispatch({ type: 'move-part', id: part.id, by: 1 })"
      >Later</AButton
    >
    <AButton size="small" @click="piece.dispatch({ type: 'remove-part', id: part.id })">Remove</AButton>
  </div>
</template>

<style scoped>
.switch {
  display: flex;
  gap: 6px;
  align-items: center;
  color: var(--ink-soft);
}
</style>

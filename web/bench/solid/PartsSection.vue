<script setup lang="ts">
import { computed, ref } from 'vue'
import { fillRange } from '../../../core/measure/capacity'
import { outerRadiusAt } from '../../../core/profile/at-height'
import { newPart, PART_KINDS, type PartKind } from '../../../core/piece/new-part'
import type { Part } from '../../../core/piece/schema'
import { BODY } from '../../../core/solid/assemble'
import FoldSection from '../../common/FoldSection.vue'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import PartCard from './PartCard.vue'
import { useBuild } from './use-build'

/** All parts in the order in which they work. */
const emit = defineEmits<{ shape: [part: string] }>()
const piece = usePiece()
const { built, figuresOf } = useBuild()
const pieces = computed(() => figuresOf(BODY)?.pieces ?? 1)
const parts = computed(() => piece.whole.parts)
/** The part whose card is open. */
const open = ref<string | null>(parts.value.length === 1 ? parts.value[0]!.id : null)

const RELATION_WORDS = { added: 'added', cut: 'cut away', common: 'kept in common', separate: 'by itself' }
function noteOf(part: Part): string {
  const problem = problemOf(part.id)
  if (problem) return problem
  if (!part.shown) return 'hidden, without effect'
  if (part.shape.kind === 'squeeze') return 'presses the body'
  const round = part.round && part.round.count > 1 ? `, ${part.round.count} times` : ''
  return `${RELATION_WORDS[part.relation]}${round}`
}
const problemOf = (id: string) => built.value?.problems.find((p) => p.part === id)?.message ?? ''

function add(kind: PartKind) {
  const { wholeDerived, whole } = piece
  const m = wholeDerived.measures!
  const solid = wholeDerived.solid!
  const part = newPart(kind, newId(), {
    lowestMm: m.lowestMm,
    highestMm: m.highestMm,
    maxRadiusMm: m.maxRadiusMm,
    radiusAt: (z) => outerRadiusAt(solid.hollow?.outside ?? solid.segments, z) ?? m.maxRadiusMm,
    sides: whole.solid.sides,
    side: whole.profile.side,
    fill: solid.hollow ? fillRange(solid.hollow.inside) : null,
  })
  piece.dispatch({ type: 'set-part', part })
  open.value = part.id
  if (kind === 'turned') emit('shape', part.id)
}
function chosen(event: Event) {
  const select = event.target as HTMLSelectElement
  if (select.value) add(select.value as PartKind)
  select.value = ''
}
</script>

<template>
  <FoldSection
    v-for="(part, i) in parts"
    :key="part.id"
    :open="open === part.id"
    :title="part.name"
    :note="noteOf(part)"
    :state="problemOf(part.id) ? 'doubt' : part.shown ? 'done' : 'waiting'"
    data-testid="part"
    @update:open="(on: boolean) => (open = on ? part.id : null)"
  >
    <PartCard :part="part" :first="i === 0" :last="i === parts.length - 1" @shape="emit('shape', part.id)" />
  </FoldSection>
  <p v-if="pieces > 1" class="doubt" role="alert">
    The body is in {{ pieces }} pieces: something isn’t joined to the rest.
  </p>
  <p v-if="!parts.length" class="soft">
    Only the revolved body so far. A cap, a thread, a crown of notches, a hole, a handle’s knob: each is a
    part.
  </p>
  <select
    class="add"
    aria-label="Add a part"
    data-testid="add-part"
    :disabled="!piece.wholeDerived.measures"
    @change="chosen"
  >
    <option value="">Add a part …</option>
    <option v-for="k in PART_KINDS" :key="k.kind" :value="k.kind">{{ k.words }}</option>
  </select>
</template>

<style scoped>
.doubt {
  color: var(--doubt);
}
.add {
  justify-self: start;
}
</style>

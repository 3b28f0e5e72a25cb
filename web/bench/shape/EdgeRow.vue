<script setup lang="ts">
import ChoiceRow from '../../common/ChoiceRow.vue'
import { computed } from 'vue'
import type { CornerEdge } from '../../../core/profile/profile'
import { formatLength } from '../../../core/units/format-length'
import { usePiece } from '../../stores/piece'
import PieceLength from './PieceLength.vue'

/** What corners are worked to: left sharp, rounded or bevelled, in real lengths. */
const props = defineProps<{ ids: string[]; edge: CornerEdge | null }>()
const piece = usePiece()

/** What a corner starts with: a millimetre makes everything look real. */
const USUAL_MM = 1

const KINDS = (['sharp', 'fillet', 'chamfer'] as const).map((value) => ({ value, text: value }))

const kind = computed(() => props.edge?.kind ?? 'sharp')
function choose(wanted: 'sharp' | CornerEdge['kind']) {
  const edge = wanted === 'sharp' ? null : { kind: wanted, mm: props.edge?.mm ?? USUAL_MM }
  piece.dispatch({ type: 'set-edge', ids: props.ids, edge })
}
function size(mm: number) {
  if (props.edge) piece.dispatch({ type: 'set-edge', ids: props.ids, edge: { ...props.edge, mm } })
}
const note = computed(() => piece.derived.edgeNotes.find((n) => props.ids.includes(n.nodeId)))
const words = computed(() => {
  if (!note.value) return ''
  const { unit } = piece.document
  const [made, asked] = [note.value.madeMm, note.value.askedMm].map((mm) => formatLength(mm, { unit }))
  return `Made ${made} instead of ${asked}: the neighbours are too short for more.`
})
</script>

<template>
  <ChoiceRow label="Edge" :value="kind" :choices="KINDS" @choose="choose" />
  <PieceLength
    v-if="edge"
    :label="edge.kind === 'fillet' ? 'Fillet radius' : 'Chamfer'"
    :value-mm="edge.mm"
    @commit="size"
  />
  <p v-if="words" class="doubt" role="status">{{ words }}</p>
</template>

<style scoped>
.doubt {
  color: var(--doubt);
  font-size: 12.5px;
}
</style>

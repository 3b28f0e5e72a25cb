<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed } from 'vue'
import { nearestEnds } from '../../../core/profile/strokes'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import { MEETING_MM } from '../use-pen'

/** Strokes that aren't joined to the one in hand. */
const bench = useBench()
const piece = usePiece()
const strokes = computed(() =>
  (piece.document.profile.aside ?? []).map(({ id, nodes }) => {
    const length = (mm: number) => formatLength(mm, { unit: piece.document.unit })
    const heights = nodes.map((n) => n.z)
    const ends = nearestEnds(piece.document.profile, id)
    return {
      id,
      words: `${nodes.length} node${nodes.length === 1 ? '' : 's'}, ${length(Math.min(...heights))} to ${length(Math.max(...heights))}`,
      gap: ends && ends.gapMm > MEETING_MM ? length(ends.gapMm) : null,
    }
  }),
)

function take(id: string) {
  piece.dispatch({ type: 'take-stroke', id, as: newId() })
  bench.select()
}
</script>

<template>
  <section v-if="strokes.length" class="strokes">
    <h3>{{ strokes.length === 1 ? 'One stroke lies aside' : `${strokes.length} strokes lie aside` }}</h3>
    <p class="soft">
      Drag or draw an end into the ring about another one and they join. The solid is made of the stroke in
      hand.
    </p>
    <div v-for="(stroke, i) in strokes" :key="stroke.id" class="row" data-testid="stroke-row">
      <span>{{ i + 1 }}: {{ stroke.words }}</span>
      <AButton size="small" @click="take(stroke.id)">Take in hand</AButton>
      <AButton
        size="small"
        @click="piece.dispatch({ type: 'join-stroke', id: stroke.id, mergeMm: MEETING_MM })"
        >{{ stroke.gap ? `Join over ${stroke.gap}` : 'Join' }}</AButton
      >
      <AButton size="small" @click="piece.dispatch({ type: 'drop-stroke', id: stroke.id })">Delete</AButton>
    </div>
  </section>
</template>

<style scoped>
.strokes {
  display: grid;
  gap: 6px;
  padding: 10px 12px;
  border: 1px dashed var(--doubt);
  border-radius: 6px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
}
</style>

<script setup lang="ts">
import { Button as AButton, Input as AInput } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { derive } from '../../../core/piece/derive'
import type { Checkpoint } from '../../../core/piece/schema'
import { formatLength } from '../../../core/units/format-length'
import { silhouettePath } from '../../common/silhouette'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'

/** States of the piece with names: kept, laid over the present one, and restored. */
const bench = useBench()
const piece = usePiece()
const name = ref('')

const PICTURE = 56
/** The silhouette, as a little picture. */
function silhouette(points: Float64Array): string {
  let [low, high, wide] = [Infinity, -Infinity, 0]
  for (let i = 0; i < points.length; i += 2) {
    wide = Math.max(wide, points[i]!)
    low = Math.min(low, points[i + 1]!)
    high = Math.max(high, points[i + 1]!)
  }
  const pxPerMm = (PICTURE - 8) / Math.max(high - low, 2 * wide, 1e-9)
  return silhouettePath(points, { x: PICTURE / 2, y: PICTURE / 2 + ((low + high) / 2) * pxPerMm, pxPerMm })
}

const items = computed(() =>
  piece.document.checkpoints.map((checkpoint) => {
    const derived = derive({ ...piece.document, ...checkpoint.state })
    const { measures, drawn } = derived
    const { unit } = piece.document
    return {
      checkpoint,
      picture: drawn.points.length > 3 ? silhouette(drawn.points) : null,
      words: measures
        ? `⌀ ${formatLength(2 * measures.maxRadiusMm, { unit, withUnit: false })} × ${formatLength(measures.heightMm, { unit })}`
        : 'photo placed and scaled',
    }
  }),
)
const when = (at: string) =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })

function keep() {
  const typed = name.value.trim() || `State ${piece.document.checkpoints.length + 1}`
  piece.dispatch({ type: 'keep-checkpoint', id: newId(), name: typed, at: new Date().toISOString(), by: 'hand' }) // prettier-ignore
  name.value = ''
}
function restore({ id }: Checkpoint) {
  bench.select()
  piece.dispatch({ type: 'restore-checkpoint', id })
}
function compare({ id }: Checkpoint) {
  bench.compared = bench.compared === id ? null : id
}
</script>

<template>
  <form class="keep" @submit.prevent="keep">
    <AInput
      v-model:value="name"
      placeholder="Name of this state"
      :maxlength="120"
      aria-label="Name of this state"
    />
    <AButton html-type="submit">Keep</AButton>
  </form>
  <p v-if="items.length === 0" class="soft">
    None yet. When the photo is placed and scaled, the first one is kept by itself.
  </p>
  <ul data-testid="checkpoints">
    <li v-for="{ checkpoint, picture, words } in items" :key="checkpoint.id">
      <svg :width="PICTURE" :height="PICTURE" aria-hidden="true">
        <path v-if="picture" :d="picture" class="shape" />
        <path
          v-else
          :d="`M${PICTURE / 2} 8V${PICTURE - 8}M14 ${PICTURE - 10}H${PICTURE - 14}`"
          class="axis"
        />
      </svg>
      <div>
        <strong>{{ checkpoint.name }}</strong>
        <div class="soft">{{ words }}</div>
        <div class="soft">{{ when(checkpoint.at) }}</div>
        <div class="row">
          <AButton size="small" @click="restore(checkpoint)">Restore</AButton>
          <AButton
            v-if="picture"
            size="small"
            :aria-pressed="bench.compared === checkpoint.id"
            @click="compare(checkpoint)"
            >{{ bench.compared === checkpoint.id ? 'Stop comparing' : 'Compare' }}</AButton
          >
          <AButton
            size="small"
            type="text"
            :aria-label="`Remove the checkpoint ${checkpoint.name}`"
            @click="piece.dispatch({ type: 'remove-checkpoint', id: checkpoint.id })"
            >Remove</AButton
          >
        </div>
      </div>
    </li>
  </ul>
</template>

<style scoped>
.keep {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px;
  margin-bottom: 8px;
}
ul {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 56px 1fr;
  gap: 10px;
  padding: 8px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
svg {
  border-radius: 4px;
  background: var(--surround);
}
.shape {
  fill: var(--solid);
}
.axis {
  fill: none;
  stroke: var(--ink-soft);
  stroke-dasharray: 5 2 1 2;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-top: 4px;
}
.soft {
  font-size: 12.5px;
}
</style>

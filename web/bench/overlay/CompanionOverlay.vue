<script setup lang="ts">
import { computed } from 'vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { COMPANIONS } from '../solid/companions'

/** Something of known size that stands beside the piece, at its scale. */
const props = defineProps<{ width: number }>()
const bench = useBench()
const piece = usePiece()

/** Between the piece and its companion, mm as a share of the companion's breadth. */
const GAP = 0.25
/** The height scale's breadth, px. */
const RULER_PX = 60
const shown = computed(() => {
  const companion = COMPANIONS.find((c) => c.id === bench.solid.companion)
  const measures = piece.wholeDerived.measures
  if (!companion || !measures) return null
  const { pxPerMm, groundY, solidAxisX } = bench.view
  const factor = piece.whole.calibration.finish.factor
  // The companion is as large as it is beside the finished piece.
  const scale = pxPerMm / factor
  const breadth = companion.widthMm * scale
  const right = solidAxisX + measures.maxRadiusMm * pxPerMm + GAP * breadth
  const left = solidAxisX - measures.maxRadiusMm * pxPerMm - (1 + GAP) * breadth
  // On the right where there is room, else on the left; without any it stands behind the piece, at the edge.
  const fits = right + breadth <= props.width || left < RULER_PX
  const x = fits ? Math.max(RULER_PX, Math.min(right, props.width - breadth)) : left
  return { companion, transform: `translate(${x} ${groundY}) scale(${scale} ${-scale})`, right: Math.min(x + breadth, props.width - 6), below: groundY + 20 } // prettier-ignore
})
</script>

<template>
  <g v-if="shown" data-testid="companion">
    <g :transform="shown.transform" class="companion">
      <path
        v-for="(part, i) in shown.companion.parts"
        :key="i"
        :d="part.d"
        :stroke-width="part.stroke ?? 0"
        :class="{ line: part.stroke }"
      />
    </g>
    <text :x="shown.right" :y="shown.below" text-anchor="end">{{ shown.companion.words }}</text>
  </g>
</template>

<style scoped>
text {
  fill: var(--ink);
  font-size: 12.5px;
}
.companion {
  opacity: 0.42;
}
path {
  fill: var(--ink-soft);
}
.line {
  fill: none;
  stroke: var(--ink-soft);
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>

<script setup lang="ts">
import { Slider as ASlider, Switch as ASwitch } from 'ant-design-vue'
import { computed } from 'vue'
import ChoiceRow from '../../common/ChoiceRow.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** How the solid is shown: nothing of it is kept with the piece. */
const bench = useBench()
const piece = usePiece()
const CUTS = { no: 0, quarter: Math.PI / 2, half: Math.PI }
const CUT_WORDS = [
  { value: 'no', text: 'no' },
  { value: 'quarter', text: 'a quarter' },
  { value: 'half', text: 'half' },
] as const
/** What the surface can show of this piece. */
const surfaces = computed(() => [
  { value: 'plain' as const, text: 'plain colours' },
  { value: 'materials' as const, text: 'its materials' },
  ...(piece.wholeDerived.solid?.hollow
    ? [{ value: 'thickness' as const, text: 'thickness of the wall' }]
    : []),
  ...(piece.whole.outline
    ? [{ value: 'deviation' as const, text: 'distance from the photo’s outline' }]
    : []),
])
const opened = computed(() => (bench.solid.cut === 0 ? 'no' : bench.solid.cut < 2 ? 'quarter' : 'half'))
/** Opens the side that faces the eye; a quarter on the right, so that both its faces are seen. */
function open(how: keyof typeof CUTS) {
  const facing = bench.solid.azimuth - Math.PI / 2
  bench.solid.cut = CUTS[how]
  bench.solid.cutFrom = facing + Math.PI / 2
}
</script>

<template>
  <section class="card">
    <ChoiceRow label="Cut open" :value="opened" :choices="CUT_WORDS" @choose="open" />
    <label class="pair"
      ><span class="name">Surface</span>
      <select v-model="bench.solid.surface" aria-label="Surface shows">
        <option v-for="c in surfaces" :key="c.value" :value="c.value">{{ c.text }}</option>
      </select></label
    >
    <label class="switch"><ASwitch v-model:checked="bench.solid.wire" size="small" /> Wire</label>
    <label class="switch"
      ><ASwitch v-model:checked="bench.solid.photoBeneath" size="small" :disabled="!piece.document.photo" />
      Photo beneath (side view)</label
    >
    <div v-if="bench.solid.photoBeneath" class="pair">
      <span id="opacity-label" class="name">Solid over photo</span>
      <ASlider
        v-model:value="bench.solid.opacity"
        :min="0"
        :max="1"
        :step="0.05"
        :tip-formatter="(v?: number) => `${Math.round((v ?? 0) * 100)} %`"
        aria-labelledby="opacity-label"
      />
    </div>
    <p class="soft">
      Drag the solid to turn it; level it again with the side view, whose heights agree with the photo’s.
    </p>
  </section>
</template>

<style scoped src="../shape/card.css"></style>

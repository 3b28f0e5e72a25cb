<script setup lang="ts">
import {
  Button as AButton,
  RadioButton as ARadioButton,
  RadioGroup as ARadioGroup,
  Slider as ASlider,
  Switch as ASwitch,
} from 'ant-design-vue'
import { computed } from 'vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import SidesSection from '../solid/SidesSection.vue'
import TurnSection from '../solid/TurnSection.vue'
import WallSection from '../solid/WallSection.vue'
import PanelFrame from './PanelFrame.vue'

const emit = defineEmits<{ next: [] }>()
const bench = useBench()
const piece = usePiece()
const CUTS = { no: 0, quarter: Math.PI / 2, half: Math.PI }
const opened = computed(() => (bench.solid.cut === 0 ? 'no' : bench.solid.cut < 2 ? 'quarter' : 'half'))
/** Opens the side that faces the eye; a quarter on the right, so that both its faces are seen. */
function open(how: keyof typeof CUTS) {
  const facing = bench.solid.azimuth - Math.PI / 2
  bench.solid.cut = CUTS[how]
  bench.solid.cutFrom = facing + Math.PI / 2
}
</script>

<template>
  <PanelFrame title="Solid" lead="The half-profile revolved about the axis.">
    <WallSection />
    <SidesSection />
    <section class="card"><TurnSection /></section>
    <h3>Look</h3>
    <div class="field">
      <span>Cut open</span>
      <ARadioGroup size="small" :value="opened" aria-label="Cut open" @update:value="open">
        <ARadioButton value="no">no</ARadioButton>
        <ARadioButton value="quarter">a quarter</ARadioButton>
        <ARadioButton value="half">half</ARadioButton>
      </ARadioGroup>
    </div>
    <label class="switch"><ASwitch v-model:checked="bench.solid.wire" size="small" /> Wire</label>
    <label class="switch"
      ><ASwitch v-model:checked="bench.solid.photoBeneath" size="small" :disabled="!piece.document.photo" />
      Photo beneath (side view)</label
    >
    <div v-if="bench.solid.photoBeneath" class="field">
      <span id="opacity-label">Solid over photo</span>
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
    <div class="row">
      <AButton :disabled="bench.solid.elevation === 0" @click="bench.solid.elevation = 0">Side view</AButton>
      <AButton type="primary" :disabled="!piece.derived.solid" @click="emit('next')">Check it</AButton>
    </div>
  </PanelFrame>
</template>

<style scoped src="../shape/card.css"></style>
<style scoped>
.field {
  display: grid;
  grid-template-columns: 110px 1fr;
  align-items: center;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.switch {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>

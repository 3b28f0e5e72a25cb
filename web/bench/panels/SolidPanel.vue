<script setup lang="ts">
import { Button as AButton, RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'
import { useBench } from '../../stores/bench'
import { INSIDE, usePiece } from '../../stores/piece'
import CageSection from '../solid/CageSection.vue'
import LookSection from '../solid/LookSection.vue'
import PartsSection from '../solid/PartsSection.vue'
import SidesSection from '../solid/SidesSection.vue'
import TurnSection from '../solid/TurnSection.vue'
import WallSection from '../solid/WallSection.vue'
import ZonesSection from '../solid/ZonesSection.vue'
import PanelFrame from './PanelFrame.vue'

const emit = defineEmits<{ next: []; shape: [part: string] }>()
const bench = useBench()
const piece = usePiece()
const LEADS = {
  body: 'The half-profile revolved about the axis.',
  parts: 'What is added to the body, cut out of it, or stands beside it.',
  zones: 'Bands with a material of their own.',
  look: 'How the solid is shown here.',
}
</script>

<template>
  <PanelFrame title="Solid" :lead="LEADS[bench.solidSheet]">
    <ARadioGroup v-model:value="bench.solidSheet" size="small" aria-label="What to work on" class="sheets">
      <ARadioButton value="body">Body</ARadioButton>
      <ARadioButton value="parts">Parts</ARadioButton>
      <ARadioButton value="zones">Zones</ARadioButton>
      <ARadioButton value="look">Look</ARadioButton>
    </ARadioGroup>
    <template v-if="bench.solidSheet === 'body'">
      <WallSection @shape="emit('shape', INSIDE)" />
      <SidesSection />
      <section class="card"><TurnSection /></section>
      <CageSection />
    </template>
    <PartsSection v-else-if="bench.solidSheet === 'parts'" @shape="(id: string) => emit('shape', id)" />
    <ZonesSection v-else-if="bench.solidSheet === 'zones'" />
    <LookSection v-else />
    <div class="row">
      <AButton :disabled="bench.solid.elevation === 0" @click="bench.solid.elevation = 0">Side view</AButton>
      <AButton type="primary" :disabled="!piece.derived.solid" @click="emit('next')">Check it</AButton>
    </div>
  </PanelFrame>
</template>

<style scoped src="../shape/card.css"></style>
<style scoped>
.sheets {
  display: grid;
  grid-auto-columns: 1fr;
  grid-auto-flow: column;
  text-align: center;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>

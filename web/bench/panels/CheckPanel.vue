<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed } from 'vue'
import { isAssembled } from '../../../core/piece/plan-assembly'
import { formatLength } from '../../../core/units/format-length'
import { usePiece } from '../../stores/piece'
import { useFigures } from '../use-figures'
import UnitChoice from '../UnitChoice.vue'
import PrintSection from '../solid/PrintSection.vue'
import SilhouetteSection from '../solid/SilhouetteSection.vue'
import VesselSection from '../solid/VesselSection.vue'
import PanelFrame from './PanelFrame.vue'

const emit = defineEmits<{ next: [] }>()
const piece = usePiece()
const figures = useFigures()
const assembled = computed(() => isAssembled(piece.whole))
const finish = computed(() => piece.document.calibration.finish)
const finished = computed(() =>
  formatLength((piece.derived.measures?.heightMm ?? 0) * finish.value.factor, { unit: piece.document.unit }),
)
/** Sides cut the corners of the circle: their prism has this share of its volume. */
const facetLoss = computed(() => {
  const n = piece.document.solid.sides
  return (100 * (1 - (n / (2 * Math.PI)) * Math.sin((2 * Math.PI) / n))).toPrecision(2)
})
</script>

<template>
  <PanelFrame title="Check" lead="Compare these with caliper and kitchen scales before the files leave.">
    <dl v-if="figures" class="figures">
      <dt>Height</dt>
      <dd>{{ figures.height }}</dd>
      <dt>Largest ⌀</dt>
      <dd>
        {{ figures.diameter }} <span class="soft">(radius {{ figures.radius }})</span>
      </dd>
      <dt>at height</dt>
      <dd>{{ figures.at }}</dd>
      <dt>Lowest point</dt>
      <dd>{{ figures.lowest }}</dd>
      <dt>Volume</dt>
      <dd>{{ figures.volume }}</dd>
      <dt>Surface</dt>
      <dd>{{ figures.area }}</dd>
    </dl>
    <p v-else class="soft">There is no solid to measure yet.</p>
    <p v-if="figures" class="soft">
      Of the exact curve,
      {{
        piece.derived.solid?.hollow
          ? 'with its wall: volume of the material, surface of both sides'
          : 'filled solid'
      }}<template v-if="assembled">; what its parts change, from their meshes</template>. A mesh of
      {{ piece.document.solid.sides }} sides holds {{ facetLoss }} % less.
    </p>
    <SilhouetteSection v-if="figures && piece.document.photo" />
    <VesselSection />
    <PrintSection />
    <p v-if="piece.derived.calibration.view.kind === 'distant'" class="soft">
      Read as if all rays were parallel. From a camera five heights away readings err by 1 to 2 % of the
      height, from farther less.
    </p>
    <p v-else class="soft">Read through the photo’s own camera; Calibrate says what error remains.</p>
    <p v-if="finish.factor !== 1" class="soft">
      Files leave {{ finish.text }} of this size, {{ finished }} tall.
    </p>
    <UnitChoice />
    <AButton type="primary" :disabled="!piece.derived.solid" @click="emit('next')">Hand over</AButton>
  </PanelFrame>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 6px 8px;
  margin: 0;
  padding: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-weight: 600;
}
dd .soft {
  font-weight: 400;
}
</style>

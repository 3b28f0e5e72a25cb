<script setup lang="ts">
import {
  Button as AButton,
  InputNumber as AInputNumber,
  Slider as ASlider,
  Switch as ASwitch,
} from 'ant-design-vue'
import { computed } from 'vue'
import { LEAST_SIDES, MOST_SIDES } from '../../../core/solid/revolve'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import PanelFrame from './PanelFrame.vue'
import { triangleTotal } from '../triangle-total'

const emit = defineEmits<{ next: [] }>()
const bench = useBench()
const piece = usePiece()
const PRESETS = [8, 12, 16, 32, 64, 128]
const sides = computed(() => piece.document.solid.sides)
const triangles = computed(() => triangleTotal(piece.derived.solid, sides.value).toLocaleString('en'))
/** Largest distance of a flat side from the true circle. */
const flatness = computed(() => {
  const r = piece.derived.measures?.maxRadiusMm ?? 0
  return formatLength(r * (1 - Math.cos(Math.PI / sides.value)), { unit: piece.document.unit, decimals: 3 })
})

function setSides(value: unknown) {
  if (typeof value === 'number' && Number.isInteger(value) && value >= LEAST_SIDES && value <= MOST_SIDES) {
    piece.dispatch({ type: 'set-sides', sides: value }, 'sides')
  }
}
</script>

<template>
  <PanelFrame title="Solid" lead="The half-profile revolved about the axis.">
    <div class="field">
      <label for="sides">Sides</label>
      <AInputNumber
        id="sides"
        :value="sides"
        :min="LEAST_SIDES"
        :max="MOST_SIDES"
        :precision="0"
        @change="setSides"
      />
    </div>
    <div class="row" role="group" aria-label="Usual numbers of sides">
      <AButton
        v-for="n in PRESETS"
        :key="n"
        size="small"
        :type="n === sides ? 'primary' : 'default'"
        @click="setSides(n)"
        >{{ n }}</AButton
      >
    </div>
    <p v-if="piece.derived.solid">
      <strong data-testid="triangles">{{ triangles }}</strong> triangles. The ⌀ is across the corners; the
      middle of a side lies {{ flatness }} inside the true circle.
    </p>
    <h3>Look</h3>
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

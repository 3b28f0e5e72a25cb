<script setup lang="ts">
import { computed, ref } from 'vue'
import { boxFitsBed, boxOfTurn, fitsBed, overhangs } from '../../../core/measure/printing'
import { formatLength } from '../../../core/units/format-length'
import LengthField from '../../common/LengthField.vue'
import NumberField from '../../common/NumberField.vue'
import { usePiece } from '../../stores/piece'
import { usePreferences } from '../../stores/preferences'
import { formatArea } from '../use-figures'
import { useBuild } from './use-build'

/** Whether a printer can make the piece: its room, and what hangs out over nothing. */
const piece = usePiece()
const preferences = usePreferences()
const unit = computed(() => piece.document.unit)
const length = (mm: number) => formatLength(mm, { unit: unit.value })
const limit = ref(45)

const factor = computed(() => piece.document.calibration.finish.factor)
const { figuresOf } = useBuild()
/** With parts, of what booleans made of the body. */
const joined = computed(() => figuresOf('body')?.printing ?? null)
const fit = computed(() => {
  const m = piece.derived.measures!
  const { turn } = piece.document.solid
  const box = joined.value?.box ?? (turn && [...boxOfTurn(m.maxRadiusMm, turn), m.heightMm])
  if (box) return boxFitsBed(box.map((mm) => mm * factor.value) as [number, number, number], preferences.bed)
  return fitsBed(2 * m.maxRadiusMm * factor.value, m.heightMm * factor.value, preferences.bed)
})
const LABELS = { width: 'Plate width', depth: 'Plate depth', height: 'Room height' }
const FIT_WORDS = {
  standing: 'It fits standing.',
  lying: 'It fits lying only; support it along its side.',
  not: 'It doesn’t fit; cut it or make it smaller.',
}
const hanging = computed(() => {
  const { segments, hollow } = piece.derived.solid!
  const from = hollow ? segments.length - hollow.inside.length : Infinity
  return overhangs(segments, (Math.PI * limit.value) / 180, from)
})
/** Area that hangs out over nothing, with all parts; null without any. */
const hangingArea = computed(() => {
  const areas = joined.value?.hangingMm2
  return areas ? areas[Math.min(90, Math.max(0, Math.round(limit.value)))]! * factor.value ** 2 : null
})
</script>

<template>
  <section v-if="piece.derived.solid && piece.derived.measures" class="card">
    <h3>Printing</h3>
    <LengthField
      v-for="side in ['width', 'depth', 'height'] as const"
      :key="side"
      :label="LABELS[side]"
      :value-mm="preferences.bed[side]"
      :unit="unit"
      @commit="(mm) => (preferences.bed = { ...preferences.bed, [side]: mm })"
    />
    <p :class="{ doubt: fit === 'not' }" data-testid="fits">{{ FIT_WORDS[fit] }}</p>
    <NumberField
      label="Leans up to"
      :value="limit"
      unit="°"
      :digits="0"
      :min="0"
      :max="90"
      @commit="(v) => (limit = v)"
    />
    <p v-if="hanging.length === 0" data-testid="overhangs">Printed upright nothing leans out further.</p>
    <ul v-else data-testid="overhangs">
      <li v-for="(o, i) in hanging" :key="i">
        {{ o.inside ? 'Inside' : 'Outside' }} from {{ length(o.from) }} to {{ length(o.to) }}, by up to
        {{ ((180 * o.most) / Math.PI).toFixed(1) }}°
      </li>
    </ul>
    <p v-if="hangingArea !== null" data-testid="hanging-area">
      With its parts {{ formatArea(hangingArea, unit) }} of it lean out further; the heights above are those
      of the turned body.
    </p>
  </section>
</template>

<style scoped src="../shape/card.css"></style>
<style scoped>
ul {
  margin: 0;
  padding-left: 18px;
}
</style>

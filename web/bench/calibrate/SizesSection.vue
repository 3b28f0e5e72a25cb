<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed } from 'vue'
import { DISTANCE_CONTRADICTS, DISTANCE_FAR_OFF } from '../../../core/calibrate/calibrate'
import { STANDARD_SIZES } from '../../../core/calibrate/standards'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import SizeRow from './SizeRow.vue'

/** All known sizes with what the common scale makes of each. */
const bench = useBench()
const piece = usePiece()
const sizes = computed(() => piece.document.calibration.knownSizes)
const solved = computed(() => piece.derived.calibration)
const chosen = computed(() => sizes.value.find((s) => s.id === bench.chosenSize))

/** The focal length has given way to the tape, so that sizes that agree with it say nothing. */
const contradicted = computed(() =>
  solved.value.problems.some(({ code }) => code === DISTANCE_CONTRADICTS || code === DISTANCE_FAR_OFF),
)
const summary = computed(() => {
  const { scale } = solved.value
  const on = scale?.sizes.length ?? 0
  if (!scale) return ''
  if (on === 1) return 'With one size only, nothing checks it. A second one would.'
  const share = `The scale is good to ±${(100 * scale.relativeSe).toPrecision(2)} %.`
  if (scale.outlier) return `${share} One size disagrees with the others.`
  if (scale.disagree)
    return on === 2
      ? `${share} The two disagree by more than their errors; a third would tell which is wrong.`
      : `${share} They disagree by more than their errors, and no single one explains it. Is the camera near?`
  if (contradicted.value)
    return 'The sizes agree only by another focal length than the photo’s: how good the scale is can’t be told.'
  return `${share} All ${on} agree.`
})

/** An everyday thing's standard size for the chosen marks. */
function useStandard(event: Event) {
  const select = event.target as HTMLSelectElement
  const standard = STANDARD_SIZES.find((s) => s.id === select.value)
  const size = chosen.value
  select.value = ''
  if (!standard || !size) return
  const { mm, toleranceMm, source } = standard
  piece.dispatch({
    type: 'set-known-size',
    size: {
      ...size,
      mm,
      text: `${mm} mm`,
      radius: false,
      source,
      toleranceMm,
      lies: size.lies === 'side' ? 'axis' : size.lies,
    },
  })
}
</script>

<template>
  <p v-if="sizes.length === 0" class="soft">
    Two clicks at the ends of something whose real size you know: the height, a diameter, a card leaning
    beside it.
  </p>
  <SizeRow v-for="(size, i) in sizes" :key="size.id" :size="size" :number="i + 1" />
  <p
    v-if="summary"
    role="status"
    :class="solved.scale?.outlier || solved.scale?.disagree || contradicted ? 'doubt' : 'soft'"
    data-testid="scale-summary"
  >
    {{ summary }}
  </p>
  <div class="row">
    <AButton
      size="small"
      :disabled="!solved.known.axis"
      :type="
        bench.tool === 'size' || (solved.known.axis && solved.known.ground && sizes.length === 0)
          ? 'primary'
          : 'default'
      "
      @click="bench.tool = bench.tool === 'size' ? 'none' : 'size'"
      >{{ sizes.length ? 'Mark another size' : 'Mark a known size' }}</AButton
    >
    <select v-if="chosen" aria-label="Standard size for the open row" @change="useStandard">
      <option value="">Everyday thing …</option>
      <option v-for="s in STANDARD_SIZES" :key="s.id" :value="s.id">
        {{ s.name }}, {{ s.side }}: {{ s.mm }} mm ({{ s.from }})
      </option>
    </select>
  </div>
</template>

<style scoped>
select {
  max-width: 136px;
  padding: 2px 6px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--card);
  color: inherit;
  font: inherit;
  font-size: 13px;
}
</style>

<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, nextTick, ref, watch } from 'vue'
import type { SolvedScale } from '../../../core/calibrate/scale'
import FoldSection from '../../common/FoldSection.vue'
import HeightPlot from '../../common/HeightPlot.vue'
import { joined } from '../../common/joined'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import AxisSection from '../calibrate/AxisSection.vue'
import LensSection from '../calibrate/LensSection.vue'
import MeasureSection from '../calibrate/MeasureSection.vue'
import SizesSection from '../calibrate/SizesSection.vue'
import { useSearch } from '../calibrate/use-search'
import ViewSection from '../calibrate/ViewSection.vue'
import SearchButton from '../SearchButton.vue'
import type { CalibrationTools } from '../use-calibration-tools'
import PanelFrame from './PanelFrame.vue'

const props = defineProps<{ tools: CalibrationTools | null }>()
const emit = defineEmits<{ next: [] }>()
const piece = usePiece()
const bench = useBench()
const search = useSearch()
const root = ref<HTMLElement | null>(null)
const calibration = computed(() => piece.document.calibration)
const solved = computed(() => piece.derived.calibration)
const open = ref({ axis: false, sizes: true, view: false, lens: false, measure: false })
// A single size lies open: it is what one comes to correct.
if (calibration.value.knownSizes.length === 1) bench.chosenSize = calibration.value.knownSizes[0]!.id
watch(
  () => solved.value.known.axis && solved.value.known.ground,
  (known) => (open.value.axis = !known),
  { immediate: true },
)

const counted = (scale: SolvedScale) => scale.sizes.length - (scale.outlier ? 1 : 0)
const degrees = (radians: number) => ((radians * 180) / Math.PI).toFixed(2)
const notes = computed(() => {
  const { known, scale, near, tilt, view } = solved.value
  const { lens, correction, finish } = calibration.value
  return {
    axis: known.axis ? `leans ${degrees(tilt)}°${known.ground ? '' : ', no ground yet'}` : 'not set',
    sizes: scale
      ? `${counted(scale)} count${counted(scale) === 1 ? 's' : ''}${scale.outlier ? ', one disagrees' : ''}`
      : 'none yet',
    view:
      view.kind === 'near'
        ? near?.assumed.pitch
          ? 'near, tilt taken for level'
          : `near, tilt ${degrees(near?.pitch.value ?? 0)}°`
        : 'distant, parallel rays',
    lens: lens ? `k1 ${lens.k1.toFixed(4)}` : 'no distortion',
    measure: [
      correction !== 1 ? `corrected × ${correction.toFixed(4)}` : '',
      finish.factor !== 1 ? `finished × ${finish.factor.toPrecision(4)}` : '',
    ]
      .filter(Boolean)
      .join(', '),
  }
})
const problems = computed(() => solved.value.problems.filter((p) => p.code !== 'size-untyped'))
/** No standard error is shown as nothing: the model isn't better than that. */
const atLeast = (value: number, digits: number) => Math.max(value, 10 ** -digits).toFixed(digits)
const found = computed(() => (search.found?.sha256 === piece.document.photo?.sha256 ? search.found : null))
const difference = computed(
  () =>
    found.value?.difference.map(({ along, px, agrees }) => ({ at: along, value: px, counts: agrees })) ?? [],
)
const foundWords = computed(() => {
  const f = found.value
  if (!f) return ''
  const rings = f.rings.length
    ? ` and the ${f.rings.map((r) => r.place).join(' and ')} as ellipse${f.rings.length > 1 ? 's' : ''}`
    : ''
  return `Axis to ±${atLeast(f.plumb.sdOffset, 2)} px and ±${atLeast((f.plumb.sdAngle * 180) / Math.PI, 3)}°${rings}; ${Math.round(100 * f.agreeing)} % of both edges agree.${
    f.rings.some((r) => r.place === 'foot')
      ? ''
      : solved.value.view.kind === 'near'
        ? ' The foot’s ring doesn’t show clearly: its middle is reckoned from its near edge.'
        : ' The foot is taken at its lowest visible place.'
  }`
})

async function find() {
  const size = await search.run()
  if (size) await focusSize(size)
}
async function focusSize(id: string) {
  open.value.sizes = true
  await nextTick()
  const n = calibration.value.knownSizes.findIndex((s) => s.id === id) + 1
  root.value?.querySelector<HTMLInputElement>(`[data-testid="size-${n}"] input`)?.focus()
}
defineExpose({ focusSize })
</script>

<template>
  <PanelFrame title="Calibrate" lead="Axis, ground and known sizes turn pixels into millimetres.">
    <div ref="root" class="sections">
      <div class="find">
        <SearchButton
          :primary="!solved.known.axis"
          name="Find axis, foot and rim"
          :keep-axis="false"
          testid="find"
          @search="find"
        />
        <p v-if="search.problem" class="doubt" role="alert">{{ search.problem }}</p>
        <template v-else-if="found">
          <p class="soft" role="status" data-testid="found">{{ joined(foundWords) }}</p>
          <HeightPlot
            :dots="difference"
            unit="px"
            :least="1"
            label="Left minus right edge from foot to top"
            caption="Left minus right edge, foot to top; crosses don’t count."
          />
        </template>
      </div>
      <p v-for="problem in problems" :key="problem.code" class="doubt" role="alert">{{ problem.message }}</p>
      <FoldSection
        v-model:open="open.axis"
        title="Axis, level, ground"
        :note="notes.axis"
        :state="solved.known.axis && solved.known.ground ? 'done' : 'waiting'"
        ><AxisSection :tools="props.tools"
      /></FoldSection>
      <FoldSection
        v-model:open="open.sizes"
        title="Known sizes"
        :note="notes.sizes"
        :state="
          solved.scale?.outlier || solved.scale?.disagree ? 'doubt' : solved.known.scale ? 'done' : 'waiting'
        "
        ><SizesSection
      /></FoldSection>
      <FoldSection
        v-model:open="open.view"
        title="View"
        :note="notes.view"
        :state="solved.near?.assumed.pitch ? 'doubt' : 'done'"
        ><ViewSection
      /></FoldSection>
      <FoldSection
        v-model:open="open.lens"
        title="Lens"
        :note="notes.lens"
        :state="calibration.lens ? 'done' : 'waiting'"
        ><LensSection :tools="props.tools"
      /></FoldSection>
      <FoldSection
        v-model:open="open.measure"
        title="Measure, correct, finish"
        :note="notes.measure"
        state="waiting"
        ><MeasureSection
      /></FoldSection>
      <template v-if="solved.known.scale">
        <p class="result">
          1 px is
          <strong data-testid="mm-per-px">{{ solved.frame.mmPerPx.toPrecision(5) }} mm</strong>
          on the axis.
        </p>
        <AButton type="primary" @click="emit('next')">Find the outline</AButton>
      </template>
    </div>
  </PanelFrame>
</template>

<style scoped>
.sections,
.find {
  display: grid;
  gap: 9px;
}
.doubt {
  color: var(--doubt);
}
.result strong {
  white-space: nowrap;
}
</style>

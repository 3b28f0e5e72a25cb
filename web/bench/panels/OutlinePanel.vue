<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, onBeforeUnmount, ref } from 'vue'
import { cameraEffect } from '../../../core/calibrate/camera-effect'
import { readDoubts } from '../../../core/calibrate/read-doubts'
import { LEAST_BOTH, outlineDoubts } from '../../../core/outline/outline-doubts'
import { sidesOf, usualFit } from '../../../core/piece/outline'
import { agreeShare, seenShare } from '../../../core/piece/outline-report'
import { formatLength } from '../../../core/units/format-length'
import { MM_PER_UNIT, typedUnit } from '../../../core/units/units'
import FoldSection from '../../common/FoldSection.vue'
import HeightPlot from '../../common/HeightPlot.vue'
import { joined } from '../../common/joined'
import LengthField from '../../common/LengthField.vue'
import { readAhead } from '../../workers/read-ahead'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { useSearch } from '../calibrate/use-search'
import { newId } from '../new-id'
import HelpSection from '../outline/HelpSection.vue'
import StretchList from '../outline/StretchList.vue'
import type { EdgePen } from '../outline/use-edge-pen'
import { useOutlineRead } from '../outline/use-outline-read'
import SearchButton from '../SearchButton.vue'
import PanelFrame from './PanelFrame.vue'

const props = defineProps<{ pen: EdgePen | null }>()
const emit = defineEmits<{ next: [] }>()
const piece = usePiece()
const bench = useBench()
const search = useSearch()
const open = ref({ unsure: false, help: false, symmetry: false, camera: false, fit: false })
onBeforeUnmount(() => (bench.stretch = null))

const unit = computed(() => piece.document.unit)
const calibration = computed(() => piece.derived.calibration)
const { outline, read, stretches } = useOutlineRead()
const length = (mm: number) => formatLength(mm, { unit: unit.value })

const doubts = computed(() => [
  ...(outline.value ? outlineDoubts(sidesOf(outline.value)) : []),
  ...(read.value ? readDoubts(read.value) : []),
])

const summary = computed(() => {
  if (!read.value) return ''
  const middle = (values: Iterable<number>) => {
    const sorted = [...values].filter(Number.isFinite).sort((p, q) => p - q)
    return sorted[sorted.length >> 1] ?? NaN
  }
  const px = middle(read.value.half.sd).toFixed(2)
  const seen = `Seen over ${Math.floor(100 * seenShare(read.value))} % of the height. By its noise the edge is known to ±${px} px`
  if (!calibration.value.known.scale) return `${seen}.`
  return `${seen}; with camera and scale a radius is known to ±${length(middle(read.value.sd))}.`
})
/** Few enough for a plot, and the noise of single points out of the way. */
const symmetry = computed(() => {
  const half = read.value?.half
  if (!half) return []
  const step = Math.max(1, Math.floor(half.states.length / 300))
  return half.states.flatMap((state, i) => {
    const value = half.difference[i]!
    return i % step || !Number.isFinite(value)
      ? []
      : [{ at: half.points[2 * i + 1]!, value, counts: state === 'both' }]
  })
})
const agree = computed(() => (read.value ? agreeShare(read.value) : 0))
const effect = computed(() =>
  read.value && outline.value && open.value.camera
    ? cameraEffect(calibration.value, sidesOf(outline.value), read.value)
    : null,
)
const camera = computed(() => {
  const e = effect.value
  if (!e) return null
  return {
    dots: e.differences.map(({ z, mm }) => ({
      at: z,
      value: (2 * mm) / MM_PER_UNIT[typedUnit(unit.value)],
      counts: true,
    })),
    words: `Read with parallel rays the ⌀ would be up to ${length(2 * Math.abs(e.most.mm))} ${e.most.mm < 0 ? 'too small' : 'too large'}, at a height of ${length(e.most.z)}, and the volume off by ${e.volumePercent.toFixed(1)} %.`,
  }
})
const followers = computed(() => piece.document.profile.nodes.filter((n) => n.by === 'outline').length)
const hands = computed(() => piece.document.profile.nodes.length - followers.value)
const fitWords = computed(() => {
  if (followers.value === 0)
    return hands.value > 0
      ? 'The half-profile was drawn by hand and doesn’t follow the outline.'
      : 'No half-profile yet.'
  const kept = hands.value > 0 ? ` ${hands.value} set by hand stay.` : ''
  return `${followers.value} nodes follow the outline to within ${length(outline.value?.fitMm ?? 0)}.${kept}`
})
async function fit(toleranceMm: number) {
  await readAhead(outline.value!, calibration.value.view, toleranceMm)
  piece.dispatch({ type: 'fit-outline', toleranceMm, idPrefix: newId() })
}
async function replace() {
  await readAhead(outline.value!, calibration.value.view, null)
  piece.dispatch({ type: 'clear-profile' }, 'replace-by-outline')
  piece.dispatch(
    { type: 'fit-outline', toleranceMm: usualFit(read.value!), idPrefix: newId() },
    'replace-by-outline',
  )
}
</script>

<template>
  <PanelFrame
    title="Outline"
    lead="Both edges, found in the photo to a fraction of a pixel, and what they say of the half-profile."
  >
    <p v-if="!calibration.known.scale" class="soft">
      There is no scale yet, so lengths are in pixels;
      <RouterLink :to="{ params: { stage: 'calibrate' } }" replace>calibrate</RouterLink> first for
      millimetres.
    </p>
    <SearchButton
      :primary="!outline"
      :name="outline ? 'Find the outline again' : 'Find the outline'"
      keep-axis
      testid="find-outline"
      @search="search.findOutline()"
    />
    <div v-if="search.problem" role="alert" class="doubt">
      <p>{{ search.problem }}</p>
      <AButton size="small" @click="open.help = true">Help the search</AButton>
    </div>
    <p v-if="search.found?.others && outline" class="doubt" role="status">
      Something else stands in the picture too; the most regular thing was taken. Set a box around the piece
      to choose.
    </p>
    <p v-if="search.found?.besideLeftOut && outline" class="soft" role="status">
      What was taken to stand beside the piece or lie before it, as a ruler or a box does, was left out. If it
      is the piece, paint it as piece.
    </p>
    <p v-if="search.found?.checkered && outline" class="soft" role="status">
      The grey squares about the piece, with which editors show what is clear, were left out. Where the piece
      is as grey as they are its edge is less sure: the original file tells more.
    </p>
    <p v-if="search.found?.marksLeftOut && outline" class="soft" role="status">
      Lines, figures and words drawn over the photo were left out; where they cross the piece’s edge, that is
      led on across them.
    </p>
    <p v-if="search.found?.mayBeCutOff && outline" class="doubt" role="status">
      The cut-out is as wide at the picture’s border as a little farther in. If the border cuts the piece off
      there, this is only a part of it: take a picture that shows all of it, or a wider crop.
    </p>
    <p v-if="search.found?.mirrored && outline" class="soft" role="status">
      What lies below the foot was taken for its mirror image in a glossy floor, and left out. If it is piece,
      paint it as piece.
    </p>
    <p v-for="doubt in doubts" :key="doubt" class="doubt" role="status">{{ doubt }}</p>
    <p v-if="summary" class="soft" role="status" data-testid="outline-summary">{{ joined(summary) }}</p>

    <div class="sections">
      <FoldSection
        v-if="outline"
        v-model:open="open.unsure"
        title="Where it is unsure"
        :note="
          stretches.length ? `${stretches.length} stretch${stretches.length > 1 ? 'es' : ''}` : 'nowhere'
        "
        :state="stretches.some((s) => s.state === 'bridged') ? 'doubt' : 'done'"
        ><StretchList :stretches="stretches" :all-agree="agree === 1"
      /></FoldSection>
      <FoldSection
        v-model:open="open.help"
        title="Edge pen and hints"
        :note="outline?.strokes.length ? `${outline.strokes.length} drawn` : ''"
        :state="outline?.strokes.length ? 'done' : 'waiting'"
        ><HelpSection :begun="pen?.begun.value ?? false" @lay="props.pen?.lay()"
      /></FoldSection>
      <FoldSection
        v-if="outline"
        v-model:open="open.symmetry"
        title="Left against right"
        :note="`${Math.floor(100 * agree)} % agree`"
        :state="agree < LEAST_BOTH ? 'doubt' : 'done'"
        ><HeightPlot
          :dots="symmetry"
          unit="px"
          :least="0.5"
          label="Left minus right edge from foot to top"
          caption="Left minus right edge, foot to top; crosses lie apart and one side is taken."
      /></FoldSection>
      <FoldSection
        v-if="outline && calibration.view.kind === 'near'"
        v-model:open="open.camera"
        title="What the camera changed"
        state="done"
        ><template v-if="camera"
          ><p class="soft" data-testid="camera-effect">{{ joined(camera.words) }}</p>
          <HeightPlot
            :dots="camera.dots"
            :unit="typedUnit(unit)"
            :least="0.01"
            label="⌀ by parallel rays less the corrected ⌀, from foot to top"
            caption="⌀ by parallel rays less the corrected ⌀, foot to top." /></template
      ></FoldSection>
      <FoldSection
        v-if="outline"
        v-model:open="open.fit"
        title="Half-profile from it"
        :note="followers ? `${followers} nodes` : 'not followed'"
        :state="followers ? 'done' : 'waiting'"
      >
        <p class="soft" data-testid="fit-words">{{ joined(fitWords) }}</p>
        <LengthField
          v-if="followers"
          label="Within"
          :value-mm="outline.fitMm"
          :unit="unit"
          @commit="(mm) => fit(mm)"
        />
        <AButton v-else size="small" type="primary" data-testid="replace-by-outline" @click="replace">{{
          hands ? 'Replace it by the outline' : 'Make it from the outline'
        }}</AButton>
      </FoldSection>
    </div>
    <AButton v-if="outline" type="primary" @click="emit('next')">Shape the half-profile</AButton>
  </PanelFrame>
</template>

<style scoped>
.sections {
  display: grid;
  gap: 9px;
}
.doubt {
  display: grid;
  gap: 6px;
  justify-items: start;
  color: var(--doubt);
}
.doubt p {
  margin: 0;
}
</style>

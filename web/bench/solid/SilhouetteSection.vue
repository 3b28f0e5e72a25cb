<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { isInSilhouette } from '../../../core/piece/silhouette-check'
import type { SilhouetteReport } from '../../../core/measure/silhouette'
import { formatLength } from '../../../core/units/format-length'
import HeightPlot from '../../common/HeightPlot.vue'
import { usePiece } from '../../stores/piece'
import { latestOnly, solidClient } from '../../workers/solid-client'

/** The last proof: the solid's silhouette, seen by the photo's own camera, against the edges found in the photo. */
const piece = usePiece()
const report = shallowRef<SilhouetteReport | null>(null)
const problem = ref('')
const outline = computed(() => piece.whole.outline)

const ask = latestOnly(
  ({
    solid,
    view,
    parts,
  }: {
    solid: NonNullable<typeof piece.derived.solid>
    view: typeof piece.derived.calibration.view
    parts: typeof piece.whole.parts
  }) => solidClient.call((worker) => worker.silhouette(outline.value!, view, solid, parts)),
  (result) => {
    report.value = outline.value ? result : null
    problem.value = ''
  },
  (error) => (problem.value = (error as Error).message),
)
watch(
  () =>
    [
      piece.wholeDerived.solid,
      piece.wholeDerived.calibration.view,
      outline.value,
      piece.whole.parts,
    ] as const,
  ([solid, view, found, parts]) => {
    if (solid && found) ask({ solid, view, parts })
    else report.value = null
  },
  { immediate: true },
)
/** Parts that stand out beside the body, and so in the photo, but not in this silhouette. */
const leftOut = computed(
  () =>
  piece.whole.parts.filter((p) => p.shown && ['added', 'separate'].includes(p.relation) && p.shape.kind !== 'filling' && !isInSilhouette(p)), // prettier-ignore
)
const length = (mm: number) => formatLength(Math.abs(mm), { unit: piece.whole.unit })
const dots = computed(() =>
  report.value
    ? [...report.value.misses.left, ...report.value.misses.right].map((m) => ({
        at: m.z,
        value: m.px,
        counts: true,
      }))
    : [],
)
/** Half the chart is at least this many px. */
const LEAST_PX = 1
</script>

<template>
  <section class="card">
    <h3>Against the photo</h3>
    <template v-if="report">
      <p data-testid="silhouette">
        The edges in the photo lie <strong>{{ report.rmsPx.toFixed(2) }} px</strong> ({{
          length(report.rmsMm)
        }}) RMS from the solid’s silhouette, half of them within {{ report.medianPx.toFixed(2) }} px; the
        farthest {{ Math.abs(report.worst.px).toFixed(1) }} px
        {{ report.worst.px > 0 ? 'outside' : 'inside' }} of it, on the {{ report.worst.side }} at
        {{ length(report.worst.z) }}.
      </p>
      <HeightPlot
        :dots="dots"
        unit="px"
        :least="LEAST_PX"
        label="Distance of the photo’s edges from the silhouette, by height"
        caption="From foot to top, both sides; above the line: outside of the solid."
      />
      <p v-if="piece.wholeDerived.calibration.view.kind === 'distant' && report.rmsPx > 3" class="soft">
        Read as a distant view, foot and rim are straight; where they show as arcs in the photo they lie
        outside. The near view, under Calibrate, knows them.
      </p>
      <p class="soft">
        The silhouette is computed from the exact curve, and those of parts turned about its axis, through the
        photo’s camera.<template v-if="leftOut.length">
          Not in it: {{ leftOut.map((p) => p.name).join(', ') }}.</template
        >
      </p>
    </template>
    <p v-else-if="problem" class="doubt" role="alert">{{ problem }}</p>
    <p v-else-if="!outline" class="soft">
      Find the outline in the photo, and how far it lies from the solid’s silhouette is said here.
    </p>
    <p v-else class="soft">Comparing …</p>
  </section>
</template>

<style scoped src="../shape/card.css"></style>

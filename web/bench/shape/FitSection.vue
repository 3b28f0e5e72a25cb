<script setup lang="ts">
import { Button as AButton, Slider as ASlider, Switch as ASwitch } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { usualFit } from '../../../core/piece/outline'
import { nearEqualDiameters, type NearEqual } from '../../../core/profile/near-equal'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { readAhead } from '../../workers/read-ahead'
import { newId } from '../new-id'
import { useOutlineRead } from '../outline/use-outline-read'
import { useDeviation } from './use-deviation'
import PieceLength from './PieceLength.vue'

/** How near the curve keeps to the outline, with how many nodes. */
const bench = useBench()
const piece = usePiece()
const { outline, read } = useOutlineRead()
const { deviation } = useDeviation()

/** The slider runs from a quarter of the usual tolerance to sixteen times it, by octaves. */
const usual = computed(() => (read.value ? usualFit(read.value) : 1))
const OCTAVES = { min: -2, max: 4 }
const octave = (mm: number) => Math.log2(mm / usual.value)
const tolerance = computed(() => outline.value?.fitMm ?? usual.value)
const shown = ref(octave(tolerance.value))
watch(tolerance, (mm) => (shown.value = octave(mm)))

const nodes = computed(() => piece.document.profile.nodes)
const followers = computed(() => nodes.value.filter((n) => n.by === 'outline').length)
const length = (mm: number) => formatLength(mm, { unit: piece.document.unit, fine: true })
const kinds = computed(() => {
  const count = (kind: string) => nodes.value.slice(0, -1).filter((n) => n.next === kind).length
  const words = (n: number, one: string) => (n === 0 ? [] : [`${n} ${one}${n > 1 ? 's' : ''}`])
  return [...words(count('line'), 'line'), ...words(count('arc'), 'arc'), ...words(count('curve'), 'curve')].join(', ') // prettier-ignore
})

/** Single points of a noisy edge stray by a little more than the curve does. */
const BEYOND = 1.5
const beyond = computed(
  () =>
    followers.value === nodes.value.length &&
    Math.abs(deviation.value?.most?.mm ?? 0) > BEYOND * tolerance.value,
)

/** Cylinders that the outline can't tell apart: offered to be made one ⌀. */
const offers = computed(() => nearEqualDiameters(piece.document.profile, 4 * tolerance.value))
function makeEqual({ ids }: NearEqual) {
  piece.dispatch({ type: 'tie-nodes', tie: { id: newId(), coordinate: 'r', nodes: ids } })
}

async function fit(toleranceMm: number) {
  await readAhead(outline.value!, piece.derived.calibration.view, toleranceMm)
  piece.dispatch({ type: 'fit-outline', toleranceMm, idPrefix: newId() })
}
async function again() {
  await readAhead(outline.value!, piece.derived.calibration.view, tolerance.value)
  piece.dispatch({ type: 'clear-profile' }, 'fit-again')
  piece.dispatch({ type: 'fit-outline', toleranceMm: tolerance.value, idPrefix: newId() }, 'fit-again')
}
</script>

<template>
  <p data-testid="fit-figures">
    {{ nodes.length }} nodes: {{ kinds
    }}<template v-if="deviation?.most"
      >; at most {{ length(Math.abs(deviation.most.mm)) }} off the outline at a height of
      {{ length(deviation.most.z) }}, rms {{ length(deviation.rmsMm) }}</template
    >.
    <template v-if="beyond"
      >That is more than the tolerance: fit the stretch there by itself, or choose another
      tolerance.</template
    >
  </p>
  <template v-if="followers > 0">
    <label class="slide">
      <span>closer</span>
      <ASlider
        v-model:value="shown"
        :min="OCTAVES.min"
        :max="OCTAVES.max"
        :step="0.25"
        :tip-formatter="(v?: number) => length(usual * 2 ** (v ?? 0))"
        aria-label="Tolerance of the curve"
        @after-change="(v) => fit(usual * 2 ** Number(v))"
      />
      <span>fewer nodes</span>
    </label>
    <PieceLength label="Tolerance" :value-mm="tolerance" @commit="fit" />
  </template>
  <p v-if="followers === 0" class="soft">Every node was set by hand, so none follows the outline.</p>
  <p v-else-if="followers < nodes.length" class="soft">
    {{ nodes.length - followers }} nodes set by hand stay where they are.
  </p>
  <p v-for="offer in offers" :key="offer.ids.join()" class="offer">
    ⌀ {{ length(offer.diametersMm[0]) }} and {{ length(offer.diametersMm[1]) }} are nearly equal.
    <AButton size="small" @click="makeEqual(offer)">Make them equal</AButton>
  </p>
  <div class="row">
    <label class="switch"><ASwitch v-model:checked="bench.comb" size="small" /> Comb of deviations</label>
    <label class="switch"><ASwitch v-model:checked="bench.chart" size="small" /> Chart of ⌀</label>
    <label class="switch"
      ><ASwitch v-model:checked="bench.sides" size="small" /> Left, right and mean edge</label
    >
  </div>
  <AButton v-if="followers < nodes.length" size="small" @click="again">Fit everything anew</AButton>
</template>

<style scoped>
.slide {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 6px;
  color: var(--ink-soft);
  font-size: 12.5px;
}
.switch {
  display: flex;
  align-items: center;
  gap: 6px;
}
.row {
  flex-wrap: wrap;
  gap: 8px 12px;
}
</style>

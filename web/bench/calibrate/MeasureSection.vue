<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { formatLength } from '../../../core/units/format-length'
import { parseLength } from '../../../core/units/parse-length'
import { typedUnit } from '../../../core/units/units'
import LengthField from '../../common/LengthField.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { useDividers } from '../use-dividers'

/** Measuring again at any time, and what follows: a corrected scale, a finished piece of another size. */
const bench = useBench()
const piece = usePiece()
const dividers = useDividers()
const calibration = computed(() => piece.document.calibration)
const measured = computed(() => piece.derived.measures?.heightMm ?? null)
const factorText = ref('')
const problem = ref('')

function correct(mm: number) {
  if (measured.value) piece.dispatch({ type: 'correct-scale', factor: mm / measured.value })
}
/** A factor as people write it: 1:2, 1.08, 108 %, or a target height. */
function commitFinish(event: Event) {
  const text = (event.target as HTMLInputElement).value.trim()
  const ratio = /^(\d+(?:[.,]\d+)?)\s*[:/]\s*(\d+(?:[.,]\d+)?)$/.exec(text)
  const percent = /^(\d+(?:[.,]\d+)?)\s*%$/.exec(text)
  const plain = /^\d+(?:[.,]\d+)?$/.exec(text)
  const n = (s: string) => Number(s.replace(',', '.'))
  let factor = ratio ? n(ratio[1]!) / n(ratio[2]!) : percent ? n(percent[1]!) / 100 : plain ? n(text) : NaN
  if (Number.isNaN(factor) && measured.value) {
    const target = parseLength(text, { defaultUnit: typedUnit(piece.document.unit) })
    if (target.ok) factor = target.mm / measured.value
  }
  if (text === '') factor = 1
  if (!(factor >= 1e-4 && factor <= 1e4)) {
    problem.value = `“${text}” is no factor; write 1:2, 1.08, 108 %, or the finished height with its unit.`
    return
  }
  problem.value = ''
  piece.dispatch({ type: 'set-finish', finish: { factor, text } })
}
</script>

<template>
  <p class="soft">Any two points with the dividers (M); across the axis they read the ⌀.</p>
  <div class="row">
    <AButton
      size="small"
      :type="bench.tool === 'dividers' ? 'primary' : 'default'"
      @click="bench.tool = bench.tool === 'dividers' ? 'none' : 'dividers'"
      >Dividers</AButton
    >
    <AButton v-if="bench.dividers" size="small" @click="bench.dividers = null">Put away</AButton>
  </div>
  <dl v-if="dividers">
    <template v-for="row in dividers.rows" :key="row.name"
      ><dt>{{ row.name }}</dt>
      <dd>{{ row.value }}</dd></template
    >
  </dl>
  <template v-if="measured">
    <LengthField label="Real height" :value-mm="measured" :unit="piece.document.unit" @commit="correct" />
    <p class="soft small">
      Type it when the finished piece measures wrong: everything is scaled about its foot.
      <template v-if="calibration.correction !== 1"
        >Corrected by {{ calibration.correction.toFixed(5) }} so far.
        <a
          href="#"
          @click.prevent="piece.dispatch({ type: 'correct-scale', factor: 1 / calibration.correction })"
          >Take it back</a
        ></template
      >
    </p>
  </template>
  <label
    ><span>Finished at</span>
    <input
      :value="calibration.finish.text || factorText"
      placeholder="1:1, 1:2, 108 %"
      aria-label="Finished size"
      @change="commitFinish"
  /></label>
  <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
  <p class="soft small">
    Shrinkage of clay or casting, or a prop scale; applied to the files that are handed over.
    <template v-if="calibration.finish.factor !== 1 && measured"
      >Finished height
      {{ formatLength(measured * calibration.finish.factor, { unit: piece.document.unit }) }}.</template
    >
  </p>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 3px 8px;
  margin: 0;
}
dt,
label span {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-weight: 600;
}
label {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 8px;
  align-items: center;
}
input {
  min-width: 0;
  padding: 4px 8px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--card);
  color: inherit;
  font: inherit;
}
.small {
  font-size: 12.5px;
}
</style>

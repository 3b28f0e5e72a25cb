<script setup lang="ts">
import { Button as AButton, RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'
import { computed, nextTick, ref } from 'vue'
import { pixelsOf, type KnownSizeKind } from '../../../core/calibrate/known-size'
import LengthField from '../../common/LengthField.vue'
import { useBench, type Tool } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import PanelFrame from './PanelFrame.vue'

const emit = defineEmits<{ next: [] }>()
const bench = useBench()
const piece = usePiece()
const field = ref<HTMLElement | null>(null)

const known = computed(() => piece.derived.calibration.known)
const size = computed(() => piece.document.calibration.knownSizes[0])
const tilt = computed(() => ((piece.derived.calibration.tilt * 180) / Math.PI).toFixed(2))
const pixels = computed(() =>
  size.value ? pixelsOf(size.value, piece.derived.calibration.frame.up).toFixed(1) : '',
)
const problems = computed(() => piece.derived.calibration.problems.filter((p) => p.code !== 'size-untyped'))

const take = (tool: Tool) => (bench.tool = bench.tool === tool ? 'none' : tool)
function commit(mm: number, text: string) {
  if (size.value) piece.dispatch({ type: 'set-known-size', size: { ...size.value, mm, text } })
}
function setKind(kind: KnownSizeKind) {
  if (size.value) piece.dispatch({ type: 'set-known-size', size: { ...size.value, kind } })
}
async function focusSize() {
  await nextTick()
  field.value?.querySelector('input')?.focus()
}
defineExpose({ focusSize })
</script>

<template>
  <PanelFrame title="Calibrate" lead="Axis, ground and one known size turn pixels into millimetres.">
    <section class="step" :class="{ active: bench.tool === 'plumb' }">
      <h3><span class="key measured" /> Plumb line</h3>
      <p v-if="known.axis">The axis; it leans {{ tilt }}° in the picture. Drag its ends to correct it.</p>
      <p v-else>
        Two clicks on the axis, one near the foot and one near the top, each midway between the left and right
        edge.
      </p>
      <AButton
        size="small"
        :type="bench.tool === 'plumb' || !known.axis ? 'primary' : 'default'"
        @click="take('plumb')"
        >{{ known.axis ? 'Set again' : 'Set the plumb line' }}</AButton
      >
    </section>
    <section class="step" :class="{ active: bench.tool === 'ground' }">
      <h3><span class="key measured ground" /> Ground line</h3>
      <p>
        {{
          known.ground
            ? 'Height zero: the foot of the piece.'
            : 'One click where the foot stands on the axis.'
        }}
      </p>
      <AButton
        size="small"
        :disabled="!known.axis"
        :type="bench.tool === 'ground' || (known.axis && !known.ground) ? 'primary' : 'default'"
        @click="take('ground')"
        >{{ known.ground ? 'Set again' : 'Set the ground line' }}</AButton
      >
    </section>
    <section class="step" :class="{ active: bench.tool === 'size' }">
      <h3><span class="key known" /> Known size</h3>
      <template v-if="size">
        <div ref="field">
          <LengthField
            label="Real size"
            :value-mm="size.mm"
            :unit="piece.document.unit"
            :typed="size.text || undefined"
            placeholder="138 mm, 5 7/16 in"
            @commit="commit"
          />
        </div>
        <div class="kind">
          <span class="soft">It is a</span>
          <ARadioGroup
            size="small"
            :value="size.kind"
            aria-label="Kind of known size"
            @update:value="setKind"
          >
            <ARadioButton value="height">height</ARadioButton>
            <ARadioButton value="diameter">⌀</ARadioButton>
            <ARadioButton value="length">length</ARadioButton>
          </ARadioGroup>
        </div>
        <p class="soft">
          {{ pixels }} px between the marks<template v-if="size.kind === 'diameter' && size.mm"
            >; a diameter, its radius is {{ (size.mm / 2).toFixed(2) }} mm</template
          >.
        </p>
      </template>
      <p v-else>Two clicks at the ends of something whose real size you know: the height, a diameter.</p>
      <AButton
        size="small"
        :disabled="!known.axis"
        :type="bench.tool === 'size' || (known.axis && known.ground && !size) ? 'primary' : 'default'"
        @click="take('size')"
        >{{ size ? 'Mark again' : 'Mark a known size' }}</AButton
      >
    </section>
    <p v-for="problem in problems" :key="problem.code" class="doubt" role="alert">{{ problem.message }}</p>
    <template v-if="known.scale">
      <p class="result">
        1 px is
        <strong data-testid="mm-per-px"
          >{{ piece.derived.calibration.frame.mmPerPx.toPrecision(5) }} mm</strong
        >. With one size only, nothing checks it.
      </p>
      <AButton type="primary" @click="emit('next')">Draw the half-profile</AButton>
    </template>
  </PanelFrame>
</template>

<style scoped>
.step {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
.step.active {
  border-color: var(--accent);
  box-shadow: inset 3px 0 0 var(--accent);
}
h3 {
  display: flex;
  align-items: center;
  gap: 8px;
}
.key {
  width: 18px;
  border-top: 3px solid var(--measured);
}
.key.measured:not(.ground) {
  border-top-style: dashed;
}
.key.known {
  height: 11px;
  border: solid var(--known);
  border-width: 0 3px;
  background: linear-gradient(var(--known), var(--known)) center / 100% 2.5px no-repeat;
}
.kind {
  display: flex;
  gap: 8px;
  align-items: center;
}
.doubt {
  color: var(--doubt);
}
.result strong {
  white-space: nowrap;
}
</style>

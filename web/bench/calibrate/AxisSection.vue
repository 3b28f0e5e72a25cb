<script setup lang="ts">
import { Button as AButton, Input as AInput } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { upAfterTurns } from '../../../core/calibrate/calibrate'
import { turn } from '../../../core/outline/symmetry'
import { useBench, type Tool } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import type { CalibrationTools } from '../use-calibration-tools'

/** Plumb line and ground line: by hand, by pairs of edge points, by something level, by a typed lean. */
const props = defineProps<{ tools: CalibrationTools | null }>()
const bench = useBench()
const piece = usePiece()
const calibration = computed(() => piece.document.calibration)
const solved = computed(() => piece.derived.calibration)
const lean = computed(() => ((solved.value.tilt * 180) / Math.PI).toFixed(3))
const text = ref(lean.value)
const problem = ref('')
watch(lean, (v) => (text.value = v))

const take = (tool: Tool) => (bench.tool = bench.tool === tool ? 'none' : tool)
const type = (tool: Tool, first: boolean) => (bench.tool === tool || first ? 'primary' : 'default')

function commitLean() {
  if (text.value === lean.value) return
  const degrees = Number(text.value.replace(',', '.').replace(/°/g, '').trim())
  if (!Number.isFinite(degrees) || Math.abs(degrees) > 45) {
    problem.value = 'Type the lean in degrees, between -45 and 45; turn the photo by quarters for more.'
    return
  }
  problem.value = ''
  const up = upAfterTurns(piece.document.photo?.quarterTurns ?? 0)
  props.tools?.setDirection(turn(up, (degrees * Math.PI) / 180))
}
const source = computed(() => {
  const plumb = calibration.value.plumb
  if (!plumb)
    return 'Two clicks on the axis, one near the foot and one near the top, each midway between the edges.'
  const sd = plumb.sdAngle ? ` to ±${((plumb.sdAngle * 180) / Math.PI).toFixed(3)}°` : ''
  const across = plumb.sdOffset ? ` and ±${plumb.sdOffset.toFixed(2)} px` : ''
  const by = {
    found: `Found in the photo${sd}${across}.`,
    pairs: `Midway between ${calibration.value.pairs.length} pairs of edge points${sd}.`,
    hand: 'Set by hand. Drag its ends to correct it.',
  }
  return by[plumb.by]
})
const residual = computed(() => {
  const { pairs, plumb } = calibration.value
  if (pairs.length < 3 || !plumb) return ''
  const { up } = solved.value.frame
  const off = pairs.map(({ left, right }) => {
    const x = (left.x + right.x) / 2 - plumb.foot.x
    const y = (left.y + right.y) / 2 - plumb.foot.y
    return Math.abs(-x * up.y + y * up.x)
  })
  return `Largest distance of a middle from the line: ${Math.max(...off).toFixed(2)} px.`
})
</script>

<template>
  <p class="soft">{{ source }}</p>
  <p v-if="residual" class="soft">{{ residual }}</p>
  <label class="lean"
    ><span>Leans by</span>
    <AInput
      v-model:value="text"
      suffix="°"
      aria-label="Lean of the plumb line"
      @blur="commitLean"
      @press-enter="commitLean"
  /></label>
  <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
  <div class="row">
    <AButton size="small" :type="type('plumb', !solved.known.axis)" @click="take('plumb')">{{
      solved.known.axis ? 'Plumb line again' : 'Set the plumb line'
    }}</AButton>
    <AButton size="small" :type="type('pairs', false)" @click="take('pairs')">Edge pairs</AButton>
    <AButton size="small" :type="type('level', false)" @click="take('level')">Something level</AButton>
    <AButton
      v-if="calibration.pairs.length"
      size="small"
      @click="piece.dispatch({ type: 'set-pairs', pairs: [] })"
      >Forget the pairs</AButton
    >
  </div>
  <p class="soft ground">
    {{
      solved.known.ground
        ? 'The ground line is height zero: the middle of the foot.'
        : 'Then one click where the foot stands on the axis.'
    }}
  </p>
  <div class="row">
    <AButton
      size="small"
      :disabled="!solved.known.axis"
      :type="type('ground', solved.known.axis && !solved.known.ground)"
      @click="take('ground')"
      >{{ solved.known.ground ? 'Ground line again' : 'Set the ground line' }}</AButton
    >
  </div>
</template>

<style scoped>
.lean {
  display: grid;
  grid-template-columns: 76px 110px;
  align-items: center;
}
.ground {
  padding-top: 4px;
  border-top: 1px solid var(--rule);
}
</style>

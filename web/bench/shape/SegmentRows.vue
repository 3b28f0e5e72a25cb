<script setup lang="ts">
import { RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'
import ChoiceRow from '../../common/ChoiceRow.vue'
import { computed } from 'vue'
import { segmentFigures, type SegmentMeasure } from '../../../core/profile/segment-measures'
import NumberField from '../../common/NumberField.vue'
import { usePiece } from '../../stores/piece'
import LockButton from './LockButton.vue'
import PieceLength from './PieceLength.vue'

/** The segment after a node: its kind, its measures, and what it keeps. */
const props = defineProps<{ id: string }>()
const piece = usePiece()

const KINDS = (['line', 'arc', 'curve'] as const).map((value) => ({ value, text: value }))

const index = computed(() => piece.document.profile.nodes.findIndex((n) => n.id === props.id))
const node = computed(() => piece.document.profile.nodes[index.value]!)
const figures = computed(() => segmentFigures(piece.document.profile, index.value))
const degrees = computed(() => ((figures.value?.angle ?? 0) * 180) / Math.PI)

function type(measure: SegmentMeasure, value: number) {
  piece.dispatch({ type: 'type-segment', id: props.id, measure, value })
}
function lock(way: 'level' | 'upright') {
  piece.dispatch({ type: 'lock-segment', id: props.id, way: node.value.way === way ? null : way })
}
function keepRadius() {
  const mm = node.value.radius === undefined ? (figures.value?.radiusMm ?? null) : null
  piece.dispatch({ type: 'lock-radius', id: props.id, mm })
}
function typeRadius(mm: number) {
  // A kept radius is changed by keeping another one.
  if (node.value.radius === undefined) type('radius', mm)
  else piece.dispatch({ type: 'lock-radius', id: props.id, mm })
}
</script>

<template>
  <ChoiceRow
    label="Then a"
    name="Following segment"
    :value="node.next"
    :choices="KINDS"
    @choose="(next) => piece.dispatch({ type: 'set-segment', id, next })"
  />
  <template v-if="figures">
    <template v-if="node.next === 'line'">
      <PieceLength label="Length" :value-mm="figures.lengthMm" @commit="(mm) => type('length', mm)" />
      <NumberField
        label="Angle"
        :value="degrees"
        unit="°"
        :digits="2"
        :disabled="Boolean(node.way)"
        @commit="(v) => type('angle', (v * Math.PI) / 180)"
      />
      <div class="pair">
        <span class="name">Stays</span>
        <ARadioGroup size="small" :value="node.way ?? 'free'" aria-label="Stays">
          <ARadioButton value="free" @click="node.way && lock(node.way)">free</ARadioButton>
          <ARadioButton value="level" @click="node.way !== 'level' && lock('level')">level</ARadioButton>
          <ARadioButton value="upright" @click="node.way !== 'upright' && lock('upright')"
            >upright</ARadioButton
          >
        </ARadioGroup>
      </div>
    </template>
    <div v-else-if="node.next === 'arc' && figures.radiusMm !== null" class="locked">
      <PieceLength label="Arc radius" :value-mm="figures.radiusMm" @commit="typeRadius" />
      <LockButton
        :on="node.radius !== undefined"
        name="Keep the radius"
        why="Kept: the arc has this radius wherever its ends go."
        @toggle="keepRadius"
      />
    </div>
  </template>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { below } from '../../../core/measure/capacity'
import { pointOn } from '../../../core/profile/segments'
import { formatLength } from '../../../core/units/format-length'
import { useView } from '../../composables/use-view'
import { usePiece } from '../../stores/piece'
import { screenPath } from '../screen-path'
import { useVessel } from '../solid/use-vessel'
import { formatVolume } from '../use-figures'
import MarkLabel from './MarkLabel.vue'
import TwoTone from './TwoTone.vue'

/** The inside of a hollow piece in section, on both sides of the axis, and what it is filled with. */
const props = defineProps<{ axisX: number; width: number; height: number; filled: boolean }>()
const piece = usePiece()
const view = useView()
const { inside, filling } = useVessel()

const toScreen = (p: { x: number; z: number }) => view.planeToScreen(p, props.axisX)
const walls = computed(() => (inside.value ? [1, -1].map((sign) => screenPath(inside.value!, sign, toScreen)) : [])) // prettier-ignore

const liquid = computed(() => {
  const f = filling.value
  if (!props.filled || !f || !inside.value) return null
  const wet = below(inside.value, f.levelMm)
  const first = wet[0]
  if (!first) return null
  const r = pointOn(first, 0)[0]
  const [left, right] = [toScreen({ x: -r, z: f.levelMm }), toScreen({ x: r, z: f.levelMm })]
  const text = `${formatVolume(f.volumeMm3, piece.document.unit)} to ${formatLength(f.levelMm, { unit: piece.document.unit })}`
  return {
    bodies: [1, -1].map((sign) => {
      const top = toScreen({ x: 0, z: f.levelMm })
      return `${screenPath(wet, sign, toScreen)}L${top.sx} ${top.sy}Z`
    }),
    line: `M${left.sx} ${left.sy}L${right.sx} ${right.sy}`,
    at: right,
    text,
  }
})
</script>

<template>
  <g v-if="inside" data-testid="inside">
    <template v-if="liquid">
      <path v-for="(d, i) in liquid.bodies" :key="i" class="liquid" :d="d" />
      <TwoTone :d="liquid.line" colour="var(--line-modelled)" :width="1.8" />
      <MarkLabel
        :sx="liquid.at.sx"
        :sy="liquid.at.sy"
        :text="liquid.text"
        colour="var(--line-modelled)"
        :dy="-16"
        :pane-width="width"
        :pane-height="height"
      />
    </template>
    <TwoTone
      v-for="(d, i) in walls"
      :key="`w${i}`"
      :d="d"
      colour="var(--line-modelled)"
      :width="1.4"
      dash="7 4"
    />
  </g>
</template>

<style scoped>
.liquid {
  fill: color-mix(in srgb, var(--line-modelled) 22%, transparent);
  pointer-events: none;
}
</style>

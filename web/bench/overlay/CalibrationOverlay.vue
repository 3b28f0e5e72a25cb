<script setup lang="ts">
import { computed } from 'vue'
import type { PicturePoint } from '../../../core/conventions'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { describeMark, markKey, marksOf, nudgeMark, type Mark } from '../calibration-marks'
import type { CalibrationTools } from '../use-calibration-tools'
import DraftMarks from './DraftMarks.vue'
import RingMarks from './RingMarks.vue'
import SizeMarks from './SizeMarks.vue'
import TwoTone from './TwoTone.vue'

/** Plumb line, ground line, rings, known sizes and marked edges over the photo; with handles while calibrating. */
const props = defineProps<{
  width: number
  height: number
  handles: boolean
  tools: CalibrationTools
  pointer: ScreenPoint | null
}>()
const piece = usePiece()
const bench = useBench()
const view = useView()

const shown = computed(() => props.tools.shown())
const marks = computed(() =>
  marksOf(shown.value, view.frame.value).map(({ mark, at }) => ({
    mark,
    at,
    screen: view.pictureToScreen(at),
  })),
)

/** What a handle says and does for the keyboard. */
const handle = (mark: Mark, at: PicturePoint) => ({
  tabindex: 0,
  role: 'button',
  'aria-label': describeMark(mark, shown.value),
  'data-handle': markKey(mark),
  onKeydown: (event: KeyboardEvent) => nudgeMark(mark, at, event, piece, view.frame.value),
  onFocus: () => mark.of === 'size' && (bench.chosenSize = mark.id),
})

const far = computed(() => props.width + props.height)
const line = (a: ScreenPoint, b: ScreenPoint) => `M${a.sx} ${a.sy}L${b.sx} ${b.sy}`
/** The line through two points, on across the whole pane. */
function through(a: ScreenPoint, b: ScreenPoint): string {
  const length = Math.hypot(b.sx - a.sx, b.sy - a.sy) || 1
  const ux = ((b.sx - a.sx) / length) * far.value
  const uy = ((b.sy - a.sy) / length) * far.value
  return line({ sx: a.sx - ux, sy: a.sy - uy }, { sx: b.sx + ux, sy: b.sy + uy })
}
const plumb = computed(() => {
  const p = shown.value.plumb
  return p && through(view.pictureToScreen(p.foot), view.pictureToScreen(p.top))
})
const ground = computed(() => {
  const at = shown.value.ground
  return at && `M0 ${view.pictureToScreen(at).sy}H${props.width}`
})
/** Pairs with their middles, and marked straight edges. */
const pairs = computed(() =>
  shown.value.pairs.map(({ id, left, right }) => {
    const a = view.pictureToScreen(left)
    const b = view.pictureToScreen(right)
    const m = { sx: (a.sx + b.sx) / 2, sy: (a.sy + b.sy) / 2 }
    return { id, d: `${line(a, b)}M${m.sx} ${m.sy - 6}v12` }
  }),
)
const edges = computed(() =>
  (shown.value.lens?.edges ?? []).map((edge) => {
    const points = edge.map((p) => view.pictureToScreen(p))
    return `M${points.map((p) => `${p.sx} ${p.sy}`).join('L')}`
  }),
)
</script>

<template>
  <g>
    <g v-if="ground" :opacity="handles ? 1 : 0.55">
      <TwoTone :d="ground" colour="var(--line-measured)" :width="handles ? 1.6 : 1" />
    </g>
    <g v-if="plumb" :opacity="handles ? 1 : 0.55">
      <TwoTone :d="plumb" colour="var(--line-measured)" :width="handles ? 1.6 : 1" dash="16 4 3 4" />
    </g>
    <template v-if="handles">
      <TwoTone
        v-for="pair in pairs"
        :key="pair.id"
        :d="pair.d"
        colour="var(--line-measured)"
        :width="1.2"
        dash="3 3"
      />
      <TwoTone v-for="(d, i) in edges" :key="i" :d="d" colour="var(--line-measured)" :width="1.2" />
      <RingMarks :calibration="shown" />
      <SizeMarks :sizes="shown.knownSizes" :width="width" :height="height" />
      <g
        v-for="{ mark, at, screen } in marks"
        :key="markKey(mark)"
        v-bind="handle(mark, at)"
        class="handle"
        :class="mark.of"
      >
        <path v-if="mark.of === 'ground'" :d="`M${screen.sx - 9} ${screen.sy}h18l-9 11z`" />
        <rect v-else-if="mark.of === 'size'" :x="screen.sx - 6" :y="screen.sy - 6" width="12" height="12" />
        <path v-else-if="mark.of === 'ring'" :d="`M${screen.sx - 6} ${screen.sy}l6 -6l6 6l-6 6z`" />
        <template v-else>
          <circle :cx="screen.sx" :cy="screen.sy" :r="mark.of === 'plumb' ? 7 : 5.5" />
          <circle :cx="screen.sx" :cy="screen.sy" r="1.4" class="dot" />
        </template>
      </g>
    </template>
    <DraftMarks :tools="tools" :pointer="pointer" :width="width" :height="height" />
  </g>
</template>

<style scoped>
.handle {
  stroke: var(--line-measured);
  stroke-width: 2;
  paint-order: stroke;
  fill: rgb(255 255 255 / 0.55);
  outline: none;
  cursor: move;
}
.handle.size {
  stroke: var(--line-known);
}
.handle:focus-visible {
  stroke-width: 4;
}
.dot {
  fill: var(--line-measured);
  stroke: none;
}
</style>

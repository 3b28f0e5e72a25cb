<script setup lang="ts">
import { computed } from 'vue'
import { acrossOf } from '../../../core/calibrate/frame'
import { formatLength } from '../../../core/units/format-length'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { usePiece } from '../../stores/piece'
import { describeMark, nudgeMark, type Mark } from '../calibration-marks'
import type { CalibrationDraft } from '../use-calibration-tools'
import MarkLabel from './MarkLabel.vue'
import TwoTone from './TwoTone.vue'

/** Plumb line, ground line and known size over the photo; with handles while calibrating. */
const props = defineProps<{
  width: number
  height: number
  handles: boolean
  draft: CalibrationDraft
  pointer: ScreenPoint | null
}>()
const piece = usePiece()
const view = useView()

/** What a handle says and does for the keyboard. */
const handle = (mark: Mark) => ({
  tabindex: 0,
  role: 'button',
  'aria-label': describeMark(mark),
  'data-handle': mark,
  onKeydown: (event: KeyboardEvent) => nudgeMark(mark, event, piece, view.frame.value),
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
  const p = props.draft.plumb ?? piece.document.calibration.plumb
  if (!p) return null
  const foot = view.pictureToScreen(p.foot)
  const top = p.top ? view.pictureToScreen(p.top) : props.pointer
  return { foot, top, fixed: p.top !== null, d: top ? through(foot, top) : '' }
})
const ground = computed(() => {
  const at = props.draft.ground ?? piece.document.calibration.ground
  if (!at) return null
  const { sx, sy } = view.pictureToScreen(at)
  return { sx, sy, d: `M0 ${sy}H${props.width}` }
})
const size = computed(() => {
  const known = piece.document.calibration.knownSizes[0]
  const marks = props.draft.size ?? known
  if (!marks) return null
  const a = view.pictureToScreen(marks.a)
  const b = marks.b ? view.pictureToScreen(marks.b) : props.pointer
  if (!b) return { a, b: null, d: '', text: '' }
  // Heights and diameters are measured along or across the axis: show the marks' offset by thin extension lines.
  const text = known?.mm ? formatLength(known.mm, { unit: piece.document.unit }) : '?'
  return { a, b, d: line(a, b), text }
})
const ticks = computed(() => {
  const s = size.value
  if (!s?.b) return ''
  const across = acrossOf({ up: { x: 0, y: -1 } })
  const vertical = Math.abs(s.b.sy - s.a.sy) > Math.abs(s.b.sx - s.a.sx)
  const [tx, ty] = vertical ? [9 * across.x, 0] : [0, 9]
  return [s.a, s.b].map((p) => `M${p.sx - tx} ${p.sy - ty}L${p.sx + tx} ${p.sy + ty}`).join('')
})
</script>

<template>
  <g>
    <g v-if="ground" :opacity="handles ? 1 : 0.55">
      <TwoTone :d="ground.d" colour="var(--line-measured)" :width="handles ? 1.6 : 1" />
      <g v-if="handles" class="handle measured" v-bind="handle('ground')">
        <path :d="`M${ground.sx - 9} ${ground.sy}h18l-9 11z`" />
      </g>
    </g>
    <g v-if="plumb?.d" :opacity="handles ? 1 : 0.55">
      <TwoTone :d="plumb.d" colour="var(--line-measured)" :width="handles ? 1.6 : 1" dash="16 4 3 4" />
      <template v-if="handles">
        <g class="handle measured" v-bind="handle('plumb-foot')"
          ><circle :cx="plumb.foot.sx" :cy="plumb.foot.sy" r="7" /><circle
            :cx="plumb.foot.sx"
            :cy="plumb.foot.sy"
            r="1.4"
            class="dot"
        /></g>
        <g v-if="plumb.top && plumb.fixed" class="handle measured" v-bind="handle('plumb-top')"
          ><circle :cx="plumb.top.sx" :cy="plumb.top.sy" r="7" /><circle
            :cx="plumb.top.sx"
            :cy="plumb.top.sy"
            r="1.4"
            class="dot"
        /></g>
      </template>
    </g>
    <g v-if="size && handles">
      <TwoTone v-if="size.b" :d="size.d + ticks" colour="var(--line-known)" />
      <rect
        class="handle known"
        :x="size.a.sx - 6"
        :y="size.a.sy - 6"
        width="12"
        height="12"
        v-bind="handle('size-a')"
      />
      <rect
        v-if="size.b"
        class="handle known"
        :x="size.b.sx - 6"
        :y="size.b.sy - 6"
        width="12"
        height="12"
        v-bind="handle('size-b')"
      />
      <MarkLabel
        v-if="size.b && size.text"
        :sx="(size.a.sx + size.b.sx) / 2"
        :sy="(size.a.sy + size.b.sy) / 2"
        :dy="0"
        :text="size.text"
        colour="var(--line-known)"
        :pane-width="width"
        :pane-height="height"
      />
    </g>
  </g>
</template>

<style scoped>
.handle {
  stroke-width: 2;
  paint-order: stroke;
  fill: rgb(255 255 255 / 0.55);
}
.measured {
  stroke: var(--line-measured);
}
.known {
  stroke: var(--line-known);
}
.handle:focus-visible {
  outline: none;
  stroke-width: 4;
}
.dot {
  fill: var(--line-measured);
  stroke: none;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { KnownSize } from '../../../core/calibrate/known-size'
import { formatLength } from '../../../core/units/format-length'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import MarkLabel from './MarkLabel.vue'
import TwoTone from './TwoTone.vue'

/** Known sizes between their marks; the one that disagrees is told by colour and by words. */
const props = defineProps<{ sizes: readonly KnownSize[]; width: number; height: number }>()
const piece = usePiece()
const bench = useBench()
const view = useView()

const lines = computed(() =>
  props.sizes.map((size) => {
    const a = view.pictureToScreen(size.a)
    const b = view.pictureToScreen(size.b)
    const upright = Math.abs(b.sy - a.sy) > Math.abs(b.sx - a.sx)
    const tick = upright
      ? (p: typeof a) => `M${p.sx - 9} ${p.sy}h18`
      : (p: typeof a) => `M${p.sx} ${p.sy - 9}v18`
    const symbol = size.kind === 'diameter' ? '⌀ ' : ''
    const doubted = piece.derived.calibration.scale?.outlier === size.id
    const text = size.mm ? `${symbol}${formatLength(size.mm, { unit: piece.document.unit })}` : '?'
    return {
      id: size.id,
      d: `M${a.sx} ${a.sy}L${b.sx} ${b.sy}${tick(a)}${tick(b)}`,
      text: doubted ? `${text}  disagrees` : text,
      at: upright
        ? { sx: (a.sx + b.sx) / 2, sy: a.sy + 0.62 * (b.sy - a.sy) }
        : { sx: (a.sx + b.sx) / 2, sy: a.sy },
      dy: upright ? 0 : -16,
      dx: upright ? 14 : -30,
      colour: doubted ? 'var(--line-doubt)' : 'var(--line-known)',
      faint: !size.on,
      chosen: bench.chosenSize === size.id,
    }
  }),
)
</script>

<template>
  <g v-for="line in lines" :key="line.id" :opacity="line.faint ? 0.4 : 1">
    <TwoTone :d="line.d" :colour="line.colour" :width="line.chosen ? 2.6 : 1.8" />
    <MarkLabel
      :sx="line.at.sx"
      :sy="line.at.sy"
      :dx="line.dx"
      :dy="line.dy"
      :text="line.text"
      :colour="line.colour"
      :pane-width="width"
      :pane-height="height"
    />
  </g>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { radiusAtHeight } from '../../../core/calibrate/camera-effect'
import { toPlane } from '../../../core/camera/view'
import { NO_GUIDES, type BrushStroke } from '../../../core/outline/guides'
import { sidesOf } from '../../../core/piece/outline'
import type { OutlineSide } from '../../../core/outline/refine'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { useOutlineRead } from '../outline/use-outline-read'
import type { PhotoTools } from '../use-photo-tools'
import TwoTone from './TwoTone.vue'

/** Both edges over the photo: solid where they were found, dotted where they are a guess or overruled. */
const props = defineProps<{ tools: PhotoTools }>()
const bench = useBench()
const piece = usePiece()
const view = useView()

const toScreen = (x: number, y: number) => view.pictureToScreen({ x, y })
function path(points: ArrayLike<number>): string {
  let d = ''
  for (let i = 0; i + 1 < points.length; i += 2) {
    const { sx, sy } = toScreen(points[i]!, points[i + 1]!)
    d += `${i === 0 ? 'M' : 'L'}${sx.toFixed(1)} ${sy.toFixed(1)}`
  }
  return d
}

const { outline, read, stretches } = useOutlineRead()

/** Runs of a side as paths, by what is to be thought of them. */
function runs(side: OutlineSide, name: 'left' | 'right') {
  const lost = stretches.value.filter((s) => (s.state === 'left' || s.state === 'right') && s.state !== name)
  const kinds: ('found' | 'doubt' | 'hand')[] = Array.from(side.sd, (sd, i) => {
    if (side.hand?.[i]) return 'hand'
    if (!Number.isFinite(sd)) return 'doubt'
    if (lost.length === 0) return 'found'
    const { z } = toPlane(view.seen.value, { x: side.points[2 * i]!, y: side.points[2 * i + 1]! })
    return lost.some((s) => z >= s.from && z <= s.to) ? 'doubt' : 'found'
  })
  const out: { kind: 'found' | 'doubt' | 'hand'; d: string }[] = []
  let from = 0
  for (let i = 1; i <= kinds.length; i++) {
    if (i < kinds.length && kinds[i] === kinds[from]) continue
    // One point more, so that runs join.
    const points = side.points.subarray(2 * from, 2 * Math.min(kinds.length, i + 1))
    if (points.length >= 4) out.push({ kind: kinds[from]!, d: path(points) })
    from = i
  }
  return out
}
const edges = computed(() => {
  if (!outline.value) return []
  const { left, right } = sidesOf(outline.value)
  return [...runs(left, 'left'), ...runs(right, 'right')]
})
const LOOKS = {
  found: { colour: 'var(--line-measured)', dash: undefined, width: 1.4 },
  doubt: { colour: 'var(--line-doubt)', dash: '2 4', width: 1.8 },
  hand: { colour: 'var(--line-modelled)', dash: '9 3', width: 1.8 },
} as const

/** The stretch that the list points out, on both edges. */
const pointed = computed(() => {
  const { stretch } = bench
  if (!stretch || !read.value) return null
  const at = (z: number) => view.planeToScreen({ x: radiusAtHeight(read.value!, z) || 0, z }).sy
  const [top, bottom] = [at(stretch.to), at(stretch.from)]
  return { y: top, height: Math.max(3, bottom - top) }
})

const pen = computed(() => ({
  settled: path(props.tools.edgePen.settled.value),
  live: path(props.tools.edgePen.live.value),
  start: props.tools.edgePen.last.value,
}))
const guides = computed(() => props.tools.guides.shown.value ?? piece.document.guides ?? NO_GUIDES)
const strokes = computed(() => {
  const scale = view.magnification.value
  const shown = (list: readonly BrushStroke[]) =>
    list.map((stroke) => ({
      d: path(stroke.points.flatMap((p) => [p.x, p.y])) + (stroke.points.length === 1 ? 'h0.1' : ''),
      width: 2 * stroke.radius * scale,
    }))
  return { piece: shown(guides.value.piece), backdrop: shown(guides.value.backdrop) }
})
</script>

<template>
  <g>
    <rect
      v-if="pointed"
      class="pointed"
      x="0"
      width="100%"
      :y="pointed.y"
      :height="pointed.height"
      data-testid="pointed-stretch"
    />
    <g fill="none" stroke-linecap="round" stroke-linejoin="round">
      <path
        v-for="(s, i) in strokes.piece"
        :key="`p${i}`"
        :d="s.d"
        :stroke-width="s.width"
        class="paint piece"
      />
      <path
        v-for="(s, i) in strokes.backdrop"
        :key="`b${i}`"
        :d="s.d"
        :stroke-width="s.width"
        class="paint backdrop"
      />
    </g>
    <g data-testid="outline-edges">
      <TwoTone
        v-for="(edge, i) in edges"
        :key="i"
        :d="edge.d"
        :colour="LOOKS[edge.kind].colour"
        :width="LOOKS[edge.kind].width"
        :dash="LOOKS[edge.kind].dash"
      />
    </g>
    <path
      v-for="(m, i) in guides.marks"
      :key="`m${i}`"
      class="mark"
      :d="`M${toScreen(m.x, m.y).sx - 6} ${toScreen(m.x, m.y).sy}h12m-6 -6v12`"
    />
    <TwoTone v-if="pen.settled" :d="pen.settled" colour="var(--line-modelled)" :width="2" />
    <TwoTone
      v-if="pen.live"
      :d="pen.live"
      colour="var(--line-modelled)"
      :width="2"
      dash="6 4"
      data-testid="edge-pen-live"
    />
    <circle
      v-if="pen.start"
      :cx="toScreen(pen.start.x, pen.start.y).sx"
      :cy="toScreen(pen.start.x, pen.start.y).sy"
      r="4.5"
      class="start"
    />
  </g>
</template>

<style scoped>
.pointed {
  fill: color-mix(in srgb, var(--line-doubt) 22%, transparent);
  stroke: var(--line-doubt);
  stroke-width: 0.8;
}
.paint {
  opacity: 0.45;
}
.paint.piece {
  stroke: var(--line-modelled);
}
.paint.backdrop {
  stroke: var(--line-doubt);
}
.mark {
  stroke: var(--line-measured);
  stroke-width: 2.4;
  filter: drop-shadow(0 0 1px #fff);
}
.start {
  fill: var(--line-halo);
  stroke: var(--line-modelled);
  stroke-width: 1.6;
}
</style>

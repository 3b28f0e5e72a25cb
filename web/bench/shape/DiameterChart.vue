<script setup lang="ts">
import {
  Chart as ChartJS,
  Legend,
  LinearScale,
  LineElement,
  PointElement,
  Tooltip,
  type ChartOptions,
  type Plugin,
} from 'chart.js'
import { computed, ref, watch } from 'vue'
import { Line, type ChartComponentRef } from 'vue-chartjs'
import { radiusAt } from '../../../core/measure/profile-measures'
import { MM_PER_UNIT, typedUnit } from '../../../core/units/units'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { useChartColours } from '../use-chart-colours'
import { useDeviation } from './use-deviation'

/** ⌀ against height: both edges of the outline, the curve, and what lies between, on a scale of its own. */
ChartJS.register(LinearScale, LineElement, PointElement, Legend, Tooltip)
const bench = useBench()
const piece = usePiece()
const { read, deviation } = useDeviation()

const perUnit = computed(() => MM_PER_UNIT[typedUnit(piece.document.unit)])
const MOST_POINTS = 400

/** Heights at which the outline is shown. */
const rows = computed(() => {
  const all = read.value?.points ?? []
  const stride = Math.max(1, Math.ceil(all.length / MOST_POINTS))
  return all.filter((_, i) => i % stride === 0)
})

/** Both edges: the outline with half of what the sides differ by at its height. Heavy, and the same for every curve. */
const edges = computed(() => {
  const r = read.value
  if (!r) return { left: [], right: [] }
  const { view } = piece.derived.calibration
  const { points, difference } = r.half
  const mmPerPx = (view.kind === 'near' ? view.distance : 1) / r.half.pxPerUnit
  const k = 1 / perUnit.value
  const [left, right]: { x: number; y: number }[][] = [[], []]
  for (const [radius, z] of rows.value) {
    const level = view.kind === 'near' ? (z - view.height) / view.distance : z
    const away = (i: number) => Math.abs(points[2 * i + 1]! - level)
    let near = 0
    for (let i = 1; i < difference.length; i++) if (away(i) < away(near)) near = i
    const off = (difference[near]! * mmPerPx) / 2
    if (!Number.isFinite(off)) continue
    left!.push({ x: z * k, y: 2 * (radius + off) * k })
    right!.push({ x: z * k, y: 2 * (radius - off) * k })
  }
  return { left: left!, right: right! }
})

const colours = useChartColours()

const data = computed(() => {
  const k = 1 / perUnit.value
  const flat = piece.derived.drawn
  const curve = rows.value.flatMap(([, z]) => {
    const r = radiusAt(flat, z)
    return r === null ? [] : [{ x: z * k, y: 2 * r * k }]
  })
  const off = (deviation.value?.points ?? []).map((p) => ({ x: p.z * k, y: p.mm * k }))
  const { measured, modelled, doubt } = colours.value
  const line = { pointRadius: 0, borderWidth: 1.4, parsing: false as const }
  return {
    datasets: [
      { label: 'left edge', data: edges.value.left, borderColor: measured, borderDash: [5, 3], ...line, yAxisID: 'y' },
      { label: 'right edge', data: edges.value.right, borderColor: measured, ...line, yAxisID: 'y' },
      { label: 'curve', data: curve, borderColor: modelled, ...line, borderWidth: 2, yAxisID: 'y' },
      { label: 'outline minus curve', data: off, borderColor: doubt, ...line, borderWidth: 1, yAxisID: 'off' },
    ],
  } // prettier-ignore
})

/** Stations, and the height under the pointer: in this chart and in both panes. Drawn from what holds at that moment. */
const levels: Plugin<'line'> = {
  id: 'levels',
  afterDatasetsDraw({ ctx, chartArea, scales }) {
    const placeOf = (z: number) => {
      const x = scales.x!.getPixelForValue(z / perUnit.value)
      return x < chartArea.left || x > chartArea.right ? null : x
    }
    ctx.save()
    ctx.fillStyle = colours.value.ink
    ctx.font = '11px Figtree Variable, sans-serif'
    for (const { name, z } of piece.document.stations) {
      const x = placeOf(z)
      if (x === null) continue
      ctx.fillRect(x, chartArea.top, 1, 8)
      ctx.fillText(name, x + 4, chartArea.top + 9)
    }
    const pointer = bench.level === null ? null : placeOf(bench.level)
    if (pointer !== null) ctx.fillRect(pointer, chartArea.top, 1, chartArea.bottom - chartArea.top)
    ctx.restore()
  },
}
const chart = ref<ChartComponentRef<'line'> | null>(null)
watch([() => bench.level, () => piece.document.stations], () => chart.value?.chart?.draw())

/** From foot to top, and no farther. */
const span = computed(() => {
  const heights = read.value?.points.map((p) => p[1] / perUnit.value) ?? [0, 1]
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  // Round ends, so that the axis has round figures.
  const step = 10 ** Math.floor(Math.log10((high - low || 1) / 4))
  return { min: step * Math.round(low / step), max: step * Math.ceil(high / step) }
})

const options = computed<ChartOptions<'line'>>(() => {
  const unit = typedUnit(piece.document.unit)
  const { ink, rule } = colours.value
  const title = (text: string) => ({ display: true, text, color: ink })
  const grid = { color: rule }
  const ticks = { color: ink }
  return {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    interaction: { mode: 'nearest', axis: 'x', intersect: false },
    scales: {
      x: { type: 'linear', ...span.value, title: title(`height, ${unit}`), grid, ticks },
      y: { type: 'linear', title: title(`⌀, ${unit}`), min: 0, grid, ticks },
      off: { type: 'linear', position: 'right', title: title(`off, ${unit}`), grid: { drawOnChartArea: false }, ticks },
    },
    plugins: {
      legend: { labels: { color: ink, boxWidth: 26, boxHeight: 1 } },
      tooltip: { callbacks: { title: (items) => `height ${Number(items[0]?.parsed.x).toFixed(2)} ${unit}` } },
    },
    onHover(event, _, chart) {
      if (event.x !== null) bench.level = Number(chart.scales.x!.getValueForPixel(event.x)) * perUnit.value
    },
  } // prettier-ignore
})
</script>

<template>
  <figure data-testid="diameter-chart" @pointerleave="bench.level = null">
    <Line ref="chart" :key="colours.ink" :data="data" :options="options" :plugins="[levels]" />
  </figure>
</template>

<style scoped>
figure {
  height: 210px;
  margin: 0;
  padding: 6px 8px 2px;
  border-top: 1px solid var(--rule);
  background: var(--paper);
}
</style>

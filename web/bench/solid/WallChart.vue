<script setup lang="ts">
import { Chart as ChartJS, LinearScale, LineElement, PointElement, type ChartOptions } from 'chart.js'
import { computed } from 'vue'
import { Line } from 'vue-chartjs'
import type { WallPlace } from '../../../core/measure/wall-thickness'
import { MM_PER_UNIT, typedUnit } from '../../../core/units/units'
import { usePiece } from '../../stores/piece'
import { useChartColours } from '../use-chart-colours'

/** How thick the wall is along its height. */
ChartJS.register(LinearScale, LineElement, PointElement)
const props = defineProps<{ places: readonly WallPlace[] }>()
const piece = usePiece()
const colours = useChartColours()

const unit = computed(() => typedUnit(piece.document.unit))
const data = computed(() => {
  const k = 1 / MM_PER_UNIT[unit.value]
  return {
    datasets: [
      {
        label: 'wall',
        data: props.places.map((p) => ({ x: p.z * k, y: p.mm * k })),
        borderColor: colours.value.modelled,
        borderWidth: 1.4,
        pointRadius: 0,
        parsing: false as const,
      },
    ],
  }
})
const options = computed((): ChartOptions<'line'> => {
  const axis = (text: string) => ({
    type: 'linear' as const,
    title: { display: true, text: `${text}, ${unit.value}`, color: colours.value.ink },
    ticks: { color: colours.value.ink, maxTicksLimit: 5 },
    grid: { color: colours.value.rule },
  })
  return {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    plugins: { legend: { display: false }, tooltip: { enabled: false } },
    scales: { x: axis('height'), y: { ...axis('wall'), beginAtZero: true } },
  }
})
</script>

<template>
  <div
    class="chart"
    role="img"
    aria-label="Thickness of the wall against the height"
    data-testid="wall-chart"
  >
    <Line :data="data" :options="options" />
  </div>
</template>

<style scoped>
.chart {
  position: relative;
  height: 130px;
}
</style>

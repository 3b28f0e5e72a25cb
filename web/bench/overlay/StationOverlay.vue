<script setup lang="ts">
import { computed } from 'vue'
import { readStations } from '../../../core/piece/stations'
import { formatLength } from '../../../core/units/format-length'
import { useView } from '../../composables/use-view'
import { usePiece } from '../../stores/piece'
import MarkLabel from './MarkLabel.vue'

/** The stations' names and diameters beside the piece. */
const props = defineProps<{
  axisX: number
  width: number
  height: number
  /** Names stand here; default: on the side that isn't drawn on. */
  side?: 'left' | 'right'
}>()
const piece = usePiece()
const view = useView()

const marks = computed(() =>
  readStations(piece.document.stations, piece.derived).flatMap(({ station, diameterMm }) => {
    if (diameterMm === null) return []
    const { z } = station
    const side = props.side ?? (piece.document.profile.side === 'left' ? 'right' : 'left')
    const sign = side === 'right' ? 1 : -1
    const [from, to] = [view.planeToScreen({ x: (-sign * diameterMm) / 2, z }, props.axisX), view.planeToScreen({ x: (sign * diameterMm) / 2, z }, props.axisX)] // prettier-ignore
    const text = `${station.name} ⌀ ${formatLength(diameterMm, { unit: piece.document.unit, withUnit: false })}`
    return [{ id: station.id, from, to, text, left: sign < 0 }]
  }),
)
</script>

<template>
  <g v-for="mark in marks" :key="mark.id" class="station-mark">
    <path class="halo" :d="`M${mark.from.sx} ${mark.from.sy}L${mark.to.sx} ${mark.to.sy}`" />
    <path :d="`M${mark.from.sx} ${mark.from.sy}L${mark.to.sx} ${mark.to.sy}`" />
    <MarkLabel
      :sx="mark.to.sx"
      :sy="mark.to.sy"
      :text="mark.text"
      :dx="mark.left ? -16 - 7.1 * mark.text.length - 6 : 6"
      :dy="0"
      :pane-width="width"
      :pane-height="height"
    />
  </g>
</template>

<style scoped>
.station-mark {
  pointer-events: none;
}
path {
  fill: none;
  stroke: var(--line-modelled);
  stroke-width: 1;
  stroke-dasharray: 2 3;
}
.halo {
  stroke: rgb(251 249 245 / 0.7);
  stroke-width: 2.4;
  stroke-dasharray: none;
}
</style>

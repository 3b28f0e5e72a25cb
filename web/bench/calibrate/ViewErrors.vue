<script setup lang="ts">
import { computed } from 'vue'
import { distantErrors, likelyCameras, nearErrors } from '../../../core/camera/view-error'
import { formatLength } from '../../../core/units/format-length'
import { decimalUnit } from '../../../core/units/units'
import { useView } from '../../composables/use-view'
import { usePiece } from '../../stores/piece'
import { useExtent } from './use-extent'

/** What a reading through the chosen view may still be off by, for this very piece. */
const piece = usePiece()
const view = useView()
const extent = useExtent()
const solved = computed(() => piece.derived.calibration)
const length = (mm: number) =>
  formatLength(mm, { unit: piece.document.unit, decimals: piece.document.unit === 'mm' ? 0 : undefined })

/** How far off a reading may be at foot, largest ⌀ and rim. */
const errors = computed(() => {
  const e = extent.value
  const { near, view: v, scale } = solved.value
  if (!e) return null
  if (v.kind === 'near' && near) {
    const sd = {
      pitch: near.assumed.pitch ? (2 * Math.PI) / 180 : near.pitch.sd,
      focal: near.focal.sd,
      scale: scale?.relativeSe ?? 0,
    }
    return { words: 'Standard error of a reading that remains:', rows: nearErrors(e, v, sd) }
  }
  const f = view.focal.value
  if (f) {
    // The lens tells how far away the camera stood; only its height stays unknown.
    const distance = f.px * solved.value.frame.mmPerPx
    const cameras = [0, 0.5, 1].map((h) => ({ distance, height: h * e.height }))
    return {
      words: `By its lens the camera stood about ${length(distance)} away. Readings by parallel rays are off by:`,
      rows: distantErrors(e, cameras),
    }
  }
  return {
    words: 'Readings by parallel rays, for cameras 3 to 15 heights away, are off by:',
    rows: distantErrors(e, likelyCameras(e.height)),
  }
})
const PLACES = { foot: 'foot', largest: 'largest ⌀', rim: 'rim' }
const fine = (mm: number, decimals?: number) =>
  formatLength(mm, { unit: decimalUnit(piece.document.unit), decimals }).replace('-', '−')
const range = ([low, high]: [number, number]) =>
  Math.abs(low + high) < 1e-6 * Math.abs(high)
    ? `±${fine(high)}`
    : `${fine(low, piece.document.unit === 'mm' ? 1 : undefined)} to ${fine(high, piece.document.unit === 'mm' ? 1 : undefined)}`
</script>

<template>
  <div v-if="errors" class="errors" data-testid="view-errors">
    <p class="soft small">{{ errors.words }}</p>
    <table>
      <thead>
        <tr>
          <th></th>
          <th>height</th>
          <th>⌀</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in errors.rows" :key="row.place">
          <th scope="row">{{ PLACES[row.place] }}</th>
          <td>{{ range(row.heightMm) }}</td>
          <td>{{ range(row.diameterMm) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.small {
  font-size: 12.5px;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 12.5px;
}
th {
  color: var(--ink-soft);
  font-weight: 400;
  text-align: left;
}
td,
thead th {
  text-align: right;
}
</style>

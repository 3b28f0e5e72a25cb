<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed } from 'vue'
import { LEAST_SIDES, MOST_SIDES } from '../../../core/solid/revolve'
import { sideError, sidesForTriangles, sidesWithin } from '../../../core/solid/sides'
import { formatLength } from '../../../core/units/format-length'
import NumberField from '../../common/NumberField.vue'
import { usePiece } from '../../stores/piece'
import PieceLength from '../shape/PieceLength.vue'
import { triangleTotal } from '../triangle-total'

/** How many sides: by number, by the error of the silhouette, or by triangles; each says what it means for the others. */
const piece = usePiece()
const PRESETS = [8, 12, 16, 32, 64, 128]
const sides = computed(() => piece.document.solid.sides)
const radius = computed(() => piece.derived.measures?.maxRadiusMm ?? 0)
const bands = computed(() => (piece.derived.solid ? piece.derived.solid.flat.points.length / 2 - 1 : 1))
const triangles = computed(() => triangleTotal(piece.derived.solid, sides.value))
/** Usual low counts and what they cost, side by side. */
const levels = computed(() =>
  [8, 16, 32, 64].map((n) => ({
    n,
    triangles: triangleTotal(piece.derived.solid, n).toLocaleString('en'),
    error: formatLength(sideError(radius.value, n), { unit: piece.document.unit, fine: true }),
  })),
)
function set(value: number) {
  if (Number.isInteger(value) && value >= LEAST_SIDES && value <= MOST_SIDES)
    piece.dispatch({ type: 'set-sides', sides: value }, 'sides')
}
</script>

<template>
  <section class="card">
    <h3>Sides</h3>
    <NumberField
      label="Sides"
      :value="sides"
      unit=""
      :digits="0"
      :min="LEAST_SIDES"
      :max="MOST_SIDES"
      @commit="(v) => set(Math.round(v))"
    />
    <div class="row" role="group" aria-label="Usual numbers of sides">
      <AButton
        v-for="n in PRESETS"
        :key="n"
        size="small"
        :type="n === sides ? 'primary' : 'default'"
        @click="set(n)"
        >{{ n }}</AButton
      >
    </div>
    <PieceLength
      label="Error of ⌀/2"
      :value-mm="sideError(radius, sides)"
      :disabled="!piece.derived.solid"
      @commit="(mm) => set(sidesWithin(radius, mm))"
    />
    <NumberField
      label="Triangles"
      :value="triangles"
      unit=""
      :digits="0"
      :min="1"
      :disabled="!piece.derived.solid"
      @commit="(v) => set(sidesForTriangles(bands, v))"
    />
    <p class="soft">
      <strong data-testid="triangles">{{ triangles.toLocaleString('en') }}</strong> triangles. ⌀ is across the
      corners; typing an error or a number of triangles chooses the sides that keep to it.
    </p>
    <details v-if="piece.derived.solid">
      <summary>Levels side by side</summary>
      <table>
        <thead>
          <tr>
            <th scope="col">Sides</th>
            <th scope="col">Triangles</th>
            <th scope="col">Error</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="level in levels" :key="level.n">
            <td>{{ level.n }}</td>
            <td>{{ level.triangles }}</td>
            <td>{{ level.error }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </section>
</template>

<style scoped src="../shape/card.css"></style>
<style scoped>
th,
td {
  padding: 1px 14px 1px 0;
  text-align: left;
}
th {
  color: var(--ink-soft);
  font-weight: 500;
}
</style>

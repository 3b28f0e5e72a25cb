<script setup lang="ts">
import { computed, ref } from 'vue'
import { filledTo } from '../../../core/measure/capacity'
import { formatLength } from '../../../core/units/format-length'
import NumberField from '../../common/NumberField.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { formatVolume, volumeUnit } from '../use-figures'
import PieceLength from '../shape/PieceLength.vue'
import MaterialChoice from './MaterialChoice.vue'
import { useVessel } from './use-vessel'

/** What the piece holds and weighs, and whether it stands; each with what the scale's error makes of it. */
const bench = useBench()
const piece = usePiece()
const { solid, inside, brim, range, filling, material, empty, full, stands, others, share, uncertainty } =
  useVessel()

const unit = computed(() => piece.document.unit)
const length = (mm: number) => formatLength(mm, { unit: unit.value })
const volumes = computed(() => volumeUnit(unit.value))
/** A volume goes with the third power of lengths, and so does a mass. */
const pm = (value: number) =>
  uncertainty.value === null ? '' : ` ± ${(3 * uncertainty.value * value).toPrecision(2)}`
const volume = (mm3: number) => `${formatVolume(mm3, unit.value).replace(/ (\S+)$/, `${pm(mm3 / volumes.value.mm3)} $1`)}` // prettier-ignore
const mass = (g: number) => (g < 1000 ? `${g.toPrecision(4)}${pm(g)} g` : `${(g / 1000).toPrecision(4)}${pm(g / 1000)} kg`) // prettier-ignore
const degrees = (radians: number) => `${((180 * radians) / Math.PI).toFixed(1)}°`
const problem = ref('')

function toLevel(mm: number) {
  const { bottomMm, brimMm } = range.value!
  problem.value =
    mm > brimMm || mm < bottomMm ? `The inside goes from ${length(bottomMm)} to ${length(brimMm)}.` : ''
  if (!problem.value) bench.filling = { by: 'level', mm }
}
function toVolume(value: number) {
  const mm3 = value * volumes.value.mm3
  problem.value = mm3 > brim.value!.volumeMm3 ? `Brim-full it holds ${volume(brim.value!.volumeMm3)}; more would run over.` : '' // prettier-ignore
  if (!problem.value) bench.filling = { by: 'volume', mm3 }
}
/** Volumes at even levels, for the table. */
const TABLE_ROWS = 8
const table = computed(() => (brim.value ? rowsOf() : []))
function rowsOf() {
  const { bottomMm, brimMm } = range.value!
  return Array.from({ length: TABLE_ROWS }, (_, i) => {
    const z = bottomMm + ((brimMm - bottomMm) * (i + 1)) / TABLE_ROWS
    return { z, volume: filledTo(inside.value!, z, share.value).volumeMm3 }
  })
}
</script>

<template>
  <section v-if="solid" class="card">
    <template v-if="brim && range">
      <h3>What it holds</h3>
      <p data-testid="brim">
        Brim-full <strong>{{ volume(brim.volumeMm3) }}</strong>, from {{ length(range.bottomMm) }} to
        {{ length(range.brimMm) }}.
      </p>
      <PieceLength
        label="Filled to"
        :value-mm="filling?.levelMm ?? null"
        signed
        placeholder="a height"
        @commit="toLevel"
      />
      <NumberField
        label="or with"
        :value="filling ? filling.volumeMm3 / volumes.mm3 : null"
        :unit="volumes.name"
        :digits="1"
        :min="0"
        placeholder="a volume"
        @commit="toVolume"
      />
      <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
      <details>
        <summary>Volume by level</summary>
        <table>
          <tbody>
            <tr v-for="row in table" :key="row.z">
              <td>{{ length(row.z) }}</td>
              <td>{{ formatVolume(row.volume, unit) }}</td>
            </tr>
          </tbody>
        </table>
      </details>
    </template>
    <h3>What it weighs</h3>
    <MaterialChoice
      :value="piece.document.solid.material ?? null"
      none="not chosen"
      @choose="(id) => piece.dispatch({ type: 'set-material', material: id })"
    />
    <p v-if="material && empty" data-testid="mass">
      <strong>{{ mass(empty.massG) }}</strong><template v-if="full">, filled {{ mass(full.massG) }}</template
      >. <span class="soft">{{ material.density }} g/cm³, {{ material.source }}.</span>
    </p>
    <p v-for="part in others" :key="part.name" data-testid="part-mass">
      {{ part.name }}: {{ volume(part.volumeMm3)
      }}<template v-if="part.massG !== null">, {{ mass(part.massG) }}</template>
      <span v-if="part.liquid" class="soft">taken as water</span>
    </p>
    <p v-if="stands" data-testid="stands">
      Stands on ⌀ {{ length(2 * stands.alone.footMm) }}, centre of gravity at {{ length(stands.centreMm)
      }}<template v-if="stands.aside > 0.005">, {{ length(stands.aside) }} beside the axis</template
      ><template v-if="full">, filled at {{ length(full.centreMm) }}</template
      >: tips over at {{ degrees(stands.alone.tippingAngle)
      }}<template v-if="stands.filled">, filled at {{ degrees(stands.filled.tippingAngle) }}</template
      >.
    </p>
    <p v-if="uncertainty !== null" class="soft">
      ± is one standard error of the scale; the outline’s own error comes on top.
    </p>
  </section>
</template>

<style scoped src="../shape/card.css"></style>
<style scoped>
td {
  padding: 1px 16px 1px 0;
}
</style>

<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { CoreError } from '../../../core/errors'
import { unrolledBand, writeUnrolled } from '../../../core/formats/unrolled'
import type { Zone } from '../../../core/piece/schema'
import { zoneRadius } from '../../../core/piece/surface-picture'
import { scaledSegment } from '../../../core/profile/segments'
import { formatLength } from '../../../core/units/format-length'
import { usePiece } from '../../stores/piece'
import { download } from '../download'
import { plainFileName } from '../../../core/piece/file-name'
import { newId } from '../new-id'
import PieceLength from '../shape/PieceLength.vue'
import MaterialChoice from './MaterialChoice.vue'
import NameField from './NameField.vue'
import PictureFields from './PictureFields.vue'

/** Bands between two levels with a material of their own; a later one lies over an earlier one. */
const piece = usePiece()
const zones = computed(() => piece.document.zones)
const measures = computed(() => piece.derived.measures)
const set = (zone: Zone) => piece.dispatch({ type: 'set-zone', zone })

/** A new band at the foot, a twelfth of the height: felt, say. */
function add() {
  const { lowestMm, heightMm } = measures.value!
  const toMm = Number((lowestMm + heightMm / 12).toPrecision(3))
  set({ id: newId(), name: `Zone ${zones.value.length + 1}`, fromMm: Math.min(0, lowestMm), toMm, material: null }) // prettier-ignore
}
/** Once round at its middle, mm. */
const around = (zone: Zone) =>
  piece.derived.solid ? 2 * Math.PI * zoneRadius(piece.derived.solid.flat, zone) : 100
const misses = ({ fromMm, toMm }: Zone) => {
  const m = measures.value
  return m !== null && (toMm <= m.lowestMm || fromMm >= m.highestMm)
}
/** The zone laid flat, at the finished size; or why it can't be. */
function unrolled(zone: Zone) {
  const solid = piece.derived.solid
  if (!solid) return { problem: '', band: null }
  const { factor } = piece.document.calibration.finish
  const outside = (solid.hollow?.outside ?? solid.segments).map((s) => scaledSegment(s, factor))
  try {
    return { problem: '', band: unrolledBand(outside, factor * zone.fromMm, factor * zone.toMm) }
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    return { problem: error.message, band: null }
  }
}
const refusal = ref('')
function saveUnrolled(zone: Zone) {
  const { band, problem } = unrolled(zone)
  refusal.value = problem
  const name = `${piece.document.name}, ${zone.name}`
  if (band) download(writeUnrolled(band, name), `${plainFileName(name)}.svg`, 'image/svg+xml')
}
const length = (mm: number) => formatLength(mm, { unit: piece.document.unit })
</script>

<template>
  <section v-for="zone in zones" :key="zone.id" class="card" data-testid="zone">
    <NameField :value="zone.name" what="zone" @commit="(name) => set({ ...zone, name })" />
    <PieceLength
      label="From"
      :value-mm="zone.fromMm"
      signed
      @commit="(mm) => set({ ...zone, fromMm: mm, toMm: Math.max(mm, zone.toMm) })"
    />
    <PieceLength
      label="To"
      :value-mm="zone.toMm"
      signed
      @commit="(mm) => set({ ...zone, toMm: mm, fromMm: Math.min(mm, zone.fromMm) })"
    />
    <MaterialChoice
      :value="zone.material"
      none="as the body"
      @choose="(material) => set({ ...zone, material })"
    />
    <PictureFields
      :value="zone.picture"
      :what="zone.name"
      :usual-mm="around(zone)"
      round
      @set="(picture) => set({ ...zone, picture })"
    />
    <p v-if="misses(zone)" class="doubt" role="alert">
      The piece goes from {{ length(measures!.lowestMm) }} to {{ length(measures!.highestMm) }}: nothing of it
      lies in this zone.
    </p>
    <div class="row">
      <AButton size="small" @click="saveUnrolled(zone)">Save it unrolled</AButton>
      <AButton size="small" @click="piece.dispatch({ type: 'remove-zone', id: zone.id })">Remove</AButton>
    </div>
  </section>
  <p v-if="refusal" class="card doubt" role="alert">{{ refusal }}</p>
  <p v-if="!zones.length" class="soft">
    None yet. A felt foot, an enamel rim, a label: each a band between two levels.
  </p>
  <AButton :disabled="!measures" @click="add">Add a zone</AButton>
</template>

<style scoped src="../shape/card.css"></style>

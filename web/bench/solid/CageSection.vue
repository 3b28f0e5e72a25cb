<script setup lang="ts">
import { Switch as ASwitch } from 'ant-design-vue'
import { computed } from 'vue'
import { CoreError } from '../../../core/errors'
import { meshVolume } from '../../../core/measure/mesh-measures'
import { cageMesh, PREVIEW_LEVELS, usualCage, type Cage } from '../../../core/piece/cage'
import { subdivided } from '../../../core/solid/catmull-clark'
import { trianglesOfPoly } from '../../../core/solid/poly-mesh'
import ChoiceRow from '../../common/ChoiceRow.vue'
import NumberField from '../../common/NumberField.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import PieceLength from '../shape/PieceLength.vue'

/** A mesh of quads for modelling on: its rows, its ends, and what holds its corners when it is subdivided. */
const bench = useBench()
const piece = usePiece()
const ENDS = [
  { value: 'fan', text: 'fan', title: 'Triangles about one pole' },
  { value: 'rings', text: 'rings', title: 'Rings set in, then triangles' },
  { value: 'quads', text: 'quads', title: 'Strips of quads, no pole' },
] as const
const CORNERS = [
  { value: 'none', text: 'nothing' },
  { value: 'rings', text: 'rings' },
  { value: 'crease', text: 'crease' },
] as const
const SHOWN = [
  { value: 'no', text: 'no' },
  { value: '0', text: 'as it is' },
  { value: String(PREVIEW_LEVELS), text: 'subdivided' },
] as const

const measures = computed(() => piece.derived.measures)
const cage = computed((): Cage | null => piece.document.solid.cage ?? null)
const set = (change: Partial<Cage>) =>
  piece.dispatch({ type: 'set-cage', cage: { ...cage.value!, ...change } })
function turn(on: boolean) {
  piece.dispatch({ type: 'set-cage', cage: on ? usualCage(measures.value?.heightMm ?? 100) : undefined })
  bench.solid.cage = on ? 0 : null
}
function hold(by: Cage['corners']['by']) {
  const mm = usualCage(measures.value?.heightMm ?? 100).corners
  set({ corners: by === 'rings' ? mm : by === 'crease' ? { by, sharpness: 3 } : { by } })
}
/** What it is made of, and how much of the piece it loses; or why it can't be made. */
const figures = computed(() => {
  const { solid, measures: m } = piece.derived
  if (!cage.value || !solid || !m) return null
  try {
    const mesh = cageMesh(solid, cage.value)
    const quads = mesh.faces.filter((f) => f.length === 4).length
    const volume = meshVolume(trianglesOfPoly(subdivided(mesh, PREVIEW_LEVELS)))
    return {
      quads,
      triangles: mesh.faces.length - quads,
      lost: 100 * (1 - volume / m.volumeMm3),
      problem: '',
    }
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    return { quads: 0, triangles: 0, lost: 0, problem: error.message }
  }
})
</script>

<template>
  <section class="card">
    <label class="switch"
      ><ASwitch
        :checked="cage !== null"
        size="small"
        data-testid="cage"
        @change="(on) => turn(Boolean(on))"
      />
      Mesh of quads, to subdivide</label
    >
    <template v-if="cage">
      <NumberField
        label="Sides"
        :value="cage.sides"
        unit=""
        :digits="0"
        :min="3"
        :max="512"
        @commit="(v) => set({ sides: Math.round(v) })"
      />
      <PieceLength label="Rows within" :value-mm="cage.errorMm" @commit="(errorMm) => set({ errorMm })" />
      <ChoiceRow label="Flat ends" :value="cage.ends" :choices="ENDS" @choose="(ends) => set({ ends })" />
      <ChoiceRow
        wide
        label="Corners"
        name="Corners held by"
        :value="cage.corners.by"
        :choices="CORNERS"
        @choose="hold"
      />
      <PieceLength
        v-if="cage.corners.by === 'rings'"
        label="Rings beside"
        :value-mm="cage.corners.mm"
        @commit="(mm) => set({ corners: { by: 'rings', mm } })"
      />
      <NumberField
        v-else-if="cage.corners.by === 'crease'"
        label="Sharpness"
        :value="cage.corners.sharpness"
        unit="levels"
        :digits="1"
        :min="0"
        :max="10"
        @commit="(sharpness) => set({ corners: { by: 'crease', sharpness } })"
      />
      <ChoiceRow
        wide
        label="Shown"
        :value="bench.solid.cage === null ? 'no' : String(bench.solid.cage)"
        :choices="SHOWN"
        @choose="(v) => (bench.solid.cage = v === 'no' ? null : Number(v))"
      />
      <p v-if="figures?.problem" class="doubt" role="alert">{{ figures.problem }}</p>
      <p v-else-if="figures" class="soft" data-testid="cage-figures">
        {{ figures.quads }} quads<template v-if="figures.triangles"
          >, {{ figures.triangles }} triangles</template
        >. Subdivided {{ PREVIEW_LEVELS }} times (Catmull-Clark) it has
        {{ Math.abs(figures.lost).toFixed(1) }} % {{ figures.lost < 0 ? 'more' : 'less' }} volume than the
        curve.
      </p>
    </template>
  </section>
</template>

<style scoped src="../shape/card.css"></style>

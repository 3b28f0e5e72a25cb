<script setup lang="ts">
import { Slider as ASlider, Switch as ASwitch } from 'ant-design-vue'
import { computed } from 'vue'
import { PLAIN_MAPPING } from '../../../core/solid/assemble'
import type { Mapping } from '../../../core/solid/shading'
import AngleField from '../../common/AngleField.vue'
import ChoiceRow from '../../common/ChoiceRow.vue'
import SelectRow from '../../common/SelectRow.vue'
import { useBench } from '../../stores/bench'
import { COMPANIONS } from './companions'
import { usePiece } from '../../stores/piece'
import PictureFields from './PictureFields.vue'

/** How the solid is shown: nothing of it is kept with the piece. */
const bench = useBench()
const piece = usePiece()
const CUTS = { no: 0, quarter: Math.PI / 2, half: Math.PI }
const CUT_WORDS = [
  { value: 'no', text: 'no' },
  { value: 'quarter', text: 'a quarter' },
  { value: 'half', text: 'half' },
] as const
/** What the surface can show of this piece. */
const surfaces = computed(() => [
  { value: 'plain' as const, text: 'plain colours' },
  { value: 'materials' as const, text: 'its materials' },
  { value: 'check' as const, text: 'check pattern, 10 mm' },
  ...(piece.wholeDerived.solid?.hollow
    ? [{ value: 'thickness' as const, text: 'thickness of the wall' }]
    : []),
  ...(piece.whole.outline
    ? [{ value: 'deviation' as const, text: 'distance from the photo’s outline' }]
    : []),
])
const beside = COMPANIONS.map(({ id, name }) => ({ value: id, text: name }))
const opened = computed(() => (bench.solid.cut === 0 ? 'no' : bench.solid.cut < 2 ? 'quarter' : 'half'))
const UNROLLED = [
  { value: 'straight', text: 'grain straight', title: 'Lines along the grain follow the profile' },
  { value: 'even', text: 'even', title: 'Squares keep their area; the grain leans where the radius changes' },
] as const
const mapping = computed(() => piece.document.solid.mapping ?? PLAIN_MAPPING)
const setMapping = (change: Partial<Mapping>) =>
  piece.dispatch({ type: 'set-mapping', mapping: { ...mapping.value, ...change } })

/** Opens the side that faces the eye; a quarter on the right, so that both its faces are seen. */
function open(how: keyof typeof CUTS) {
  const facing = bench.solid.azimuth - Math.PI / 2
  bench.solid.cut = CUTS[how]
  bench.solid.cutFrom = facing + Math.PI / 2
}
</script>

<template>
  <section class="card">
    <ChoiceRow label="Cut open" :value="opened" :choices="CUT_WORDS" @choose="open" />
    <SelectRow
      label="Surface"
      name="Surface shows"
      :value="bench.solid.surface"
      :choices="surfaces"
      @choose="(surface) => (bench.solid.surface = surface)"
    />
    <template v-if="bench.solid.surface === 'check' || bench.solid.surface === 'materials'">
      <AngleField
        label="Seam at"
        :radians="mapping.seam"
        :digits="1"
        @commit="(seam) => setMapping({ seam })"
      />
      <ChoiceRow
        label="Unrolled"
        :value="mapping.way"
        :choices="UNROLLED"
        @choose="(way) => setMapping({ way })"
      />
    </template>
    <PictureFields
      v-if="bench.solid.surface === 'materials'"
      :value="piece.whole.solid.picture"
      what="the body"
      :usual-mm="100"
      @set="(picture) => piece.dispatch({ type: 'set-picture', picture })"
    />
    <SelectRow
      label="Beside it"
      :value="bench.solid.companion"
      :choices="beside"
      none="nothing"
      @choose="(id) => (bench.solid.companion = id)"
      @clear="bench.solid.companion = null"
    />
    <label class="switch"><ASwitch v-model:checked="bench.solid.wire" size="small" /> Wire</label>
    <label class="switch"
      ><ASwitch v-model:checked="bench.solid.photoBeneath" size="small" :disabled="!piece.document.photo" />
      Photo beneath (side view)</label
    >
    <div v-if="bench.solid.photoBeneath" class="pair">
      <span id="opacity-label" class="name">Solid over photo</span>
      <ASlider
        v-model:value="bench.solid.opacity"
        :min="0"
        :max="1"
        :step="0.05"
        :tip-formatter="(v?: number) => `${Math.round((v ?? 0) * 100)} %`"
        aria-labelledby="opacity-label"
      />
    </div>
    <p class="soft">
      Drag the solid to turn it; level it again with the side view, whose heights agree with the photo’s.
    </p>
  </section>
</template>

<style scoped src="../shape/card.css"></style>

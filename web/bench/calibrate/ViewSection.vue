<script setup lang="ts">
import {
  Button as AButton,
  Checkbox as ACheckbox,
  InputNumber as AInputNumber,
  RadioButton as ARadioButton,
  RadioGroup as ARadioGroup,
} from 'ant-design-vue'
import { computed } from 'vue'
import { focalOf, lensWords } from '../../../core/calibrate/calibrate'
import type { ViewFacts } from '../../../core/calibrate/calibration'
import { formatLength } from '../../../core/units/format-length'
import LengthField from '../../common/LengthField.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import RingList from './RingList.vue'
import ViewErrors from './ViewErrors.vue'

/** Which view the photo is read by, what is known of the camera, and what error remains for this piece. */
const bench = useBench()
const piece = usePiece()
const facts = computed(() => piece.document.calibration.view)
const solved = computed(() => piece.derived.calibration)
const set = (change: Partial<ViewFacts>) => piece.dispatch({ type: 'set-view', view: change })
const unit = computed(() => piece.document.unit)
const degrees = (radians: number) => ((radians * 180) / Math.PI).toFixed(2)
const length = (mm: number) =>
  formatLength(mm, { unit: unit.value, decimals: unit.value === 'mm' ? 0 : undefined })

const camera = computed(() => {
  const { near, view: v, known } = solved.value
  if (!near || v.kind !== 'near') return []
  const mm = known.scale
  const { photo, calibration } = piece.document
  const isByRings = photo && focalOf(calibration, photo) === null
  return [
    ...(isByRings
      ? [{ name: 'Lens', value: lensWords(near.focal, photo), note: facts.value.distanceMm ? 'as the tape tells it' : 'as the rings tell it; a focal length or a tape would be surer' }] // prettier-ignore
      : []),
    {
      name: 'Tilt',
      value: `${degrees(near.pitch.value)}° ± ${degrees(near.pitch.sd)}°${near.pitch.value >= 0 ? ' down' : ' up'}`,
      note: near.assumed.pitch ? 'taken for level: lay an ellipse over foot or rim' : '',
    },
    { name: 'Stood', value: mm ? `${length(v.distance)} from the axis` : 'needs a known size', note: '' },
    { name: 'Height', value: mm ? `${length(v.height)} above the foot` : '–', note: '' },
    ...(near.rings.length
      ? [{ name: 'Rings', value: `missed by ${near.rmsPx.toFixed(2)} px`, note: '' }]
      : []),
  ]
})
</script>

<template>
  <ARadioGroup
    :value="facts.kind"
    size="small"
    aria-label="View"
    @update:value="(kind: ViewFacts['kind']) => set({ kind })"
  >
    <ARadioButton value="distant">distant: parallel rays</ARadioButton>
    <ARadioButton value="near">near: camera</ARadioButton>
  </ARadioGroup>
  <template v-if="facts.kind === 'near'">
    <label class="number"
      ><span>Lens</span>
      <AInputNumber
        :value="facts.focalLength35mm ?? piece.document.photo?.focalLength35mm ?? undefined"
        :min="1"
        :max="10000"
        size="small"
        placeholder="unknown"
        addon-after="mm"
        aria-label="35 mm equivalent focal length"
        @change="
          (v: unknown) =>
            set({
              focalLength35mm:
                typeof v === 'number' && v !== piece.document.photo?.focalLength35mm ? v : null,
            })
        "
    /></label>
    <p class="soft small">
      35 mm equivalent{{
        facts.focalLength35mm === null && piece.document.photo?.focalLength35mm ? ', as the file says' : ''
      }}.
    </p>
    <LengthField
      label="By tape"
      :value-mm="facts.distanceMm"
      :unit="unit"
      :typed="facts.distanceText || undefined"
      placeholder="to the axis"
      @commit="(mm, text) => set({ distanceMm: mm, distanceText: text, distanceSdMm: 0.01 * mm })"
    />
    <AButton
      v-if="facts.distanceMm !== null"
      size="small"
      @click="set({ distanceMm: null, distanceText: '', distanceSdMm: 0 })"
      >Forget the tape</AButton
    >
    <label class="number"
      ><span>Tilt</span>
      <AInputNumber
        :value="facts.pitchDegrees ?? undefined"
        :min="-89"
        :max="89"
        :step="0.5"
        size="small"
        placeholder="measured"
        addon-after="° down"
        aria-label="Measured tilt of the camera"
        @change="(v: unknown) => set({ pitchDegrees: typeof v === 'number' ? v : null })"
    /></label>
    <ACheckbox
      :checked="facts.cropped"
      @change="(e: { target: { checked: boolean } }) => set({ cropped: e.target.checked })"
      >The picture was cropped before it came here</ACheckbox
    >
    <p v-if="facts.cropped" class="doubt small">
      Then its middle isn’t the lens’ middle and the file’s focal length doesn’t hold. The error grows with
      the square of the shift over the focal length: below 0.1 % of the height while a twentieth of it. The
      uncropped photo is better.
    </p>
    <dl v-if="camera.length">
      <template v-for="row in camera" :key="row.name">
        <dt>{{ row.name }}</dt>
        <dd :data-testid="`camera-${row.name.toLowerCase()}`">
          {{ row.value }}<span v-if="row.note" class="doubt note">{{ row.note }}</span>
        </dd>
      </template>
    </dl>
  </template>
  <p v-else class="soft small">
    All rays are taken for parallel. True for a long lens from far away; else choose near.
  </p>
  <ViewErrors />
  <p class="soft small">
    Rings of the piece tell the camera’s tilt. Lay an ellipse over foot, rim or a band, or let the search find
    them.
  </p>
  <RingList />
  <div class="row">
    <AButton
      size="small"
      :type="bench.tool === 'ring' ? 'primary' : 'default'"
      @click="bench.tool = bench.tool === 'ring' ? 'none' : 'ring'"
      >Lay an ellipse</AButton
    >
  </div>
</template>

<style scoped>
.small {
  font-size: 12.5px;
}
.number {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 8px;
  align-items: center;
}
.number span:first-child {
  color: var(--ink-soft);
}
dl {
  display: grid;
  grid-template-columns: 52px 1fr;
  gap: 3px 8px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-weight: 600;
}
dd .doubt {
  font-weight: 400;
}
.doubt {
  color: var(--doubt);
}
.note {
  display: block;
}
</style>

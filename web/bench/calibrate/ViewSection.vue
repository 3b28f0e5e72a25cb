<script setup lang="ts">
import {
  Button as AButton,
  Checkbox as ACheckbox,
  InputNumber as AInputNumber,
  RadioButton as ARadioButton,
  RadioGroup as ARadioGroup,
} from 'ant-design-vue'
import { DeleteOutlined } from '@ant-design/icons-vue'
import { computed } from 'vue'
import type { ViewFacts } from '../../../core/calibrate/calibration'
import { distantErrors, likelyCameras, nearErrors } from '../../../core/camera/view-error'
import { formatLength } from '../../../core/units/format-length'
import LengthField from '../../common/LengthField.vue'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { useExtent } from './use-extent'

/** Which view the photo is read by, what is known of the camera, and what error remains for this piece. */
const bench = useBench()
const piece = usePiece()
const view = useView()
const extent = useExtent()
const facts = computed(() => piece.document.calibration.view)
const solved = computed(() => piece.derived.calibration)
const rings = computed(() => piece.document.calibration.rings)
const set = (change: Partial<ViewFacts>) => piece.dispatch({ type: 'set-view', view: change })
const unit = computed(() => piece.document.unit)
const degrees = (radians: number) => ((radians * 180) / Math.PI).toFixed(2)
const length = (mm: number) =>
  formatLength(mm, { unit: unit.value, decimals: unit.value === 'mm' ? 0 : undefined })

const camera = computed(() => {
  const { near, view: v, known } = solved.value
  if (!near || v.kind !== 'near') return []
  const mm = known.scale
  return [
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
const range = ([low, high]: [number, number]) =>
  Math.abs(low + high) < 1e-6 * Math.abs(high)
    ? `±${high.toFixed(2)} mm`
    : `${low.toFixed(1).replace('-', '−')} to ${high.toFixed(1).replace('-', '−')} mm`
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
      placeholder="camera to axis, 1.15 m"
      @commit="(mm, text) => set({ distanceMm: mm, distanceText: text, distanceSdMm: 0.01 * mm })"
    />
    <AButton
      v-if="facts.distanceMm !== null"
      size="small"
      @click="set({ distanceMm: null, distanceText: '', distanceSdMm: 0 })"
      >Forget the tape</AButton
    >
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
  <p class="soft small">
    Rings of the piece tell the camera’s tilt. Lay an ellipse over foot, rim or a band, or let the search find
    them.
  </p>
  <ul v-if="rings.length">
    <li v-for="(ring, i) in rings" :key="ring.id">
      <select
        :value="ring.place"
        :aria-label="`Place of ring ${i + 1}`"
        @change="
          piece.dispatch({
            type: 'set-ring',
            ring: { ...ring, place: ($event.target as HTMLSelectElement).value as 'foot' | 'rim' | 'band' },
          })
        "
      >
        <option value="foot">foot</option>
        <option value="rim">rim</option>
        <option value="band">band</option>
      </select>
      <span class="soft"
        >{{ ring.by === 'found' ? 'found' : 'by hand'
        }}<template v-if="solved.near?.rings[i]"
          >, off {{ solved.near.rings[i]!.rmsPx.toFixed(2) }} px</template
        ></span
      >
      <AButton
        size="small"
        type="text"
        :aria-label="`Remove the ${ring.place} ring`"
        @click="piece.dispatch({ type: 'remove-ring', id: ring.id })"
        ><DeleteOutlined
      /></AButton>
    </li>
  </ul>
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
ul {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 78px 1fr auto;
  gap: 8px;
  align-items: center;
}
select {
  padding: 2px 6px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--card);
  color: inherit;
  font: inherit;
}
</style>

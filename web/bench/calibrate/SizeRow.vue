<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { DeleteOutlined } from '@ant-design/icons-vue'
import { computed } from 'vue'
import { likelyCauses } from '../../../core/calibrate/causes'
import {
  toleranceOf,
  type KnownSize,
  type KnownSizeKind,
  type Place,
  type Source,
} from '../../../core/calibrate/known-size'
import { formatLength } from '../../../core/units/format-length'
import { decimalUnit } from '../../../core/units/units'
import LengthField from '../../common/LengthField.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** One known size: folded a line with its deviation, open with all that can be said of it. */
const props = defineProps<{ size: KnownSize; number: number }>()
const bench = useBench()
const piece = usePiece()
const open = computed(() => bench.chosenSize === props.size.id)
const scale = computed(() => piece.derived.calibration.scale)
const result = computed(() => scale.value?.sizes.find((s) => s.id === props.size.id))
const wrong = computed(() => scale.value?.outlier === props.size.id)
const KINDS: Record<KnownSizeKind, string> = {
  overall: 'overall height',
  height: 'height between levels',
  diameter: 'diameter ⌀',
  length: 'length',
}
const PLACE_NAMES: Record<Place, string> = {
  axis: 'in the axis plane',
  side: 'on the visible side',
  near: 'on the near surface',
  off: 'before or behind the axis',
}
const SOURCE_NAMES: Record<Source, string> = {
  caliper: 'caliper, ±0.1 mm',
  ruler: 'ruler, ±0.5 mm',
  nominal: 'nominal, ±1 %',
  rough: 'rough, ±8 %',
  typed: 'own tolerance',
}
const unit = computed(() => piece.document.unit)
/** Small differences are read in decimals, also where sizes are shown in fractions. */
const fine = (mm: number) => formatLength(mm, { unit: decimalUnit(unit.value) })

const deviation = computed(() => {
  if (!props.size.on) return 'off'
  if (props.size.mm === null) return 'type its size'
  const r = result.value
  if (!r || (scale.value?.sizes.length ?? 0) < 2) return ''
  const sign = r.deviationMm >= 0 ? '+' : '−'
  return `${sign}${fine(Math.abs(r.deviationMm))}, ${sign}${Math.abs(100 * r.deviation).toFixed(2)} %`
})
/** Causes are offered for the one that is named, and for both of two that disagree. */
const causes = computed(() => {
  const r = result.value
  if (!r || r.othersMm === null || !(wrong.value || scale.value?.disagree)) return []
  const sd = toleranceOf(props.size) / r.othersMm
  return likelyCauses(props.size, r.othersMm, piece.document.unit, Math.min(sd, 0.05)).slice(0, 4)
})

function change(part: Partial<KnownSize>) {
  piece.dispatch({ type: 'set-known-size', size: { ...props.size, ...part } })
}
function commit(mm: number, text: string) {
  change({ mm: props.size.radius ? 2 * mm : mm, text })
}
function setRadius(radius: boolean) {
  // The typed figure stays; what it means changes.
  const { mm } = props.size
  change({ radius, mm: mm === null ? null : radius ? 2 * mm : mm / 2 })
}
function setKind(kind: KnownSizeKind) {
  change({
    kind,
    radius: kind === 'diameter' && props.size.radius,
    lies: kind === 'diameter' ? 'side' : 'axis',
  })
}
const value = (event: Event) => (event.target as HTMLSelectElement).value
</script>

<template>
  <article :class="{ open, wrong }" :data-testid="`size-${number}`">
    <button
      type="button"
      class="head bare"
      :aria-expanded="open"
      @click="bench.chosenSize = open ? null : size.id"
    >
      <span class="number">{{ number }}</span>
      <span class="what">{{ KINDS[size.kind] }}</span>
      <strong>{{ size.mm === null ? '?' : formatLength(size.mm, { unit: piece.document.unit }) }}</strong>
      <span class="deviation" :class="{ doubt: wrong || scale?.disagree }">{{ deviation }}</span>
    </button>
    <div v-if="open" class="details">
      <LengthField
        :label="size.radius ? 'Real radius' : 'Real size'"
        :value-mm="size.mm === null ? null : size.radius ? size.mm / 2 : size.mm"
        :unit="unit"
        :typed="size.text || undefined"
        placeholder="138 mm, 5 7/16 in"
        @commit="commit"
      />
      <p v-if="size.kind === 'diameter' && size.mm" class="soft">
        {{
          size.radius
            ? `A radius; the diameter is ${formatLength(size.mm, { unit })}.`
            : `A diameter; the radius is ${formatLength(size.mm / 2, { unit })}.`
        }}
      </p>
      <label
        ><span>It is a</span>
        <select
          :value="size.kind"
          :aria-label="`Kind of size ${number}`"
          @change="setKind(value($event) as KnownSizeKind)"
        >
          <option v-for="(name, kind) in KINDS" :key="kind" :value="kind">{{ name }}</option>
        </select></label
      >
      <label v-if="size.kind === 'diameter'"
        ><span>Typed as</span>
        <select :value="size.radius ? 'radius' : 'diameter'" @change="setRadius(value($event) === 'radius')">
          <option value="diameter">diameter</option>
          <option value="radius">radius</option>
        </select></label
      >
      <label
        ><span>Known by</span>
        <select
          :value="size.source"
          :aria-label="`Source of size ${number}`"
          @change="change({ source: value($event) as Source })"
        >
          <option v-for="(name, source) in SOURCE_NAMES" :key="source" :value="source">{{ name }}</option>
        </select></label
      >
      <LengthField
        v-if="size.source === 'typed'"
        label="Tolerance ±"
        :value-mm="size.toleranceMm"
        :unit="unit"
        @commit="(mm) => change({ toleranceMm: mm })"
      />
      <label
        ><span>It lies</span>
        <select
          :value="size.lies"
          :aria-label="`Place of size ${number}`"
          @change="change({ lies: value($event) as Place })"
        >
          <option v-for="(name, place) in PLACE_NAMES" :key="place" :value="place">{{ name }}</option>
        </select></label
      >
      <LengthField
        v-if="size.lies === 'near' || size.lies === 'off'"
        :label="size.lies === 'near' ? 'Radius there' : 'Before axis'"
        :value-mm="size.beforeMm"
        :unit="unit"
        :min-mm="-100000"
        @commit="(mm) => change({ beforeMm: mm })"
      />
      <div class="row">
        <AButton size="small" @click="change({ on: !size.on })">{{
          size.on ? 'Switch off' : 'Switch on'
        }}</AButton>
        <AButton size="small" @click="piece.dispatch({ type: 'remove-known-size', id: size.id })"
          ><DeleteOutlined /> Remove</AButton
        >
      </div>
    </div>
    <p v-if="wrong" class="doubt" role="alert">
      This one disagrees and doesn’t count; by the others it is
      {{ formatLength(result!.othersMm!, { unit }) }}.
    </p>
    <div v-if="causes.length" class="causes">
      <span>Was it</span>
      <AButton
        v-for="cause in causes"
        :key="cause.mm"
        size="small"
        @click="change({ mm: cause.mm, text: cause.text, radius: false })"
        >{{ cause.words }}?</AButton
      >
    </div>
  </article>
</template>

<style scoped>
article {
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--paper);
}
article.open {
  border-color: var(--known);
}
article.wrong {
  border-color: var(--doubt);
}
.head {
  display: grid;
  grid-template-columns: 20px 1fr auto;
  gap: 0 6px;
  width: 100%;
  padding: 6px 8px;
}
.number {
  color: var(--known);
  font-weight: 700;
}
.deviation {
  grid-column: 2 / -1;
  color: var(--ink-soft);
  font-size: 12.5px;
}
.deviation:empty {
  display: none;
}
.doubt {
  color: var(--doubt);
}
.details {
  display: grid;
  gap: 6px;
  padding: 2px 8px 8px;
}
label:not(.field) {
  display: grid;
  grid-template-columns: 68px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
label > span {
  color: var(--ink-soft);
}
select {
  min-width: 0;
  padding: 4px 6px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--card);
  color: inherit;
  font: inherit;
  font-size: 13px;
}
p {
  padding: 0 8px 6px;
}
.details p {
  padding: 0;
}
.causes {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  padding: 0 8px 8px;
}
.causes :deep(.ant-btn) {
  height: auto;
  white-space: normal;
  text-align: left;
}
</style>

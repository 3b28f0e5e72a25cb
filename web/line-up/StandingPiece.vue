<script setup lang="ts">
import { computed } from 'vue'
import type { LineUpEntry } from '../../core/piece/line-up'
import { formatLength } from '../../core/units/format-length'
import type { DisplayUnit } from '../../core/units/units'
import { api } from '../api/client'
import { silhouettePath } from '../common/silhouette'

/** One piece on the common ground line, at the common scale. */
const props = defineProps<{
  id: string
  entry: LineUpEntry
  pxPerMm: number
  shows: 'silhouettes' | 'photos' | 'solids'
  unit: DisplayUnit
  picture: string | null
  box: { left: number; width: number; bottom: number; height: number } | null
}>()

/** A photo is shown this far around its piece, as a share of its size, but not into its neighbours nor its words, px. */
const AROUND = 0.06
const BESIDE_PX = 14
const BELOW_PX = 8
const width = computed(() => Math.max(props.entry.maxDiameterMm, props.box?.width ?? 0) * props.pxPerMm)
const height = computed(() => props.entry.heightMm * props.pxPerMm)
const half = computed(() => width.value / 2)
const path = computed(() => {
  const { silhouette, lowestMm } = props.entry
  const { pxPerMm } = props
  return silhouettePath(silhouette, { x: half.value, y: height.value + lowestMm * pxPerMm, pxPerMm })
})
const photo = computed(() => {
  const { photo: own, heightMm, maxDiameterMm, lowestMm } = props.entry
  if (!own) return null
  const { pxPerMm: s } = props
  const [a, b, c, d, e, f] = own.matrix.map((v) => v * s) as [number, number, number, number, number, number]
  const pad = AROUND * Math.max(heightMm, maxDiameterMm) * s
  const [beside, below] = [Math.min(pad, BESIDE_PX), Math.min(pad, BELOW_PX)]
  return {
    href: api.photoUrl(own.sha256),
    width: own.width,
    height: own.height,
    transform: `translate(${half.value} ${height.value + lowestMm * s}) matrix(${a} ${b} ${c} ${d} ${e} ${f})`,
    clip: { x: half.value - (maxDiameterMm / 2) * s - beside, y: -pad, width: maxDiameterMm * s + 2 * beside, height: height.value + pad + below }, // prettier-ignore
  }
})
const solid = computed(() => {
  const { box, picture, pxPerMm: s } = props
  if (!box || !picture) return null
  return { href: picture, x: half.value + box.left * s, y: height.value - (box.bottom + box.height) * s, width: box.width * s, height: box.height * s } // prettier-ignore
})
const size = (mm: number) =>
  formatLength(mm, { unit: props.unit, ...(props.unit === 'mm' && { decimals: 1 }) })
</script>

<template>
  <figure :style="{ width: `${Math.max(width, 84)}px` }" :aria-label="entry.name" data-testid="standing">
    <svg :width="width" :height="height" class="piece" aria-hidden="true">
      <template v-if="shows === 'photos' && photo">
        <clipPath :id="`clip-${id}`"><rect v-bind="photo.clip" /></clipPath>
        <g :clip-path="`url(#clip-${id})`">
          <image
            :href="photo.href"
            :width="photo.width"
            :height="photo.height"
            :transform="photo.transform"
          />
        </g>
        <path :d="path" class="outline" />
      </template>
      <image v-else-if="shows === 'solids' && solid" v-bind="solid" preserveAspectRatio="none" />
      <path v-else :d="path" class="shape" :class="{ soft: shows === 'solids' }" />
    </svg>
    <figcaption>
      <strong>{{ entry.name }}</strong>
      <span class="numbers">{{ size(entry.heightMm) }} tall</span>
      <span class="numbers">⌀ {{ size(entry.maxDiameterMm) }}</span>
      <span v-if="entry.factor !== 1" class="soft">{{ Number(entry.factor.toPrecision(4)) }} × measured</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  display: grid;
  align-content: end;
  justify-items: center;
  margin: 0;
  cursor: grab;
}
.piece {
  display: block;
  overflow: visible;
}
.shape {
  fill: var(--modelled);
  fill-opacity: 0.82;
}
.shape.soft {
  fill-opacity: 0.25;
}
.outline {
  fill: none;
  stroke: var(--modelled);
  stroke-width: 1.5;
}
figcaption {
  display: grid;
  justify-items: center;
  height: 92px;
  padding-top: 12px;
  font-size: 12.5px;
  line-height: 1.4;
  text-align: center;
}
.numbers {
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
</style>

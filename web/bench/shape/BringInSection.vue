<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, ref, shallowRef } from 'vue'
import type { AxisPlace } from '../../../core/incoming/half-profile'
import { flatten } from '../../../core/profile/flatten'
import { profileSegments } from '../../../core/profile/profile-segments'
import { formatLength } from '../../../core/units/format-length'
import LengthField from '../../common/LengthField.vue'
import SelectRow from '../../common/SelectRow.vue'
import { silhouettePath } from '../../common/silhouette'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import type { BringInWish, BroughtIn } from '../../workers/protocol'
import { solidClient } from '../../workers/solid-client'

/** A half-profile from a file: looked at, placed and scaled before it takes the place of the one in hand. */
const emit = defineEmits<{ taken: [] }>()
const bench = useBench()
const piece = usePiece()

const file = shallowRef<{ name: string; text: string } | null>(null)
const read = shallowRef<BroughtIn | null>(null)
const problem = ref('')
const input = ref<HTMLInputElement | null>(null)
const unit = computed(() => piece.document.unit)

async function look(wish: BringInWish) {
  if (!file.value) return
  problem.value = ''
  try {
    const own = file.value
    read.value = await solidClient.call((worker) => worker.readDrawing(own, wish))
  } catch (error) {
    problem.value = (error as Error).message
    if (!wish.axis) read.value = null
  }
}
async function chosen(event: Event) {
  const field = event.target as HTMLInputElement
  const picked = field.files?.[0]
  field.value = ''
  if (!picked) return
  file.value = { name: picked.name, text: await picked.text() }
  read.value = null
  await look({})
}
const AXES: { value: AxisPlace; text: string }[] = [
  { value: 'zero', text: 'at x = 0' },
  { value: 'left', text: 'along the left edge' },
  { value: 'right', text: 'along the right edge' },
  { value: 'middle', text: 'through the middle' },
]
/** The scale follows from a height as from a factor. */
function asTall(mm: number) {
  const now = read.value
  if (now) void look({ axis: now.axis, mmPerUnit: (now.mmPerUnit * mm) / now.placed.heightMm })
}
const PREVIEW = 150
const shape = computed(() => {
  const placed = read.value?.placed
  if (!placed) return null
  const { points } = flatten(profileSegments(placed.nodes))
  const low = Math.min(...points.filter((_, i) => i % 2 === 1))
  const pxPerMm = Math.min(PREVIEW / placed.heightMm, 110 / placed.maxRadiusMm)
  return silhouettePath(points, { x: 120, y: PREVIEW + 5 + low * pxPerMm, pxPerMm })
})
function take() {
  if (!read.value) return
  piece.dispatch({ type: 'bring-in-profile', nodes: read.value.placed.nodes })
  bench.select()
  file.value = null
  read.value = null
  emit('taken')
}
</script>

<template>
  <AButton size="small" @click="input?.click()">{{ file ? 'Another file …' : 'Choose a file …' }}</AButton>
  <input
    ref="input"
    type="file"
    accept=".svg,.dxf,.csv,.txt"
    class="visually-hidden"
    tabindex="-1"
    aria-label="Drawing of a half-profile"
    @change="chosen"
  />
  <p v-if="!file" class="soft">
    The first path of an SVG; lines, arcs, polylines and splines of a DXF; heights and diameters of a table.
  </p>
  <p v-if="problem" class="doubt" role="alert" data-testid="bring-in-problem">{{ problem }}</p>
  <template v-if="read && file">
    <svg class="preview" viewBox="0 0 240 160" role="img" :aria-label="`Silhouette of ${file.name}`">
      <path d="M0 155.5H240" class="ground" />
      <path v-if="shape" :d="shape" class="shape" />
    </svg>
    <p data-testid="bring-in">
      {{ file.name }}: {{ read.placed.nodes.length }} nodes, ⌀
      {{ formatLength(2 * read.placed.maxRadiusMm, { unit }) }}.
      <span v-if="!read.said" class="doubt">The file doesn’t say its scale: type the height.</span>
    </p>
    <LengthField label="Height" :value-mm="read.placed.heightMm" :unit="unit" @commit="asTall" />
    <SelectRow
      label="Axis"
      :value="read.axis"
      :choices="AXES"
      @choose="(axis) => look({ axis, mmPerUnit: read!.mmPerUnit })"
    />
    <p v-for="note in read.placed.notes" :key="note" class="soft">{{ note }}</p>
    <AButton type="primary" size="small" @click="take">{{
      piece.document.profile.nodes.length ? 'Put it in place of the drawn one' : 'Take it'
    }}</AButton>
  </template>
</template>

<style scoped>
.preview {
  width: 100%;
  border-radius: 4px;
  background: var(--surround);
}
.shape {
  fill: var(--modelled);
  fill-opacity: 0.82;
}
.ground {
  stroke: var(--ink-soft);
}
</style>

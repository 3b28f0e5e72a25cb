<script setup lang="ts">
import { Button as AButton, Modal as AModal } from 'ant-design-vue'
import { computed, ref } from 'vue'
import type { PicturePoint } from '../../../core/conventions'
import { LEAST_MARK_DISTANCE_PX, newKnownSize } from '../../../core/calibrate/known-size'
import { formatLength } from '../../../core/units/format-length'
import { api } from '../../api/client'
import LengthField from '../../common/LengthField.vue'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'

/** A reference photo at full size: its own scale by two marks, and measures by two more. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const piece = usePiece()
const reference = computed(() => piece.document.references.find((r) => r.id === props.id))
const clicks = ref<PicturePoint[]>([])
const measured = ref<{ a: PicturePoint; b: PicturePoint } | null>(null)
const zoomed = ref(false)
const problem = ref('')
const unit = computed(() => piece.document.unit)

const mmPerPx = computed(() => {
  const scale = reference.value?.scale
  return scale ? scale.mm / Math.hypot(scale.b.x - scale.a.x, scale.b.y - scale.a.y) : null
})
const length = computed(() => {
  const m = measured.value
  return m ? Math.hypot(m.b.x - m.a.x, m.b.y - m.a.y) : null
})
const words = computed(() => {
  if (length.value === null) return ''
  return mmPerPx.value
    ? formatLength(length.value * mmPerPx.value, { unit: unit.value })
    : `${length.value.toFixed(1)} px; mark a known length for a scale`
})

function click(event: MouseEvent) {
  const image = event.currentTarget as SVGElement
  const box = image.getBoundingClientRect()
  const { width, height } = reference.value!.photo
  const p = {
    x: ((event.clientX - box.left) / box.width) * width,
    y: ((event.clientY - box.top) / box.height) * height,
  }
  clicks.value = [...clicks.value, p]
  if (clicks.value.length < 2) return
  const [a, b] = clicks.value as [PicturePoint, PicturePoint]
  clicks.value = []
  problem.value = ''
  if (Math.hypot(b.x - a.x, b.y - a.y) < LEAST_MARK_DISTANCE_PX) {
    problem.value = 'The two marks nearly coincide; click the two ends of the length.'
    return
  }
  measured.value = { a, b }
}
function setScale(mm: number, text: string) {
  const m = measured.value
  if (!m || !reference.value) return
  piece.dispatch({ type: 'set-reference', reference: { ...reference.value, scale: { ...m, mm, text } } })
}
/** What was measured face-on becomes a known size of the side view; its marks are set there. */
function toKnownSize() {
  if (length.value === null || !mmPerPx.value) return
  const { frame } = piece.derived.calibration
  const mm = length.value * mmPerPx.value
  const half = mm / 2 / frame.mmPerPx
  const { origin, up } = frame
  const place = (u: number) => ({
    x: origin.x - u * up.y + half * up.x,
    y: origin.y + u * up.x + half * up.y,
  })
  piece.dispatch({
    type: 'set-known-size',
    size: newKnownSize({
      id: newId(),
      kind: 'diameter',
      a: place(-half),
      b: place(half),
      mm,
      text: formatLength(mm, { unit: unit.value }),
      source: 'typed',
      toleranceMm: Math.max(0.1, 0.005 * mm),
      // Its marks still have to be put where it shows.
      on: false,
    }),
  })
  emit('close')
}
const line = (m: { a: PicturePoint; b: PicturePoint }) => `M${m.a.x} ${m.a.y}L${m.b.x} ${m.b.y}`
</script>

<template>
  <AModal
    :open="true"
    :title="reference?.name ?? ''"
    width="min(1180px, 94vw)"
    :footer="null"
    @cancel="emit('close')"
  >
    <div v-if="reference" class="viewer">
      <div class="picture" :class="{ zoomed }">
        <div
          class="sheet"
          :style="
            zoomed
              ? { width: `${reference.photo.width}px` }
              : { aspectRatio: `${reference.photo.width} / ${reference.photo.height}` }
          "
        >
          <img :src="api.photoUrl(reference.photo.sha256)" :alt="`Reference photo: ${reference.name}`" />
          <svg
            :viewBox="`0 0 ${reference.photo.width} ${reference.photo.height}`"
            data-testid="reference-picture"
            @click="click"
          >
            <g fill="none" stroke-width="2">
              <g v-if="reference.scale">
                <path :d="line(reference.scale)" class="halo" />
                <path :d="line(reference.scale)" class="known" />
              </g>
              <g v-if="measured">
                <path :d="line(measured)" class="halo" />
                <path :d="line(measured)" class="measured" />
              </g>
              <circle v-for="(p, i) in clicks" :key="i" :cx="p.x" :cy="p.y" r="6" class="measured" />
            </g>
          </svg>
        </div>
      </div>
      <aside>
        <p class="soft">
          Click two points to measure between them. On a face-on photo (a wheel from the front) diameters are
          true across its plane.
        </p>
        <p v-if="measured">
          <strong data-testid="reference-length">{{ words }}</strong>
        </p>
        <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
        <template v-if="measured">
          <LengthField
            label="It really is"
            :value-mm="null"
            :unit="unit"
            placeholder="sets the scale"
            @commit="setScale"
          />
          <AButton size="small" :disabled="!mmPerPx" @click="toKnownSize"
            >Use as a known ⌀ of the side view</AButton
          >
        </template>
        <p v-if="reference.scale" class="soft">
          Scale by {{ reference.scale.text || formatLength(reference.scale.mm, { unit }) }}: 1 px is
          {{ mmPerPx!.toPrecision(4) }} mm.
        </p>
        <p v-else class="soft">No scale yet.</p>
        <AButton size="small" @click="zoomed = !zoomed">{{ zoomed ? 'Fit' : 'Full resolution' }}</AButton>
      </aside>
    </div>
  </AModal>
</template>

<style scoped>
.viewer {
  display: grid;
  grid-template-columns: 1fr 240px;
  gap: 16px;
}
.picture {
  display: grid;
  justify-items: center;
  height: 70vh;
  overflow: hidden;
  background: var(--surround);
}
.picture.zoomed {
  overflow: auto;
  justify-items: start;
}
.sheet {
  position: relative;
  height: 100%;
  min-height: 0;
}
.zoomed .sheet {
  height: auto;
}
img {
  display: block;
  width: 100%;
  height: 100%;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
}
svg * {
  vector-effect: non-scaling-stroke;
}
.halo {
  stroke: rgb(255 255 255 / 0.85);
  stroke-width: 4.5;
}
.known {
  stroke: var(--line-known);
}
.measured {
  stroke: var(--line-measured);
}
aside {
  display: grid;
  gap: 10px;
  align-content: start;
}
.doubt {
  color: var(--doubt);
}
</style>

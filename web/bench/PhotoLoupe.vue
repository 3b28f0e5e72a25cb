<script setup lang="ts">
import { computed, onMounted, ref, watchEffect } from 'vue'
import { paintPhoto, type PhotoLevels } from '../composables/use-photo-bitmap'
import type { ScreenPoint } from '../composables/use-view'

/** The pixels around the pointer, enlarged, with a crosshair: for marks set to a fraction of a pixel. */
const props = defineProps<{
  photo: PhotoLevels
  at: ScreenPoint
  /** Picture -> screen. */
  matrix: [number, number, number, number, number, number]
  paneWidth: number
}>()
const SIZE = 148
/** Screen px for one picture px in the loupe, at least. */
const ENLARGED = 8
const canvas = ref<HTMLCanvasElement | null>(null)
const ready = ref(false)
onMounted(() => (ready.value = true))

const corner = computed(() => (props.at.sx < props.paneWidth / 2 ? 'right' : 'left'))
watchEffect(() => {
  const [a, b, c, d, e, f] = props.matrix
  const { sx, sy } = props.at
  if (!ready.value || !canvas.value) return
  const k = Math.max(2, ENLARGED / Math.hypot(a, b))
  const matrix = [
    a * k,
    b * k,
    c * k,
    d * k,
    SIZE / 2 + (e - sx) * k,
    SIZE / 2 + (f - sy) * k,
  ] as typeof props.matrix
  paintPhoto(canvas.value, props.photo, matrix, { size: { width: SIZE, height: SIZE } })
})
</script>

<template>
  <div class="loupe" :class="corner" aria-hidden="true">
    <canvas ref="canvas" />
    <svg :width="SIZE" :height="SIZE">
      <path
        :d="`M${SIZE / 2} 0V${SIZE / 2 - 7}M${SIZE / 2} ${SIZE / 2 + 7}V${SIZE}M0 ${SIZE / 2}H${SIZE / 2 - 7}M${SIZE / 2 + 7} ${SIZE / 2}H${SIZE}`"
      />
    </svg>
  </div>
</template>

<style scoped>
.loupe {
  position: absolute;
  bottom: 12px;
  width: 148px;
  height: 148px;
  overflow: hidden;
  border: 2px solid var(--card);
  border-radius: 50%;
  background: var(--surround);
  box-shadow: var(--shadow);
  pointer-events: none;
}
.right {
  right: 12px;
}
.left {
  left: 12px;
}
canvas,
svg {
  position: absolute;
  inset: 0;
  width: 148px;
  height: 148px;
}
path {
  stroke: #2b2723;
  stroke-width: 1;
  filter: drop-shadow(0 0 1px #fff) drop-shadow(0 0 1px #fff);
}
</style>

<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch, watchEffect } from 'vue'
import type { Stage } from '../../core/piece/stages'
import { usePaneGestures } from '../composables/use-pane-gestures'
import { useShortcuts } from '../composables/use-shortcuts'
import { paintPhoto, type PhotoLevels } from '../composables/use-photo-bitmap'
import { keepPictureInPlace, useView } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import CalibrationOverlay from './overlay/CalibrationOverlay.vue'
import LevelOverlay from './overlay/LevelOverlay.vue'
import ProfileOverlay from './overlay/ProfileOverlay.vue'
import { usePhotoTools } from './use-photo-tools'

const props = defineProps<{ stage: Stage; photo: PhotoLevels | null; error: string | null }>()
const emit = defineEmits<{ resized: [size: { width: number; height: number }]; sizeMarked: [] }>()

const bench = useBench()
const piece = usePiece()
const view = useView()
const pane = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(pane)
const size = computed(() => ({ width: width.value, height: height.value }))
watch(size, (s) => emit('resized', s))
keepPictureInPlace(size)

const tools = usePhotoTools(() => props.stage)
watch(tools.calibration.sizesMarked, () => emit('sizeMarked'))
const { spaceHeld, panning } = usePaneGestures(pane, {
  ...tools.handlers,
  pan: (dx, dy) => view.pan(dx, dy, 'photo'),
  zoom: (factor, at) => view.zoom(factor, at, 'photo'),
})

/** The crosshair can be moved and set by keys too, so that every tool works without a pointer. */
const CROSSHAIR_STEP = 10
function steer(event: KeyboardEvent) {
  const at = tools.pointer.value ?? { sx: width.value / 2, sy: height.value / 2 }
  const step = event.shiftKey ? 1 : CROSSHAIR_STEP
  const dx = event.key === 'ArrowRight' ? step : event.key === 'ArrowLeft' ? -step : 0
  const dy = event.key === 'ArrowDown' ? step : event.key === 'ArrowUp' ? -step : 0
  steered.value = { sx: at.sx + dx, sy: at.sy + dy }
  tools.handlers.hover(steered.value, NO_POINTER)
}
const steered = ref<{ sx: number; sy: number } | null>(null)
const NO_POINTER = new PointerEvent('pointermove')
const crosshair = computed(() =>
  bench.tool !== 'none' && steered.value === tools.pointer.value ? steered.value : null,
)
useShortcuts(() =>
  bench.tool === 'none'
    ? []
    : [
        ...['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight'].map((key) => ({
          keys: [key, `Shift+${key}`],
          label: 'crosshair',
          run: steer,
        })),
        {
          keys: ['Enter'],
          label: 'set',
          when: () => crosshair.value !== null,
          run: () => tools.useAt(crosshair.value!),
        },
      ],
)

let asked = 0
watchEffect(() => {
  const matrix = view.pictureMatrix(bench.view.photoAxisX)
  const { photo } = props
  if (!canvas.value || size.value.width === 0 || size.value.height === 0) return
  cancelAnimationFrame(asked)
  asked = requestAnimationFrame(() => canvas.value && paintPhoto(canvas.value, photo, matrix))
})

const hint = computed(() => {
  switch (bench.tool) {
    case 'plumb':
      return tools.calibration.draft.value.plumb
        ? 'Click a second point of the axis, near the top.'
        : 'Click a point of the axis near the foot: midway between the left and the right edge.'
    case 'ground':
      return 'Click where the foot stands.'
    case 'size':
      return tools.calibration.draft.value.size ? 'Click its other end.' : 'Click one end of a size you know.'
    case 'pen':
      return piece.document.profile.nodes.length === 0
        ? 'Click where the axis meets the foot, then outwards and up one side.'
        : 'Click on along the edge. Shift: level or upright. Esc: put the pen down.'
    default:
      return ''
  }
})
const cursor = computed(() =>
  panning.value
    ? 'grabbing'
    : spaceHeld.value
      ? 'grab'
      : bench.tool !== 'none'
        ? 'crosshair'
        : tools.profile.insertAt.value
          ? 'copy'
          : 'default',
)
</script>

<template>
  <section
    ref="pane"
    class="pane"
    :style="{ cursor }"
    aria-label="Photo"
    data-testid="photo-pane"
    :data-matrix="view.pictureMatrix(bench.view.photoAxisX).join(' ')"
  >
    <canvas ref="canvas" aria-hidden="true" />
    <svg
      v-if="piece.document.photo"
      :width="width"
      :height="height"
      role="group"
      aria-label="Marks on the photo"
    >
      <CalibrationOverlay
        :width="width"
        :height="height"
        :handles="stage === 'calibrate'"
        :draft="tools.calibration.draft.value"
        :pointer="tools.pointer.value"
      />
      <ProfileOverlay
        v-if="stage !== 'photo' && stage !== 'calibrate'"
        :width="width"
        :height="height"
        :editing="stage === 'profile'"
        :tools="tools"
      />
      <path
        v-if="crosshair"
        class="crosshair"
        :d="`M${crosshair.sx - 14} ${crosshair.sy}h28M${crosshair.sx} ${crosshair.sy - 14}v28`"
      />
      <LevelOverlay
        v-if="stage !== 'photo'"
        :width="width"
        :height="height"
        :axis-x="bench.view.photoAxisX"
        :quiet="stage === 'calibrate' || bench.tool === 'pen' || tools.dragging.value"
      />
    </svg>
    <p v-if="hint" class="hint" role="status">{{ hint }}</p>
    <p v-if="error" class="hint doubt" role="alert">{{ error }}</p>
    <div v-if="!piece.document.photo" class="empty">
      <h2>No photo yet</h2>
      <p>Drop a side-view photo of the piece here, or paste one.</p>
    </div>
  </section>
</template>

<style scoped>
.pane {
  position: relative;
  width: 100%;
  height: 100%;
  overflow: hidden;
  background: var(--surround);
  touch-action: none;
  user-select: none;
}
canvas,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.hint {
  position: absolute;
  top: 10px;
  left: 50%;
  max-width: calc(100% - 24px);
  padding: 5px 12px;
  border-radius: 5px;
  background: rgb(43 39 35 / 0.86);
  color: #fbf9f5;
  transform: translateX(-50%);
  pointer-events: none;
  width: max-content;
}
.crosshair {
  stroke: #2b2723;
  stroke-width: 1.4;
  filter: drop-shadow(0 0 1px #fff);
}
.hint.doubt {
  background: var(--doubt);
}
.empty {
  position: absolute;
  inset: 0;
  display: grid;
  gap: 8px;
  place-content: center;
  padding: 24px;
  text-align: center;
}
</style>

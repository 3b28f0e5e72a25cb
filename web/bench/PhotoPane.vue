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
import CombOverlay from './overlay/CombOverlay.vue'
import CurvatureOverlay from './overlay/CurvatureOverlay.vue'
import FittingOverlay from './overlay/FittingOverlay.vue'
import GridOverlay from './overlay/GridOverlay.vue'
import InsideOverlay from './overlay/InsideOverlay.vue'
import OutlineOverlay from './overlay/OutlineOverlay.vue'
import LevelOverlay from './overlay/LevelOverlay.vue'
import ProfileOverlay from './overlay/ProfileOverlay.vue'
import SidesOverlay from './overlay/SidesOverlay.vue'
import StationOverlay from './overlay/StationOverlay.vue'
import JudgingFilters from './JudgingFilters.vue'
import PhotoLoupe from './PhotoLoupe.vue'
import { TOOL_HINTS } from './tool-hints'
import { usePhotoTools } from './use-photo-tools'

const props = defineProps<{ stage: Stage; photo: PhotoLevels | null; error: string | null }>()
const emit = defineEmits<{ resized: [size: { width: number; height: number }]; sizeMarked: [id: string] }>()

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
watch(tools.calibration.sizeMarked, (id) => id && emit('sizeMarked', id))
defineExpose({ calibration: tools.calibration, edgePen: tools.edgePen })
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
        {
          keys: ['Enter', ' '],
          label: 'end the edge',
          when: () => bench.tool === 'lens' && crosshair.value === null,
          run: () => tools.calibration.endEdge(),
        },
        {
          keys: ['Enter'],
          label: 'lay the stroke',
          when: () => bench.tool === 'edge' && crosshair.value === null,
          run: () => tools.edgePen.lay(),
        },
      ],
)

let asked = 0
// Apart, so that edits of the profile don't paint the photo.
const crop = computed(() => piece.document.photo?.crop ?? null)
watchEffect(() => {
  const matrix = view.pictureMatrix(bench.view.photoAxisX)
  const { photo } = props
  const options = { size: size.value, crop: crop.value }
  if (!canvas.value || size.value.width === 0 || size.value.height === 0) return
  cancelAnimationFrame(asked)
  asked = requestAnimationFrame(() => canvas.value && paintPhoto(canvas.value, photo, matrix, options))
})

const hint = computed(() => {
  const { edgeProblem } = tools.profile.pen
  if (bench.tool === 'pen' && bench.penKind === 'edge' && edgeProblem.value) return edgeProblem.value
  if (bench.tool === 'pen' && bench.penKind === 'edge' && piece.document.profile.nodes.length > 0)
    return 'Click on: the pen follows the edge of the photo to there, in few elements.'
  if (bench.tool === 'pen')
    return piece.document.profile.nodes.length === 0
      ? 'Click where the axis meets the foot, then outwards and up one side.'
      : 'Click on along the edge. Shift: level or upright. Esc: put the pen down.'
  if (tools.edgePen.problem.value) return tools.edgePen.problem.value
  if (bench.tool === 'edge') return TOOL_HINTS.edge![tools.edgePen.begun.value ? 1 : 0]!
  return (
    TOOL_HINTS[bench.tool]?.[tools.calibration.clicks.value.length] ?? TOOL_HINTS[bench.tool]?.at(-1) ?? ''
  )
})
/** How the photo is looked at: filters of the browser over the canvas, never over its pixels. */
const look = computed(() => {
  const { brightness, contrast, darks, grey, edges, tint, dim } = bench.judging
  const filters = [
    darks !== 1 ? 'url(#judge-darks)' : '',
    brightness !== 1 ? `brightness(${brightness})` : '',
    contrast !== 1 ? `contrast(${contrast})` : '',
    grey ? 'grayscale(1)' : '',
    edges ? 'url(#judge-edges)' : '',
    tint ? 'url(#judge-tint)' : '',
  ].filter(Boolean)
  return { filter: filters.join(' ') || undefined, opacity: dim }
})
const loupeAt = computed(() => {
  const placing = bench.tool !== 'none' || tools.dragging.value
  return bench.judging.loupe && placing && props.photo && !panning.value ? tools.pointer.value : null
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
    @dblclick="bench.tool === 'edge' && tools.edgePen.lay()"
  >
    <canvas ref="canvas" aria-hidden="true" :style="look" />
    <JudgingFilters />
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
        :tools="tools.calibration"
        :pointer="tools.pointer.value"
      />
      <OutlineOverlay v-if="stage === 'outline'" :tools="tools" />
      <GridOverlay v-if="stage === 'profile' && bench.gridMm > 0" :width="width" :height="height" />
      <SidesOverlay v-if="stage === 'profile' && bench.sides" :sign="tools.profile.sign.value" />
      <CurvatureOverlay
        v-if="stage === 'profile' && bench.curvature"
        :sign="tools.profile.sign.value"
        :width="width"
        :height="height"
      />
      <ProfileOverlay
        v-if="stage !== 'photo' && stage !== 'calibrate' && stage !== 'outline'"
        :width="width"
        :height="height"
        :editing="stage === 'profile'"
        :tools="tools"
      />
      <InsideOverlay
        v-if="stage === 'solid' || stage === 'check'"
        :axis-x="bench.view.photoAxisX"
        :width="width"
        :height="height"
        :filled="stage === 'check'"
      />
      <FittingOverlay v-if="stage === 'solid'" />
      <CombOverlay
        v-if="stage === 'profile' && bench.comb"
        :sign="tools.profile.sign.value"
        :width="width"
        :height="height"
      />
      <path
        v-if="crosshair"
        class="crosshair"
        :d="`M${crosshair.sx - 14} ${crosshair.sy}h28M${crosshair.sx} ${crosshair.sy - 14}v28`"
      />
      <StationOverlay
        v-if="stage === 'profile' || stage === 'solid' || stage === 'check'"
        :axis-x="bench.view.photoAxisX"
        :width="width"
        :height="height"
      />
      <LevelOverlay
        v-if="stage !== 'photo'"
        :width="width"
        :height="height"
        :axis-x="bench.view.photoAxisX"
        :quiet="bench.tool !== 'none' || tools.dragging.value"
      />
    </svg>
    <PhotoLoupe
      v-if="loupeAt && photo"
      :photo="photo"
      :at="loupeAt"
      :matrix="view.pictureMatrix(bench.view.photoAxisX)"
      :pane-width="width"
    />
    <p v-if="tools.calibration.problem.value" class="hint doubt" role="alert">
      {{ tools.calibration.problem.value }}
    </p>
    <p v-else-if="hint" class="hint" role="status">{{ hint }}</p>
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

<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { Button as AButton } from 'ant-design-vue'
import { computed, onMounted, onScopeDispose, ref, watch, watchEffect } from 'vue'
import { usePaneGestures } from '../composables/use-pane-gestures'
import { paintPhoto, type PhotoLevels } from '../composables/use-photo-bitmap'
import { SolidScene } from '../composables/use-solid-scene'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { usePreferences } from '../stores/preferences'
import HeightRuler from './HeightRuler.vue'
import CompanionOverlay from './overlay/CompanionOverlay.vue'
import StationOverlay from './overlay/StationOverlay.vue'
import LevelOverlay from './overlay/LevelOverlay.vue'
import { formatLength } from '../../core/units/format-length'
import { PAINT_GRADIENT } from './solid/paint-scale'
import { useShownSolids } from './solid/use-shown-solids'
import { useBuild } from './solid/use-build'

const props = defineProps<{ photo: PhotoLevels | null }>()
const emit = defineEmits<{ resized: [size: { width: number; height: number }] }>()
const bench = useBench()
const piece = usePiece()
const preferences = usePreferences()
const view = useView()

const pane = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const beneath = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(pane)
watch([width, height], () => emit('resized', { width: width.value, height: height.value }))

const problem = ref('')
const { built, problem: buildProblem, progress, stop } = useBuild()
let scene: SolidScene | null = null
onMounted(() => {
  try {
    scene = new SolidScene(canvas.value!)
  } catch {
    problem.value =
      'This browser gives no 3D drawing (WebGL). Everything else works; the solid can be measured and handed over.'
  }
})
onScopeDispose(() => scene?.dispose())

const sideView = computed(() => bench.solid.elevation === 0)
const photoShown = computed(() => bench.solid.photoBeneath && sideView.value && props.photo !== null)
/** Over the photo glass is seen through: the photo lies beneath the canvas, where nothing can bend it. */
const { scale, solids, looks } = useShownSolids(() => !photoShown.value)
function show() {
  scene?.setSolids(solids.value, built.value?.surfaces.length ?? 1)
}
watch(built, show, { flush: 'sync' })
onMounted(show)
const inUnit = (mm: number) => formatLength(mm, { unit: piece.whole.unit })
/** Only what takes its time is said. */
const SLOW_MS = 400
const slow = ref(false)
watch(progress, (p, before) => {
  if (p === null) slow.value = false
  else if (before === null) setTimeout(() => (slow.value = progress.value !== null), SLOW_MS)
})

const middleZ = computed(() => {
  const m = piece.wholeDerived.measures
  return m ? (m.lowestMm + m.highestMm) / 2 : 0
})
/** Laid on its side where it isn't seen exactly from the side: there it stands beside the photo. */
const lying = computed(() => {
  const m = piece.wholeDerived.measures
  if (!m || !piece.whole.solid.lies || sideView.value) return null
  return { middle: middleZ.value, radius: m.maxRadiusMm, ground: m.lowestMm }
})
/** Where the piece stands and how broad it is: what its shadow goes by. */
const shadow = computed(() => {
  const m = piece.wholeDerived.measures
  if (!m || bench.solid.cut > 0) return null
  const broad = 2 * m.maxRadiusMm
  return { z: m.lowestMm, across: lying.value ? m.heightMm : broad, deep: broad }
})
/** What is behind a clear piece, for its glass to bend; the photo does as well. */
const board = computed(() => {
  const m = piece.wholeDerived.measures
  return m && !photoShown.value && !lying.value && looks.value.some((look) => look.glass)
    ? { lowest: m.lowestMm, highest: m.highestMm, radius: m.maxRadiusMm }
    : null
})

/** The page's surround, see tokens.css, and a card before it. */
const LIGHT_BOARD = { surround: '#d6d1c7', tone: '#e2ddd3' }
const DARK_BOARD = { surround: '#353230', tone: '#98938b' }
let asked = 0
let painted = false
/** A picture at rest for so long is drawn again with all its shades; where that is slow, after a longer rest. */
const REST_MS = 220
const LONG_REST_MS = 1500
const SLOW_REFINE_MS = 120
let rest = REST_MS
function refine(backdrop: string) {
  const started = performance.now()
  scene?.refine(backdrop)
  rest = performance.now() - started > SLOW_REFINE_MS ? LONG_REST_MS : REST_MS
}
let resting: ReturnType<typeof setTimeout> | undefined
onScopeDispose(() => clearTimeout(resting))
watchEffect(() => {
  const { pxPerMm, groundY, solidAxisX } = bench.view
  const { azimuth, elevation, wire } = bench.solid
  const shown = looks.value
  const ink = preferences.dark ? '#14110f' : '#2b2723'
  const camera = {
    azimuth,
    elevation,
    pxPerMm,
    axisX: solidAxisX,
    middleY: groundY - middleZ.value * pxPerMm,
    // What lies is seen about its own middle, which is lower or higher.
    middleZ: lying.value ? lying.value.ground + lying.value.radius : middleZ.value,
    near:
      elevation === 0 && view.seen.value.kind === 'near'
        ? { view: view.seen.value, matrix: view.pictureMatrix(solidAxisX) }
        : null,
  }
  const drawn = built.value
  const [ground, place] = [shadow.value, lying.value]
  const tones = preferences.dark ? DARK_BOARD : LIGHT_BOARD
  const behind = board.value && { ...board.value, ...tones, azimuth }
  const matrix = view.pictureMatrix(solidAxisX)
  const photo = photoShown.value ? props.photo : null
  const crop = piece.document.photo?.crop ?? null
  const [w, h] = [width.value, height.value]
  if (w === 0 || h === 0) return
  cancelAnimationFrame(asked)
  clearTimeout(resting)
  asked = requestAnimationFrame(() => {
    // Only where there is, or was, something on it.
    const size = { width: w, height: h }
    if (beneath.value && (photo || painted)) paintPhoto(beneath.value, photo, matrix, { size, crop })
    painted = photo !== null
    if (!scene) return
    if (drawn !== built.value) return
    scene.setLook(shown, ink, wire)
    scene.setShadow(elevation > 0 ? (ground ?? null) : null)
    scene.setBoard(behind)
    scene.setLying(place)
    scene.render(camera, w, h, window.devicePixelRatio || 1)
    // Over the photo nothing may hide it; seen exactly from the side it is compared, not admired.
    if (elevation !== 0 && !photo) resting = setTimeout(() => refine(tones.surround), rest)
  })
})

/** Turning by a full pane's width is one turn. */
let last: ScreenPoint | null = null
usePaneGestures(pane, {
  pan: (dx, dy) => view.pan(dx, dy, 'solid'),
  zoom: (factor, at) => view.zoom(factor, at, 'solid'),
  press(at) {
    last = at
    return piece.wholeDerived.solid !== null
  },
  move(at) {
    if (!last) return
    const limit = Math.PI / 2
    bench.solid.azimuth -= ((at.sx - last.sx) / Math.max(200, width.value)) * 2 * Math.PI
    const e = bench.solid.elevation + ((at.sy - last.sy) / Math.max(200, height.value)) * Math.PI
    bench.solid.elevation = Math.min(limit, Math.max(-limit, e))
    last = at
  },
  release() {
    // Nearly level is meant as the side view: within 2°, less than the eye tells apart.
    if (Math.abs(bench.solid.elevation) < 0.035) bench.solid.elevation = 0
    last = null
  },
  hover(at) {
    bench.level = at && sideView.value ? view.screenToHeight(at.sy) : null
  },
})
</script>

<template>
  <section ref="pane" class="pane" aria-label="Solid" data-testid="solid-pane">
    <canvas v-show="photoShown" ref="beneath" aria-hidden="true" />
    <svg v-if="sideView" :width="width" :height="height" aria-hidden="true">
      <CompanionOverlay :width="width" />
    </svg>
    <canvas ref="canvas" aria-hidden="true" :style="{ opacity: photoShown ? bench.solid.opacity : 1 }" />
    <svg :width="width" :height="height" aria-hidden="true">
      <path v-if="sideView" class="ground" :d="`M0 ${bench.view.groundY}H${width}`" />
      <StationOverlay
        v-if="sideView"
        :axis-x="bench.view.solidAxisX"
        :width="width"
        :height="height"
        side="right"
      />
      <LevelOverlay
        v-if="!lying"
        :width="width"
        :height="height"
        :axis-x="bench.view.solidAxisX"
        :elevation="bench.solid.elevation"
        :middle-z="middleZ"
      />
    </svg>
    <HeightRuler v-if="!lying" :height="height" :dimmed="!sideView" />
    <div v-if="piece.wholeDerived.solid" class="corner">
      <span v-if="piece.wholeDerived.solid.closedForShow" class="doubt">open profile, closed for show</span>
      <AButton v-if="!sideView" size="small" @click="bench.solid.elevation = 0">Side view</AButton>
    </div>
    <div v-else class="empty">
      <h2>The solid appears here</h2>
      <p v-if="piece.wholeDerived.faults[0]">{{ piece.wholeDerived.faults[0].message }}</p>
      <p v-else>
        It follows the half-profile while you draw: from the axis at the foot, up one side, back to the axis.
      </p>
    </div>
    <div v-if="scale" class="scale" data-testid="paint-scale">
      <span>{{ inUnit(scale.least) }}</span>
      <span class="ramp" :style="{ background: PAINT_GRADIENT }" />
      <span>{{ inUnit(scale.most) }}</span>
    </div>
    <p v-if="slow" class="slow" role="status">
      Joining the parts, {{ Math.round(100 * (progress ?? 0)) }} %
      <AButton size="small" @click="stop">Stop</AButton>
    </p>
    <p v-if="problem || buildProblem" class="problem" role="alert">{{ problem || buildProblem }}</p>
  </section>
</template>

<style scoped>
.pane {
  position: relative;
  width: 100%;
  height: 100%;
  overflow: hidden;
  background: var(--surround);
  cursor: grab;
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
svg {
  pointer-events: none;
}
.ground {
  stroke: var(--line-measured);
  stroke-width: 1;
  stroke-opacity: 0.6;
}
.corner {
  position: absolute;
  top: 10px;
  right: 10px;
  display: flex;
  align-items: center;
  gap: 8px;
}
.doubt {
  padding: 1px 8px;
  border: 1px dashed var(--doubt);
  border-radius: 4px;
  background: var(--card);
  color: var(--doubt);
}
.doubt::before {
  content: '! ';
  font-weight: 700;
}
.empty {
  position: absolute;
  inset: 0 0 0 56px;
  display: grid;
  gap: 8px;
  place-content: center;
  padding: 24px;
  color: var(--ink-soft);
  text-align: center;
}
.scale {
  position: absolute;
  bottom: 12px;
  left: 70px;
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 3px 10px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--card);
  font-size: 12.5px;
}
.ramp {
  width: 110px;
  height: 10px;
  border-radius: 2px;
}
.slow {
  position: absolute;
  right: 12px;
  bottom: 12px;
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 4px 10px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--card);
}
.problem {
  position: absolute;
  right: 12px;
  bottom: 12px;
  left: 68px;
  padding: 6px 12px;
  border-radius: 5px;
  background: var(--doubt);
  color: var(--card);
}
</style>

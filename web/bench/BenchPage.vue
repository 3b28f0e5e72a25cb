<script setup lang="ts">
import { App as AntApp, Spin as ASpin } from 'ant-design-vue'
import { Pane, Splitpanes } from 'splitpanes'
import 'splitpanes/dist/splitpanes.css'
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { photoOf } from '../../core/piece/schema'
import { STAGES, type Stage } from '../../core/piece/stages'
import { api, ApiError } from '../api/client'
import NowherePage from '../common/NowherePage.vue'
import ShortcutSheet from '../common/ShortcutSheet.vue'
import { useFileDrop } from '../composables/use-file-drop'
import { usePhotoBitmap } from '../composables/use-photo-bitmap'
import { useView } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { INSIDE, usePiece } from '../stores/piece'
import BenchHeader from './BenchHeader.vue'
import ConflictBanner from './ConflictBanner.vue'
import { BENCH_KEYS } from './keys'
import MeasureBar from './MeasureBar.vue'
import CalibratePanel from './panels/CalibratePanel.vue'
import CheckPanel from './panels/CheckPanel.vue'
import HandOverPanel from './panels/HandOverPanel.vue'
import OutlinePanel from './panels/OutlinePanel.vue'
import PhotoPanel from './panels/PhotoPanel.vue'
import ProfilePanel from './panels/ProfilePanel.vue'
import SolidPanel from './panels/SolidPanel.vue'
import PhotoPane from './PhotoPane.vue'
import SolidPane from './SolidPane.vue'
import StageList from './StageList.vue'
import { STAGE_NAMES } from './stage-names'
import { useBenchShortcuts } from './use-bench-shortcuts'

/** Loaded when it is asked for: the chart library is large. */
const DiameterChart = defineAsyncComponent(() => import('./shape/DiameterChart.vue'))

const route = useRoute()
const router = useRouter()
const { message } = AntApp.useApp()
const bench = useBench()
const piece = usePiece()
const view = useView()
const state = ref<'loading' | 'open' | 'missing'>('loading')
const missing = ref('')
/** The bench is drawn in a task each (its frame, the panes, the stage's panel), so that opening a piece doesn't hold the page up for long. */
const drawn = ref<'frame' | 'panes' | 'all'>('frame')
const nextTask = () => new Promise((done) => setTimeout(done))
const photoPane = ref<InstanceType<typeof PhotoPane> | null>(null)
const calibratePanel = ref<InstanceType<typeof CalibratePanel> | null>(null)

/** The stage in the address, or the first that isn't done. */
const stage = computed<Stage>(() => {
  const named = route.params.stage as Stage | ''
  if (named) return named
  return STAGES.find((s) => piece.stages[s].state !== 'done') ?? 'check'
})
const go = (to: Stage) => router.replace({ name: 'bench', params: { id: piece.id, stage: to } })

watch(
  () => route.params.id as string | undefined,
  async (id) => {
    if (!id) return
    state.value = 'loading'
    try {
      await piece.open(id)
      bench.reset()
      // Before there is a solid the photo gets most of the room.
      share.value = piece.derived.solid ? EVEN_SHARE : 66
      state.value = 'open'
      await nextTask()
      if (drawn.value === 'frame') drawn.value = 'panes'
      await nextTick()
      fit()
      await nextTask()
      drawn.value = 'all'
      // Between the tasks somebody may have gone elsewhere.
      if (route.params.id === id && !route.params.stage) await go(stage.value)
    } catch (error) {
      missing.value =
        error instanceof ApiError && error.status !== 404
          ? error.message
          : 'This piece does not exist, or was deleted.'
      state.value = 'missing'
    }
  },
  { immediate: true },
)
onBeforeUnmount(() => void piece.close())

/** Takes the half-profile of a part or of the inside in hand, where all tools of the profile work on it. */
async function shapePart(id: string) {
  piece.inHand = id
  await go('profile')
}
async function putDown() {
  bench.solidSheet = piece.inHand === INSIDE ? 'body' : 'parts'
  piece.inHand = null
  await go('solid')
}

watch(
  [stage, state],
  () => {
    if (state.value !== 'open') return
    const { calibration, profile } = piece.document
    bench.select()
    // Parts are shaped on the profile's stage only.
    if (stage.value !== 'profile') piece.inHand = null
    if (stage.value === 'calibrate')
      bench.tool = !calibration.plumb
        ? 'plumb'
        : !calibration.ground
          ? 'ground'
          : calibration.knownSizes.length === 0
            ? 'size'
            : 'none'
    else bench.tool = stage.value === 'profile' && profile.nodes.length === 0 ? 'pen' : 'none'
  },
  { flush: 'post' },
)
watch(
  () => [piece.document.name, stage.value, state.value],
  () =>
    (document.title =
      state.value === 'open'
        ? `${piece.document.name}, ${STAGE_NAMES[stage.value]} – Baldacchino`
        : 'Baldacchino'),
  { immediate: true },
)

const { photo, error: photoError } = usePhotoBitmap(() =>
  state.value === 'open' ? (piece.document.photo?.sha256 ?? null) : null,
)

const photoSize = ref({ width: 0, height: 0 })
const solidSize = ref({ width: 0, height: 0 })
let fitted = ''
function fit() {
  if (photoSize.value.width > 0 && solidSize.value.width > 0) {
    view.fit(photoSize.value, solidSize.value)
    fitted = piece.id ?? ''
  }
}
/** Panes that change their size keep what they show in their middle. */
function resized(pane: 'photo' | 'solid', size: { width: number; height: number }) {
  const before = pane === 'photo' ? photoSize.value : solidSize.value
  const dx = (size.width - before.width) / 2
  if (pane === 'photo') {
    photoSize.value = size
    bench.view.photoAxisX += dx
    bench.view.groundY += before.height ? (size.height - before.height) / 2 : 0
  } else {
    solidSize.value = size
    bench.view.solidAxisX += dx
  }
  if (fitted !== piece.id || (follows && !bench.viewMoved)) fit()
}

/** Panes take a moment to their new size: what is seen follows them there, until somebody zooms or drags them. */
let follows = false
function fitWhileResized() {
  follows = true
  fit()
}

// The chart takes room from both panes.
watch(() => bench.chart, fitWhileResized)

// The solid that the first outline makes gets as much room as the photo, unless somebody looks at a part of it.
watch(
  () => piece.derived.solid !== null,
  (is) => {
    const isFirst = is && state.value === 'open' && stage.value === 'outline'
    if (!isFirst || bench.viewMoved || share.value === EVEN_SHARE) return
    share.value = EVEN_SHARE
    fitWhileResized()
  },
)

useBenchShortcuts({
  stage: () => stage.value,
  zoomBy: (factor) =>
    view.zoom(factor, { sx: photoSize.value.width / 2, sy: photoSize.value.height / 2 }, 'photo'),
  fit,
})

async function usePhoto(file: File) {
  try {
    const facts = await api.uploadPhoto(file)
    piece.dispatch({ type: 'set-photo', photo: photoOf(facts, file.name) })
    await nextTick()
    fit()
    await go('calibrate')
  } catch (error) {
    void message.error((error as Error).message, 8)
  }
}
/** Width of the photo pane, % of both. */
const EVEN_SHARE = 50
const share = ref(EVEN_SHARE)
const panes = ref<{ $el: HTMLElement } | null>(null)
/** The splitter is a separator with a value, which its library doesn't say to assistive technology. */
function describeSplitter(size: number) {
  const splitter = panes.value?.$el.querySelector('.splitpanes__splitter')
  splitter?.setAttribute('aria-valuenow', String(Math.round(size)))
  splitter?.setAttribute('aria-label', 'Share of the photo pane')
}
const dropping = useFileDrop((file) => void usePhoto(file))
</script>

<template>
  <NowherePage v-if="state === 'missing'" :message="missing" />
  <ASpin v-else-if="state === 'loading'" class="loading" tip="Fetching the piece …" size="large"
    ><div
  /></ASpin>
  <main v-else class="bench">
    <BenchHeader />
    <ConflictBanner />
    <div class="body">
      <StageList :current="stage" class="stages" />
      <div class="middle">
        <template v-if="drawn !== 'frame'">
          <Splitpanes
            ref="panes"
            class="panes"
            @ready="describeSplitter(share)"
            @resize="follows = false"
            @resized="describeSplitter($event.panes?.[0]?.size ?? EVEN_SHARE)"
          >
            <Pane :min-size="15" :size="share">
              <PhotoPane
                ref="photoPane"
                :stage="stage"
                :photo="photo"
                :error="photoError"
                @resized="resized('photo', $event)"
                @size-marked="(id: string) => calibratePanel?.focusSize(id)"
              />
            </Pane>
            <Pane :min-size="15" :size="100 - share">
              <SolidPane :photo="photo" @resized="resized('solid', $event)" />
            </Pane>
          </Splitpanes>
          <DiameterChart v-if="stage === 'profile' && bench.chart && piece.document.outline" />
          <MeasureBar />
        </template>
      </div>
      <aside>
        <template v-if="drawn !== 'all'" />
        <PhotoPanel v-else-if="stage === 'photo'" @replace="usePhoto" @next="go('calibrate')" />
        <CalibratePanel
          v-else-if="stage === 'calibrate'"
          ref="calibratePanel"
          :tools="photoPane?.calibration ?? null"
          @next="go('outline')"
        />
        <OutlinePanel
          v-else-if="stage === 'outline'"
          :pen="photoPane?.edgePen ?? null"
          @next="go('profile')"
        />
        <ProfilePanel v-else-if="stage === 'profile'" @next="go('solid')" @done="putDown" />
        <SolidPanel v-else-if="stage === 'solid'" @next="go('check')" @shape="shapePart" />
        <CheckPanel v-else-if="stage === 'check'" @next="go('hand-over')" />
        <HandOverPanel v-else />
      </aside>
    </div>
    <div v-if="dropping" class="drop">Drop the photo to put it on the bench</div>
    <ShortcutSheet :open="bench.sheetOpen" :groups="BENCH_KEYS" @close="bench.sheetOpen = false" />
  </main>
</template>

<style scoped>
.loading {
  display: grid;
  place-content: center;
  height: 100%;
}
.bench {
  display: flex;
  flex-direction: column;
  height: 100vh;
}
.bench > :first-child {
  flex: 0 0 46px;
}
.body {
  display: grid;
  flex: 1;
  grid-template-columns: 178px minmax(0, 1fr) 302px;
  min-height: 0;
}
.stages {
  overflow-y: auto;
  background: var(--desk);
}
.middle {
  display: flex;
  flex-direction: column;
  min-width: 0;
  border-inline: 1px solid var(--rule);
}
.panes {
  flex: 1;
  min-height: 0;
}
aside {
  overflow-y: auto;
  background: var(--paper);
}
.panes :deep(.splitpanes__splitter) {
  position: relative;
  width: 6px;
  background: var(--rule);
  cursor: col-resize;
}
.panes :deep(.splitpanes__splitter:hover) {
  background: var(--accent);
}
.drop {
  position: fixed;
  inset: 12px;
  z-index: 10;
  display: grid;
  place-content: center;
  border: 3px dashed var(--measured);
  border-radius: 12px;
  background: color-mix(in srgb, var(--paper) 82%, transparent);
  font-size: 22px;
  pointer-events: none;
}
</style>

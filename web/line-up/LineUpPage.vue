<script setup lang="ts">
import { ArrowLeftOutlined, BulbOutlined } from '@ant-design/icons-vue'
import { Button as AButton, Popover as APopover, Spin as ASpin } from 'ant-design-vue'
import { useElementSize } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useRoute } from 'vue-router'
import type { AgreedSize } from '../../core/piece/line-up'
import { api } from '../api/client'
import { download } from '../bench/download'
import { plainFileName } from '../../core/piece/file-name'
import { COMPANIONS } from '../bench/solid/companions'
import ChoiceRow from '../common/ChoiceRow.vue'
import SelectRow from '../common/SelectRow.vue'
import { usePreferences } from '../stores/preferences'
import { solidClient } from '../workers/solid-client'
import AgreeForm from './AgreeForm.vue'
import SizeTable from './SizeTable.vue'
import StandingPiece from './StandingPiece.vue'
import { useLineUp } from './use-line-up'

const route = useRoute()
const setName = String(route.params.set)
document.title = `${setName} – Baldacchino`
const preferences = usePreferences()
const { pieces, shown, waiting, failure, pictures, boxes, load, arrange, agree, vary, release, paint } =
  useLineUp(setName)
onMounted(load)

const shows = ref<'silhouettes' | 'photos' | 'solids'>('silhouettes')
const companionId = ref<string | null>(null)
const companion = computed(() => COMPANIONS.find((c) => c.id === companionId.value) ?? null)
const unit = computed(() => shown.value[0]?.document.unit ?? 'mm')

const floor = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(floor)
/** Below the ground line stand the captions; between pieces there is air. */
const CAPTIONS = 104
const AIR = 30
const LEAST_BREADTH = 84
const pxPerMm = computed(() => {
  const list = shown.value.map((p) => p.entry)
  if (list.length === 0 || width.value === 0) return 1
  const beside = companion.value
  const tallest = Math.max(...list.map((e) => e.heightMm), beside?.heightMm ?? 0)
  const breadths = [...list.map((e) => e.maxDiameterMm), ...(beside ? [beside.widthMm] : [])]
  const room = width.value - AIR * (breadths.length + 1)
  // Captions of narrow pieces are wider than they: found by trying, as only some of them are.
  let scale = (height.value - CAPTIONS - 24) / tallest
  for (let k = 0; k < 20; k++) {
    const used = breadths.reduce((sum, b) => sum + Math.max(LEAST_BREADTH, b * scale), 0)
    if (used <= room) break
    scale *= Math.max(0.7, room / used)
  }
  return Math.max(0.02, scale)
})

const order = computed({
  get: () => shown.value,
  set: (list) => void arrange(list.map((p) => p.id)),
})
watch([shows, shown], () => {
  if (shows.value === 'solids') void paint().catch((error: Error) => (failure.value = error.message))
})

/** Moves a piece by one place; the focus goes along with it. */
async function step(id: string, by: -1 | 1) {
  const ids = shown.value.map((p) => p.id)
  const from = ids.indexOf(id)
  const to = from + by
  if (to < 0 || to >= ids.length) return
  ids.splice(from, 1)
  ids.splice(to, 0, id)
  await arrange(ids)
}

const busy = ref('')
const allOpen = ref(false)
async function saveSheet(format: 'pdf' | 'svg') {
  busy.value = format
  try {
    const wish = { name: setName, unit: unit.value, entries: shown.value.map((p) => p.entry) }
    const timeStamp = new Date().toISOString().slice(0, 19)
    const bytes = await solidClient.call((w) => w.lineUp(wish, format, preferences.paper, timeStamp))
    download(
      bytes,
      `${plainFileName(setName)}.line-up.${format}`,
      format === 'pdf' ? 'application/pdf' : 'image/svg+xml',
    )
  } catch (error) {
    failure.value = `The sheet could not be written: ${(error as Error).message}`
  }
  busy.value = ''
}
function saveArchive() {
  const link = document.createElement('a')
  link.href = api.archiveUrl(
    (pieces.value ?? []).map((p) => p.id),
    setName,
  )
  link.download = `${plainFileName(setName)}.zip`
  link.click()
}
async function agreeAll(size: AgreedSize, mm: number, text: string) {
  allOpen.value = false
  await agree(
    shown.value.map((p) => p.id),
    size,
    mm,
    text,
  )
}
</script>

<template>
  <main class="line-up">
    <header>
      <RouterLink :to="{ name: 'cabinet' }" class="back"><ArrowLeftOutlined /> Cabinet</RouterLink>
      <h1>{{ setName }}</h1>
      <ChoiceRow
        label=""
        name="Show as"
        :value="shows"
        :choices="[
          { value: 'silhouettes', text: 'Silhouettes' },
          { value: 'photos', text: 'Photos' },
          { value: 'solids', text: 'Solids' },
        ]"
        @choose="(v) => (shows = v)"
      />
      <SelectRow
        label="Beside"
        name="Companion"
        :value="companionId"
        none="nothing"
        :choices="COMPANIONS.map((c) => ({ value: c.id, text: c.name }))"
        @choose="(v) => (companionId = v)"
        @clear="companionId = null"
      />
      <span class="spring"></span>
      <AButton :disabled="!shown.length || busy !== ''" :loading="busy === 'pdf'" @click="saveSheet('pdf')"
        >Sheet as PDF</AButton
      >
      <AButton :disabled="!shown.length || busy !== ''" :loading="busy === 'svg'" @click="saveSheet('svg')"
        >as SVG</AButton
      >
      <AButton
        :disabled="!pieces?.length"
        title="All pieces with their photos, to keep or to open elsewhere"
        @click="saveArchive"
        >Whole set as archive</AButton
      >
      <AButton
        type="text"
        :aria-label="preferences.dark ? 'Light look' : 'Dark look'"
        @click="preferences.toggle()"
        ><BulbOutlined
      /></AButton>
    </header>

    <p v-if="failure" class="doubt" role="alert">
      {{ failure }} <AButton size="small" @click="load">Load again</AButton>
    </p>
    <ASpin v-if="!pieces && !failure" class="empty" />
    <div v-else-if="pieces && shown.length === 0" class="empty">
      <h2>Nothing stands here yet</h2>
      <p>
        No piece of this set has a scale and a closed half-profile. Calibrate one and find its outline first.
      </p>
    </div>
    <template v-else-if="pieces">
      <section ref="floor" class="floor" aria-label="Line-up">
        <VueDraggable v-model="order" class="row" :animation="150" ghost-class="ghost">
          <StandingPiece
            v-for="p in order"
            :id="p.id"
            :key="p.id"
            tabindex="0"
            :entry="p.entry"
            :px-per-mm="pxPerMm"
            :shows="shows"
            :unit="unit"
            :picture="pictures.get(p.id) ?? null"
            :box="shows === 'solids' ? (boxes.get(p.id) ?? null) : null"
            @keydown.left.prevent="step(p.id, -1)"
            @keydown.right.prevent="step(p.id, 1)"
          />
        </VueDraggable>
        <figure v-if="companion" class="companion" data-testid="companion">
          <svg :width="companion.widthMm * pxPerMm" :height="companion.heightMm * pxPerMm">
            <g :transform="`translate(0 ${companion.heightMm * pxPerMm}) scale(${pxPerMm} ${-pxPerMm})`">
              <path
                v-for="(part, i) in companion.parts"
                :key="i"
                :d="part.d"
                :stroke-width="part.stroke ?? 0"
                :class="{ line: part.stroke }"
              />
            </g>
          </svg>
          <figcaption class="soft">{{ companion.words }}</figcaption>
        </figure>
        <div class="ground" aria-hidden="true"></div>
      </section>
      <section class="table">
        <div class="words">
          <p class="soft">
            All at one scale, at their finished sizes. Drag pieces to put them in order, or move the focused
            one by the arrow keys.
          </p>
          <APopover v-model:open="allOpen" trigger="click" placement="topRight" title="All pieces agree">
            <AButton size="small">All to one size …</AButton>
            <template #content>
              <AgreeForm :own="null" :others="shown" :unit="unit" @agree="agreeAll" />
            </template>
          </APopover>
        </div>
        <SizeTable
          :pieces="shown"
          :unit="unit"
          @agree="(id, ...how) => agree([id], ...how)"
          @release="release"
          @vary="vary"
        />
        <p v-if="waiting.length" class="soft">
          Not shown, as they have no scale or no closed half-profile yet:
          {{ waiting.map((p) => p.document.name).join(', ') }}.
        </p>
      </section>
    </template>
  </main>
</template>

<style scoped>
.line-up {
  display: grid;
  grid-template-rows: auto minmax(300px, 1fr) auto;
  gap: 14px;
  height: 100%;
  padding: 16px 24px 20px;
  overflow: auto;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
h1 {
  font-size: 22px;
}
.back {
  color: var(--ink-soft);
}
.spring {
  flex: 1;
}
header :deep(.pair) {
  display: flex;
  gap: 8px;
  align-items: center;
}
.floor {
  position: relative;
  display: flex;
  gap: 30px;
  align-items: flex-end;
  justify-content: center;
  min-height: 320px;
  overflow: hidden;
  border-radius: 8px;
  background: var(--surround);
}
.row {
  display: flex;
  gap: 30px;
  align-items: flex-end;
}
.ground {
  position: absolute;
  right: 0;
  bottom: 92px;
  left: 0;
  border-top: 1.5px solid var(--measured);
}
.ghost {
  opacity: 0.4;
}
.companion {
  display: grid;
  justify-items: center;
  margin: 0;
}
.companion svg {
  display: block;
  opacity: 0.5;
}
.companion path {
  fill: var(--ink-soft);
}
.companion .line {
  fill: none;
  stroke: var(--ink-soft);
  stroke-linecap: round;
}
.companion figcaption {
  height: 92px;
  padding-top: 10px;
  font-size: 12.5px;
}
.table {
  display: grid;
  gap: 8px;
}
.words {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
.empty {
  display: grid;
  gap: 10px;
  place-content: center;
  justify-items: center;
  text-align: center;
}
.doubt {
  color: var(--doubt);
}
</style>

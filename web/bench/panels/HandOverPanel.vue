<script setup lang="ts">
import { Button as AButton, Checkbox as ACheckbox, Progress as AProgress } from 'ant-design-vue'
import { computed, shallowRef } from 'vue'
import { DELIVERABLES, type Deliverable } from '../../../core/piece/deliver'
import { usePiece } from '../../stores/piece'
import { usePreferences } from '../../stores/preferences'
import { api } from '../../api/client'
import { download } from '../download'
import { formatGroups } from '../hand-over/format-groups'
import OptionsSection from '../hand-over/OptionsSection.vue'
import PicturesSection from '../hand-over/PicturesSection.vue'
import SheetPreview from '../hand-over/SheetPreview.vue'
import { useDelivery } from '../hand-over/use-delivery'
import { newId } from '../new-id'
import { useBuild } from '../solid/use-build'
import { triangleTotal } from '../triangle-total'
import PanelFrame from './PanelFrame.vue'

const piece = usePiece()
const preferences = usePreferences()
const { base, busy, progress, problem, leftOut, lighter, write, save, stop } = useDelivery()
const solid = computed(() => piece.wholeDerived.solid)
const { built } = useBuild()
/** Of what is handed over: with parts, of what booleans made of them. */
const triangles = computed(() => {
  const solids = built.value?.figures?.solids.filter((s) => !leftOut.value.includes(s.id))
  if (solids) return solids.reduce((sum, s) => sum + s.triangles, 0)
  return triangleTotal(solid.value, piece.whole.solid.sides)
})
const ready = computed(() => solid.value !== null && !solid.value.closedForShow)
const groups = computed(() =>
  formatGroups({ triangles: triangles.value, segments: solid.value?.segments.length ?? 0 }),
)

/** Formats that an older version remembered and this one doesn't write are left out. */
const together = computed(() => preferences.formats.filter((f) => f in DELIVERABLES))
function toggle(format: Deliverable, on: boolean) {
  const rest = together.value.filter((f) => f !== format)
  preferences.formats = on ? [...rest, format] : rest
}

const LOOKS: Partial<Record<Deliverable, Deliverable>> = {
  'section.pdf': 'section.svg',
  'section.svg': 'section.svg',
  'template.pdf': 'template.svg',
  'template.svg': 'template.svg',
}
function saveDocument() {
  const text = `${JSON.stringify(piece.whole, null, 1)}\n`
  download(new TextEncoder().encode(text), `${base.value}.json`, 'application/json')
}
/** By the server, which has the photos; what waits to be saved is sent first. */
async function saveWhole() {
  if (!piece.id) return
  await piece.flush()
  const link = document.createElement('a')
  link.href = api.archiveUrl([piece.id], null)
  link.download = `${base.value}.piece.zip`
  link.click()
}
const preview = shallowRef<{ title: string; svg: Blob } | null>(null)
async function look(format: Deliverable) {
  const file = await write([LOOKS[format]!], format)
  if (file) preview.value = { title: DELIVERABLES[format].name.replace(/ (PDF|SVG)$/, ''), svg: file.blob }
}
/** Sheets have names too long for a button. */
const buttonText = (format: Deliverable) => LOOKS[format] ? `Save as ${format.split('.')[1]!.toUpperCase()}` : `Save ${fileName(format)}` // prettier-ignore
const fileName = (format: Deliverable) => `${base.value}.${DELIVERABLES[format].extension}`
</script>

<template>
  <PanelFrame title="Hand over" lead="Files that others open at the right size and the right way up.">
    <div v-if="solid && !ready" class="unclosed">
      <p role="status">The profile is open, so the solid would have a hole.</p>
      <AButton size="small" @click="piece.dispatch({ type: 'close-profile', ids: [newId(), newId()] })"
        >Close it straight to the axis</AButton
      >
    </div>
    <p v-else-if="!solid" class="soft">There is no solid yet. Draw the half-profile first.</p>
    <p v-if="ready && !piece.wholeDerived.calibration.known.scale" class="doubt" role="alert">
      Without a known size one pixel would become one millimetre. Calibrate first.
    </p>
    <OptionsSection v-model:left-out="leftOut" v-model:lighter="lighter" />
    <section v-for="group in groups" :key="group.title" class="group">
      <h3>{{ group.title }}</h3>
      <article v-for="card in group.cards" :key="card.format">
        <p>
          <strong>{{ DELIVERABLES[card.format].name }}</strong>: {{ card.use }}
          <span v-if="ready" class="soft">{{ card.size }}.</span>
        </p>
        <div class="row">
          <span class="buttons">
            <AButton
              size="small"
              :disabled="!ready || busy !== ''"
              :loading="busy === card.format"
              :aria-label="`Save ${fileName(card.format)}`"
              @click="save([card.format])"
              >{{ buttonText(card.format) }}</AButton
            >
            <AButton
              v-if="LOOKS[card.format]"
              size="small"
              type="text"
              :disabled="!ready || busy !== ''"
              :aria-label="`Look at ${DELIVERABLES[card.format].name}`"
              @click="look(card.format)"
              >Look</AButton
            >
          </span>
          <ACheckbox
            :checked="together.includes(card.format)"
            :aria-label="`${DELIVERABLES[card.format].name} together with others`"
            @change="(e) => toggle(card.format, e.target.checked)"
          />
        </div>
      </article>
    </section>
    <PicturesSection :ready="ready" />
    <section class="group">
      <h3>To open again</h3>
      <article>
        <p><strong>Piece with its photos</strong>: an open ZIP, for another cabinet or the shelf.</p>
        <AButton size="small" @click="saveWhole">Save {{ base }}.piece.zip</AButton>
      </article>
      <article>
        <p><strong>Document</strong>: the piece as JSON without its photo, for programs.</p>
        <AButton size="small" @click="saveDocument">Save {{ base }}.json</AButton>
      </article>
    </section>
    <div class="foot">
      <div v-if="busy" class="row">
        <AProgress :percent="Math.round(100 * progress)" size="small" :show-info="false" />
        <AButton size="small" @click="stop">Stop</AButton>
      </div>
      <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
      <AButton
        type="primary"
        :disabled="!ready || busy !== '' || together.length === 0"
        :loading="busy === 'together'"
        data-testid="save-together"
        @click="save(together)"
        >Save the {{ together.length }} ticked as {{ base }}.zip</AButton
      >
    </div>
    <SheetPreview :title="preview?.title ?? ''" :svg="preview?.svg ?? null" @close="preview = null" />
  </PanelFrame>
</template>

<style scoped>
.panel :deep(.group) {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
.panel :deep(article) {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  justify-items: start;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
  justify-self: stretch;
}
.buttons {
  display: flex;
  gap: 2px;
  min-width: 0;
}
article .ant-btn,
.foot .ant-btn {
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.foot {
  position: sticky;
  z-index: 2;
  bottom: -14px;
  display: grid;
  gap: 8px;
  padding: 10px 0 14px;
  border-top: 1px solid var(--rule);
  background: var(--paper);
}
.unclosed {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 10px 12px;
  border: 1px dashed var(--doubt);
  border-radius: 6px;
  color: var(--doubt);
}
.doubt {
  color: var(--doubt);
}
</style>

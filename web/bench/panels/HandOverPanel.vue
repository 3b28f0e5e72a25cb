<script setup lang="ts">
import { Button as AButton, Checkbox as ACheckbox } from 'ant-design-vue'
import type { Remote } from 'comlink'
import { computed, ref } from 'vue'
import { FORMATS, type Format } from '../../../core/piece/hand-over'
import { usePiece } from '../../stores/piece'
import { usePreferences } from '../../stores/preferences'
import type { SolidWorker } from '../../workers/protocol'
import { solidClient } from '../../workers/solid-client'
import { download, fileBase } from '../download'
import { newId } from '../new-id'
import { useBuild } from '../solid/use-build'
import { triangleTotal } from '../triangle-total'
import PanelFrame from './PanelFrame.vue'

const piece = usePiece()
const preferences = usePreferences()
const base = computed(() => fileBase(piece.document.name))
const busy = ref('')
const problem = ref('')
const solid = computed(() => piece.derived.solid)
const { built } = useBuild()
/** Of what is handed over: with parts, of what booleans made of them. */
const triangles = computed(() => {
  const solids = built.value?.figures?.solids
  if (solids) return solids.reduce((sum, s) => sum + s.triangles, 0)
  return triangleTotal(solid.value, piece.document.solid.sides)
})
const ready = computed(() => solid.value !== null && !solid.value.closedForShow)
const kilobytes = (bytes: number) =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`

const meshSize = computed(() => `${triangles.value.toLocaleString('en')} triangles`)
const exact = computed(() => `${solid.value?.segments.length ?? 0} segments, no facets`)
const cardOf = (format: Format, use: string, size: string) => ({ ...FORMATS[format], format, use, size })
/** What each format is for, grouped by who usually asks for it. */
const groups = computed(() => [
  {
    title: 'For printers',
    cards: [
      cardOf('3mf', 'Knows its unit and its name.', meshSize.value),
      cardOf(
        'stl',
        'Binary, in millimetres; every slicer takes it.',
        `${meshSize.value}, ${kilobytes(FORMATS.stl.byteLength(triangles.value))}`,
      ),
    ],
  },
  {
    title: 'For games and renders',
    cards: [
      cardOf('glb', 'Metres, y up, smooth normals, the chosen material.', meshSize.value),
      cardOf('quads', 'The body’s mesh of quads, to model on and subdivide.', 'rows and ends as under Solid'),
      cardOf('obj', 'Shared vertices, z up, in millimetres.', meshSize.value),
      cardOf(
        'ply',
        'Binary, for scan and measuring programs.',
        `${meshSize.value}, ${kilobytes(FORMATS.ply.byteLength(triangles.value / 2 + 2, triangles.value))}`,
      ),
    ],
  },
  {
    title: 'For engineers',
    cards: [
      cardOf(
        'step',
        'One exact solid: planes, cylinders, cones, spheres, tori and revolved curves.',
        exact.value,
      ),
    ],
  },
  {
    title: 'For the lathe and the laser',
    cards: [
      cardOf('dxf', 'Lines, arcs and splines, 1:1 in millimetres.', exact.value),
      cardOf('svg', 'Lines, arcs and curves, 1:1 in millimetres.', exact.value),
      cardOf('csv', 'A table of ⌀, inner ⌀ and wall by height.', '200 rows and all corners'),
    ],
  },
])

/** Lets a worker write and saves what comes of it. */
async function save(
  what: string,
  name: string,
  mediaType: string,
  job: (worker: Remote<SolidWorker>, timeStamp: string) => Promise<Uint8Array<ArrayBuffer>>,
) {
  busy.value = what
  problem.value = ''
  const timeStamp = new Date().toISOString().slice(0, 19)
  try {
    download(await solidClient.call((worker) => job(worker, timeStamp)), name, mediaType)
  } catch (error) {
    problem.value = `The file could not be written: ${(error as Error).message}`
  }
  busy.value = ''
}
function write(format: Format) {
  const { document } = piece
  return save(format, `${base.value}.${FORMATS[format].extension}`, FORMATS[format].mediaType, (worker, time) => worker.handOver(document, format, time)) // prettier-ignore
}
function writeTogether() {
  const { document } = piece
  const formats = [...together.value]
  return save('zip', `${base.value}.zip`, 'application/zip', (worker, time) => worker.handOverArchive(document, formats, base.value, time)) // prettier-ignore
}
/** Formats that an older version remembered and this one doesn't write are left out. */
const together = computed(() => preferences.formats.filter((f) => f in FORMATS))
function toggle(format: Format, on: boolean) {
  const rest = together.value.filter((f) => f !== format)
  preferences.formats = on ? [...rest, format] : rest
}
</script>

<template>
  <PanelFrame title="Hand over" lead="Files that others open at the right size and the right way up.">
    <div v-if="solid && !ready" class="open">
      <p role="status">The profile is open, so the solid would have a hole.</p>
      <AButton size="small" @click="piece.dispatch({ type: 'close-profile', ids: [newId(), newId()] })"
        >Close it straight to the axis</AButton
      >
    </div>
    <p v-else-if="!solid" class="soft">There is no solid yet. Draw the half-profile first.</p>
    <p v-if="ready && !piece.derived.calibration.known.scale" class="doubt" role="alert">
      Without a known size one pixel would become one millimetre. Calibrate first.
    </p>
    <section v-for="group in groups" :key="group.title" class="group">
      <h3>{{ group.title }}</h3>
      <article v-for="card in group.cards" :key="card.format">
        <p>
          <strong>{{ card.name }}</strong>: {{ card.use }} <span class="soft">{{ card.size }}.</span>
        </p>
        <div class="row">
          <AButton
            size="small"
            :disabled="!ready || busy !== ''"
            :loading="busy === card.format"
            @click="write(card.format)"
            >Save {{ base }}.{{ card.extension }}</AButton
          >
          <ACheckbox
            :checked="together.includes(card.format)"
            :aria-label="`${card.name} together with others`"
            @change="(e) => toggle(card.format, e.target.checked)"
          />
        </div>
      </article>
    </section>
    <AButton
      type="primary"
      :disabled="!ready || busy !== '' || together.length === 0"
      :loading="busy === 'zip'"
      data-testid="save-together"
      @click="writeTogether"
      >Save the {{ together.length }} ticked as {{ base }}.zip</AButton
    >
    <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
  </PanelFrame>
</template>

<style scoped>
section.group {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
article {
  display: grid;
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
article .ant-btn {
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.open {
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

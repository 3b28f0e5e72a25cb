<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { FORMATS, type Format } from '../../../core/piece/hand-over'
import { usePiece } from '../../stores/piece'
import { solidClient } from '../../workers/solid-client'
import { download, fileBase } from '../download'
import { newId } from '../new-id'
import { triangleTotal } from '../triangle-total'
import PanelFrame from './PanelFrame.vue'

const piece = usePiece()
const busy = ref('')
const problem = ref('')
const solid = computed(() => piece.derived.solid)
const triangles = computed(() => triangleTotal(solid.value, piece.document.solid.sides))
const ready = computed(() => solid.value !== null && !solid.value.closedForShow)
const kilobytes = (bytes: number) =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`

const cards = computed(() => [
  {
    ...FORMATS.stl,
    use: 'For 3D printers: a watertight mesh, in millimetres.',
    size: `${triangles.value.toLocaleString('en')} triangles, ${kilobytes(FORMATS.stl.byteLength(triangles.value))}`,
  },
  {
    ...FORMATS.obj,
    use: 'For renderers and games: shared vertices, z up, in millimetres.',
    size: `${triangles.value.toLocaleString('en')} triangles`,
  },
  {
    ...FORMATS.svg,
    use: 'For the lathe and the laser cutter: the exact curve, 1:1 in millimetres.',
    size: `${solid.value?.segments.length ?? 0} segments, no facets`,
  },
])

async function write(format: Format) {
  busy.value = format
  problem.value = ''
  const { document } = piece
  try {
    const bytes = await solidClient.call((worker) => worker.handOver(document, format))
    download(bytes, `${fileBase(document.name)}.${format}`, FORMATS[format].mediaType)
  } catch (error) {
    problem.value = `The file could not be written: ${(error as Error).message}`
  }
  busy.value = ''
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
    <article v-for="card in cards" :key="card.extension">
      <h3>{{ card.name }}</h3>
      <p>{{ card.use }}</p>
      <p class="soft">{{ card.size }}</p>
      <AButton
        type="primary"
        :disabled="!ready || busy !== ''"
        :loading="busy === card.extension"
        @click="write(card.extension)"
        >Save {{ fileBase(piece.document.name) }}.{{ card.extension }}</AButton
      >
    </article>
    <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
  </PanelFrame>
</template>

<style scoped>
article {
  display: grid;
  gap: 4px;
  justify-items: start;
  padding: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
article .ant-btn {
  margin-top: 6px;
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

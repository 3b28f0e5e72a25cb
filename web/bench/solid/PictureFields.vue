<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { ref } from 'vue'
import { SURFACE_MAPS, type SurfaceMap, type SurfacePicture } from '../../../core/piece/schema'
import { api } from '../../api/client'
import AngleField from '../../common/AngleField.vue'
import { wrapAngle } from '../../../core/profile/arc'
import { PLAIN_MAPPING } from '../../../core/solid/assemble'
import { usePiece } from '../../stores/piece'
import { useBench } from '../../stores/bench'
import PieceLength from '../shape/PieceLength.vue'

/** A picture on a surface: artwork of a label all round, or a texture of the user's own, at its real size. */
const props = defineProps<{
  value: SurfacePicture | null | undefined
  /** What it lies on, in words. */
  what: string
  /** How wide a picture is at first, mm: once round, on a zone. */
  usualMm: number
  /** That is once round. */
  round?: boolean
}>()
const emit = defineEmits<{ set: [picture: SurfacePicture | null] }>()
const bench = useBench()
const piece = usePiece()
const input = ref<HTMLInputElement | null>(null)
/** What the file is chosen for: the picture itself, or what lies over it. */
const wanted = ref<'colour' | SurfaceMap>('colour')
const MAPS: Record<SurfaceMap, { name: string; hint: string }> = {
  roughness: { name: 'Roughness', hint: 'Light is rough, dark is smooth (green channel; blue: metal)' },
  normals: { name: 'Bumps', hint: 'As normals: red to the right, green up, blue outwards' },
}
function choose(what: 'colour' | SurfaceMap) {
  wanted.value = what
  input.value?.click()
}
const busy = ref(false)
const problem = ref('')

async function chosen(event: Event) {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (!file) return
  busy.value = true
  problem.value = ''
  try {
    const { sha256, mediaType, width, height } = await api.uploadPhoto(file)
    const own = { sha256, mediaType, width, height, fileName: file.name.slice(0, 255) }
    // It shows among the materials only.
    bench.solid.surface = 'materials'
    if (wanted.value !== 'colour') {
      change({ [wanted.value]: own })
      return
    }
    const place = props.value ?? {
      acrossMm: Number(props.usualMm.toPrecision(6)),
      turn: 0,
      upMm: 0,
      aroundMm: frontMm(),
    }
    emit('set', { ...place, ...own })
  } catch (error) {
    problem.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
/** So far round that its middle faces who looks at the piece first: that is -y, and pictures begin opposite the seam. */
function frontMm(): number {
  const { seam } = piece.whole.solid.mapping ?? PLAIN_MAPPING
  const turn = wrapAngle(-Math.PI / 2 - (seam + Math.PI)) / (2 * Math.PI)
  return props.round ? Number((turn * props.usualMm).toPrecision(6)) : 0
}
const change = (part: Partial<SurfacePicture>) => props.value && emit('set', { ...props.value, ...part })
</script>

<template>
  <div class="picture">
    <AButton size="small" :loading="busy" :aria-label="`Picture on ${what}`" @click="choose('colour')">{{
      value ? 'Another picture …' : 'Lay a picture on it …'
    }}</AButton>
    <input
      ref="input"
      type="file"
      accept="image/jpeg,image/png,image/webp"
      class="visually-hidden"
      tabindex="-1"
      :aria-label="`File of the picture on ${what}`"
      @change="chosen"
    />
    <template v-if="value">
      <img :src="api.thumbnailUrl(value.sha256)" :alt="value.fileName" />
      <PieceLength label="Wide" :value-mm="value.acrossMm" @commit="(acrossMm) => change({ acrossMm })" />
      <PieceLength label="Up by" signed :value-mm="value.upMm" @commit="(upMm) => change({ upMm })" />
      <PieceLength
        label="Around by"
        signed
        :value-mm="value.aroundMm"
        @commit="(aroundMm) => change({ aroundMm })"
      />
      <AngleField label="Turned" :radians="value.turn" :digits="1" @commit="(turn) => change({ turn })" />
      <div v-for="map in SURFACE_MAPS" :key="map" class="row">
        <AButton
          size="small"
          :title="MAPS[map].hint"
          :aria-label="`${MAPS[map].name} of the picture on ${what}`"
          @click="choose(map)"
          >{{ MAPS[map].name }} {{ value[map] ? '✓' : '…' }}</AButton
        >
        <AButton
          v-if="value[map]"
          size="small"
          :aria-label="`Take ${MAPS[map].name.toLowerCase()} of the picture on ${what} off`"
          @click="change({ [map]: undefined })"
          >Off</AButton
        >
        <span class="soft">{{ value[map]?.fileName }}</span>
      </div>
      <AButton size="small" @click="emit('set', null)">Take the picture off</AButton>
    </template>
    <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.picture {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.picture > :deep(.field),
.picture > :deep(.pair) {
  justify-self: stretch;
}
.row {
  display: flex;
  gap: 6px;
  align-items: center;
}
.soft {
  overflow: hidden;
  max-width: 120px;
  color: var(--ink-soft);
  text-overflow: ellipsis;
  white-space: nowrap;
}
img {
  max-width: 100%;
  max-height: 90px;
  border: 1px solid var(--rule);
}
.doubt {
  color: var(--doubt);
}
</style>

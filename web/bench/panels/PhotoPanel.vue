<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { RotateLeftOutlined, RotateRightOutlined } from '@ant-design/icons-vue'
import { computed, ref } from 'vue'
import { usePiece } from '../../stores/piece'
import PanelFrame from './PanelFrame.vue'

const emit = defineEmits<{ replace: [file: File]; next: [] }>()
const piece = usePiece()
const input = ref<HTMLInputElement | null>(null)
const photo = computed(() => piece.document.photo)
/** With a plumb line set, a quarter turn would change nothing. */
const upright = computed(() => piece.derived.calibration.known.axis)
const megapixels = computed(() =>
  photo.value ? ((photo.value.width * photo.value.height) / 1e6).toFixed(1) : '',
)

function turn(by: number) {
  if (photo.value)
    piece.dispatch({ type: 'turn-photo', quarterTurns: (photo.value.quarterTurns + by + 4) % 4 })
}
function chosen(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (file) emit('replace', file)
}
</script>

<template>
  <PanelFrame
    title="Photo"
    lead="A true side view: camera level with the middle of the piece, far away, long lens. The picture is kept as it is, pixel for pixel."
  >
    <dl v-if="photo" class="facts">
      <dt>File</dt>
      <dd class="file" :title="photo.fileName">{{ photo.fileName || 'pasted picture' }}</dd>
      <dt>Size</dt>
      <dd>{{ photo.width }} × {{ photo.height }} px ({{ megapixels }} megapixels)</dd>
      <dt>Lens</dt>
      <dd v-if="photo.focalLength35mm">{{ photo.focalLength35mm }} mm (35 mm equivalent), from the file</dd>
      <dd v-else>the file doesn’t say; that is no obstacle</dd>
    </dl>
    <div v-if="photo" class="row">
      <AButton :disabled="upright" @click="turn(-1)"><RotateLeftOutlined /> Turn left</AButton>
      <AButton :disabled="upright" @click="turn(1)"><RotateRightOutlined /> Turn right</AButton>
    </div>
    <p v-if="upright" class="soft">The plumb line says which way is up, to a fraction of a degree.</p>
    <p v-else class="soft">
      Bring the piece roughly upright, its foot down; a lying wheel too. The plumb line does the rest.
    </p>
    <div class="row">
      <AButton :type="photo ? 'default' : 'primary'" @click="input?.click()">{{
        photo ? 'Replace photo …' : 'Choose photo …'
      }}</AButton>
      <AButton v-if="photo" type="primary" @click="emit('next')">Calibrate</AButton>
    </div>
    <input
      ref="input"
      type="file"
      accept="image/jpeg,image/png,image/webp"
      class="visually-hidden"
      tabindex="-1"
      aria-label="Photo file"
      @change="chosen"
    />
  </PanelFrame>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: 50px 1fr;
  gap: 6px 8px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
.file {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>

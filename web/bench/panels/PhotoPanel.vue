<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { RotateLeftOutlined, RotateRightOutlined } from '@ant-design/icons-vue'
import { computed, ref } from 'vue'
import FoldSection from '../../common/FoldSection.vue'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import JudgeSection from '../photo/JudgeSection.vue'
import ReferenceSection from '../photo/ReferenceSection.vue'
import UnitChoice from '../UnitChoice.vue'
import PanelFrame from './PanelFrame.vue'

const emit = defineEmits<{ replace: [file: File]; next: [] }>()
const piece = usePiece()
const bench = useBench()
const open = ref({ judge: false, references: false })
const input = ref<HTMLInputElement | null>(null)
const photo = computed(() => piece.document.photo)
/** With a plumb line set, a quarter turn would change nothing. */
const upright = computed(() => piece.derived.calibration.known.axis)
const megapixels = computed(() =>
  photo.value ? ((photo.value.width * photo.value.height) / 1e6).toFixed(1) : '',
)

const cropProblem = computed(
  () => piece.derived.calibration.problems.find((p) => p.code === 'crop-cuts')?.message,
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
      <dd v-if="photo.focalLength35mm">
        {{ photo.focalLength35mm }} mm (35 mm equivalent). With it the camera’s distance follows from one
        known size.
      </dd>
      <dd v-else>the file doesn’t say; a tape measure or two rings of the piece can stand in for it</dd>
      <template v-if="photo.crop">
        <dt>Crop</dt>
        <dd>
          {{ Math.round(photo.crop.width) }} × {{ Math.round(photo.crop.height) }} px; the middle of the whole
          picture stays known
        </dd>
      </template>
    </dl>
    <div v-if="photo" class="row">
      <AButton :disabled="upright" @click="turn(-1)"><RotateLeftOutlined /> Turn left</AButton>
      <AButton :disabled="upright" @click="turn(1)"><RotateRightOutlined /> Turn right</AButton>
    </div>
    <p v-if="upright" class="soft">The plumb line says which way is up, to a fraction of a degree.</p>
    <p v-else class="soft">
      Bring the piece roughly upright, its foot down; a lying wheel too. The plumb line does the rest.
    </p>
    <div v-if="photo" class="row">
      <AButton
        :type="bench.tool === 'crop' ? 'primary' : 'default'"
        @click="bench.tool = bench.tool === 'crop' ? 'none' : 'crop'"
        >Crop to the piece</AButton
      >
      <AButton v-if="photo.crop" @click="piece.dispatch({ type: 'crop-photo', crop: null })"
        >Whole picture</AButton
      >
    </div>
    <p v-if="cropProblem" class="doubt" role="alert">{{ cropProblem }}</p>
    <UnitChoice v-if="photo" />
    <FoldSection v-if="photo" v-model:open="open.judge" title="Judging aids" note="for the eye only"
      ><JudgeSection
    /></FoldSection>
    <FoldSection
      v-if="photo"
      v-model:open="open.references"
      title="More photos of the piece"
      :note="piece.document.references.length ? `${piece.document.references.length} kept` : 'none yet'"
      ><ReferenceSection
    /></FoldSection>
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
.doubt {
  color: var(--doubt);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>

<script setup lang="ts">
import { Button as AButton, Progress as AProgress } from 'ant-design-vue'
import { ref } from 'vue'
import ChoiceRow from '../../common/ChoiceRow.vue'
import NumberField from '../../common/NumberField.vue'
import SelectRow from '../../common/SelectRow.vue'
import { usePiece } from '../../stores/piece'
import { usePictures, type PictureKind } from './use-pictures'

/** Pictures for clients and pages: the solid, the comparison with the photo, the turntable. */
defineProps<{ ready: boolean }>()
const piece = usePiece()
const { base, busy, progress, problem, save, stop } = usePictures()

const size = ref(1600)
const ground = ref<'none' | 'neutral'>('none')
const count = ref<string>('36')
const CARDS: { kind: PictureKind; name: string; use: string; file: string }[] = [
  {
    kind: 'solid',
    name: 'Picture',
    use: 'The solid as it is shown above, turned and cut as you see it.',
    file: 'png',
  },
  {
    kind: 'comparison',
    name: 'Comparison',
    use: 'Photo, photo with the half-profile, and solid, side by side.',
    file: 'comparison.png',
  },
  {
    kind: 'turntable',
    name: 'Turntable',
    use: 'One turn as a moving WebP; every browser shows it.',
    file: 'turntable.webp',
  },
  { kind: 'frames', name: 'Frames', use: 'The same turn as single PNGs, for editing.', file: 'frames.zip' },
]
</script>

<template>
  <section class="group" aria-label="Pictures">
    <h3>To show</h3>
    <div class="choices">
      <NumberField
        label="Size"
        :value="size"
        unit="px"
        :digits="0"
        :min="64"
        :max="8192"
        @commit="(v) => (size = Math.round(v))"
      />
      <ChoiceRow
        label="Ground"
        :value="ground"
        :choices="[
          { value: 'none', text: 'transparent' },
          { value: 'neutral', text: 'neutral' },
        ]"
        @choose="(v) => (ground = v)"
      />
      <SelectRow
        label="Turn in"
        name="Frames of a turn"
        :value="count"
        :choices="['24', '36', '72'].map((value) => ({ value, text: `${value} frames` }))"
        @choose="(v) => (count = v)"
      />
    </div>
    <article v-for="card in CARDS" :key="card.kind">
      <p>
        <strong>{{ card.name }}</strong>: {{ card.use }}
      </p>
      <AButton
        size="small"
        :disabled="!ready || busy !== '' || (card.kind === 'comparison' && !piece.whole.photo)"
        :loading="busy === card.kind"
        :aria-label="`Save ${base}.${card.file}`"
        @click="save(card.kind, size, ground, Number(count))"
        >Save as {{ card.file.split('.').pop()!.toUpperCase() }}</AButton
      >
    </article>
    <div v-if="busy === 'turntable' || busy === 'frames'" class="busy">
      <AProgress :percent="Math.round(100 * progress)" size="small" :show-info="false" />
      <AButton size="small" @click="stop">Stop</AButton>
    </div>
    <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.choices {
  display: grid;
  gap: 6px;
}
.choices :deep(.field),
.choices :deep(.pair) {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
.choices :deep(select) {
  width: 100%;
}
.busy {
  display: flex;
  gap: 10px;
  align-items: center;
}
.doubt {
  color: var(--doubt);
}
</style>

<script setup lang="ts">
import { Button as AButton, Checkbox as ACheckbox, Slider as ASlider } from 'ant-design-vue'
import { PLAIN_JUDGING, useBench, type Judging } from '../../stores/bench'

/** Aids for judging edges by eye. They change how the photo is shown, never its stored pixels. */
const bench = useBench()
const SLIDERS: {
  key: 'brightness' | 'contrast' | 'darks' | 'dim'
  name: string
  min: number
  max: number
}[] = [
  { key: 'brightness', name: 'Brightness', min: 0.4, max: 2.5 },
  { key: 'contrast', name: 'Contrast', min: 0.4, max: 3 },
  { key: 'darks', name: 'Lighter darks', min: 1, max: 4 },
  { key: 'dim', name: 'Dim the photo', min: 0.1, max: 1 },
]
const SWITCHES: { key: 'grey' | 'edges' | 'tint' | 'loupe'; name: string }[] = [
  { key: 'grey', name: 'Grey' },
  { key: 'edges', name: 'Bring out edges' },
  { key: 'tint', name: 'Tint what is white' },
  { key: 'loupe', name: 'Loupe at the pointer' },
]
const set = <K extends keyof Judging>(key: K, value: Judging[K]) => (bench.judging[key] = value)
</script>

<template>
  <label v-for="s in SLIDERS" :key="s.key" class="slider"
    ><span>{{ s.name }}</span
    ><ASlider
      :value="bench.judging[s.key]"
      :min="s.min"
      :max="s.max"
      :step="0.05"
      :aria-label-for-handle="s.name"
      @update:value="(v: number | [number, number]) => set(s.key, v as number)"
  /></label>
  <div class="switches">
    <ACheckbox
      v-for="s in SWITCHES"
      :key="s.key"
      :checked="bench.judging[s.key]"
      @change="(e: { target: { checked: boolean } }) => set(s.key, e.target.checked)"
      >{{ s.name }}</ACheckbox
    >
  </div>
  <div class="row">
    <AButton size="small" @click="Object.assign(bench.judging, PLAIN_JUDGING)">As it is</AButton>
  </div>
  <p class="soft">Only for the eye: the pixels stay untouched, and so does everything measured.</p>
</template>

<style scoped>
label.slider {
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: center;
  min-height: 28px;
}
label.slider > span:first-child {
  color: var(--ink-soft);
}
.switches {
  display: grid;
  grid-template-columns: 1fr;
  gap: 4px;
  justify-items: start;
}
.switches :deep(.ant-checkbox-wrapper) {
  margin: 0;
}
p {
  font-size: 12.5px;
}
</style>

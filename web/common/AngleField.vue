<script setup lang="ts">
import { computed } from 'vue'
import NumberField from './NumberField.vue'

/** An angle: radians inside, degrees on the screen. */
const props = withDefaults(
  defineProps<{
    label: string
    radians: number
    digits?: number
    /** Degrees. */
    min?: number
    max?: number
  }>(),
  { digits: 2, min: -360, max: 360 },
)
const emit = defineEmits<{ commit: [radians: number] }>()
const degrees = computed(() => (180 * props.radians) / Math.PI)
</script>

<template>
  <NumberField
    :label="label"
    :value="degrees"
    unit="°"
    :digits="digits"
    :min="min"
    :max="max"
    @commit="(v) => emit('commit', (Math.PI * v) / 180)"
  />
</template>

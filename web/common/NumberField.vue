<script setup lang="ts">
import { computed } from 'vue'
import TypedField from './TypedField.vue'

/** A plain number with its unit behind it. */
const props = defineProps<{
  label: string
  value: number | null
  unit: string
  digits: number
  min?: number
  max?: number
  disabled?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{ commit: [value: number] }>()

const shown = computed(() =>
  props.value === null
    ? ''
    : `${Number(props.value.toFixed(props.digits))} ${props.unit}`.replace(' °', '°').trim(),
)
function read(text: string) {
  const value = Number(text.replace(props.unit, '').replace(',', '.').replace('−', '-').trim())
  const { min = -Infinity, max = Infinity } = props
  if (!Number.isFinite(value) || text.trim() === '')
    return { ok: false as const, problem: `“${text}” is not a number.` }
  if (value < min || value > max)
    return {
      ok: false as const,
      problem: Number.isFinite(max)
        ? `Between ${min} and ${max} ${props.unit}, please.`
        : `At least ${min} ${props.unit}, please.`,
    }
  return { ok: true as const, value }
}
</script>

<template>
  <TypedField
    :label="label"
    :shown="shown"
    :read="read"
    :disabled="disabled"
    :placeholder="placeholder"
    @commit="(value) => emit('commit', value)"
  />
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { formatLength } from '../../core/units/format-length'
import { parseLength } from '../../core/units/parse-length'
import { typedUnit, type DisplayUnit } from '../../core/units/units'
import TypedField from './TypedField.vue'

/** A length that can be typed in any unit. */
const props = defineProps<{
  label: string
  valueMm: number | null
  unit: DisplayUnit
  /** Smallest accepted value, mm; by default anything above zero. */
  minMm?: number
  placeholder?: string
  disabled?: boolean
  /** Show what was typed instead of the formatted value. */
  typed?: string
}>()
const emit = defineEmits<{ commit: [mm: number, text: string] }>()

const shown = computed(
  () => props.typed ?? (props.valueMm === null ? '' : formatLength(props.valueMm, { unit: props.unit })),
)
function read(text: string) {
  const result = parseLength(text, { defaultUnit: typedUnit(props.unit), minMm: props.minMm })
  return result.ok
    ? { ok: true as const, value: result.mm }
    : { ok: false as const, problem: result.problem.message }
}
</script>

<template>
  <TypedField
    :label="label"
    :shown="shown"
    :read="read"
    :placeholder="placeholder"
    :disabled="disabled"
    @commit="(mm, text) => emit('commit', mm, text)"
  />
</template>

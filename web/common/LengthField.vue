<script setup lang="ts">
import { Input as AInput } from 'ant-design-vue'
import { ref, watch } from 'vue'
import { formatLength } from '../../core/units/format-length'
import { parseLength } from '../../core/units/parse-length'
import { typedUnit, type DisplayUnit } from '../../core/units/units'

/** A length that can be typed in any unit; shows what is wrong with it below and leaves the value alone until it is right. */
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

const shown = () =>
  props.typed ?? (props.valueMm === null ? '' : formatLength(props.valueMm, { unit: props.unit }))
const text = ref(shown())
const problem = ref('')
const editing = ref(false)
watch(
  () => [props.valueMm, props.unit, props.typed],
  () => {
    if (!editing.value) text.value = shown()
  },
)

function commit() {
  editing.value = false
  if (text.value === shown()) {
    problem.value = ''
    return
  }
  const result = parseLength(text.value, { defaultUnit: typedUnit(props.unit), minMm: props.minMm })
  problem.value = result.ok ? '' : result.problem.message
  if (result.ok) emit('commit', result.mm, text.value.trim())
}
function cancel() {
  editing.value = false
  problem.value = ''
  text.value = shown()
}
</script>

<template>
  <label class="field">
    <span class="name">{{ label }}</span>
    <AInput
      v-model:value="text"
      :disabled="disabled"
      :placeholder="placeholder"
      :status="problem ? 'error' : ''"
      :aria-invalid="Boolean(problem)"
      @focus="editing = true"
      @blur="commit"
      @press-enter="commit"
      @keydown.esc.stop="cancel"
    />
    <span v-if="problem" class="problem" role="alert">{{ problem }}</span>
  </label>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 84px 1fr;
  align-items: center;
  gap: 2px 8px;
}
.name {
  color: var(--ink-soft);
}
.problem {
  grid-column: 1 / -1;
  color: var(--doubt);
  font-size: 12.5px;
}
</style>

<script setup lang="ts">
import { Input as AInput } from 'ant-design-vue'
import { ref, watch } from 'vue'

/** A plain number with its unit behind it, typed like a length. */
const props = defineProps<{
  label: string
  value: number
  unit: string
  digits: number
  min?: number
  max?: number
  disabled?: boolean
}>()
const emit = defineEmits<{ commit: [value: number] }>()

const shown = () => `${Number(props.value.toFixed(props.digits))} ${props.unit}`.replace(' °', '°')
const text = ref(shown())
const problem = ref('')
const editing = ref(false)
watch(
  () => [props.value, props.unit],
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
  const value = Number(text.value.replace(props.unit, '').replace(',', '.').replace('−', '-').trim())
  const { min = -Infinity, max = Infinity } = props
  if (!Number.isFinite(value) || text.value.trim() === '') problem.value = `“${text.value}” is not a number.`
  else if (value < min || value > max) problem.value = `Between ${min} and ${max} ${props.unit}, please.`
  else {
    problem.value = ''
    emit('commit', value)
  }
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

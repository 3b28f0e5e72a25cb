<script setup lang="ts" generic="T">
import { Input as AInput } from 'ant-design-vue'
import { nextTick, ref, watch } from 'vue'

/** What can be typed: shows what is wrong with it below, and leaves the value alone until it is right. */
const props = defineProps<{
  label: string
  /** The value in words. */
  shown: string
  read: (text: string) => { ok: true; value: T } | { ok: false; problem: string }
  placeholder?: string
  disabled?: boolean
}>()
const emit = defineEmits<{ commit: [value: T, text: string] }>()

const text = ref(props.shown)
const problem = ref('')
const editing = ref(false)
watch(
  () => props.shown,
  () => {
    if (!editing.value) text.value = props.shown
  },
)

async function commit() {
  editing.value = false
  if (text.value === props.shown) {
    problem.value = ''
    return
  }
  const result = props.read(text.value)
  problem.value = result.ok ? '' : result.problem
  if (!result.ok) return
  emit('commit', result.value, text.value.trim())
  // What was refused, or is no value of its own (“move up by”), must not be sent again when the field is left.
  await nextTick()
  if (!editing.value) text.value = props.shown
}
function cancel() {
  editing.value = false
  problem.value = ''
  text.value = props.shown
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

<script setup lang="ts" generic="T extends string">
/** One of several, named on the left; null where none of them is chosen. */
defineProps<{
  label: string
  /** The name for those who hear it, where it says more than the label. */
  name?: string
  value: T | null
  choices: readonly { value: T; text: string }[]
  /** In words what choosing none means; absent: one is always chosen. */
  none?: string
}>()
const emit = defineEmits<{ choose: [value: T]; clear: [] }>()

function chosen(event: Event) {
  const value = (event.target as HTMLSelectElement).value as T | ''
  if (value === '') emit('clear')
  else emit('choose', value)
}
</script>

<template>
  <label class="pair"
    ><span class="name">{{ label }}</span>
    <select :value="value ?? ''" :aria-label="name ?? label" @change="chosen">
      <option v-if="none !== undefined" value="">{{ none }}</option>
      <option v-for="c in choices" :key="c.value" :value="c.value">{{ c.text }}</option>
    </select></label
  >
</template>

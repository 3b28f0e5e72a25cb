<script setup lang="ts" generic="T extends string">
import { RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'

/** One of a few words, named on the left. */
defineProps<{
  label: string
  /** The name for those who hear it, where it says more than the label. */
  name?: string
  value: T | undefined
  choices: readonly { value: T; text: string; title?: string }[]
  /** Three or more words need the room. */
  wide?: boolean
}>()
const emit = defineEmits<{ choose: [value: T] }>()
</script>

<template>
  <div class="pair" :class="{ wide }">
    <span class="name">{{ label }}</span>
    <ARadioGroup
      size="small"
      :value="value"
      :aria-label="name ?? label"
      @update:value="(v) => emit('choose', v as T)"
    >
      <ARadioButton v-for="c in choices" :key="c.value" :value="c.value" :title="c.title">{{
        c.text
      }}</ARadioButton>
    </ARadioGroup>
  </div>
</template>

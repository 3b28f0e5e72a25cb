<script setup lang="ts">
import { LockOutlined, UnlockOutlined } from '@ant-design/icons-vue'
import { Button as AButton, Tooltip as ATooltip } from 'ant-design-vue'

/** Holds a value, or lets it go. */
defineProps<{ on: boolean; name: string; why: string }>()
const emit = defineEmits<{ toggle: [] }>()
</script>

<template>
  <ATooltip :title="on ? why : name">
    <AButton
      type="text"
      size="small"
      class="lock"
      :class="{ on }"
      :aria-label="name"
      :aria-pressed="on"
      @click="emit('toggle')"
    >
      <LockOutlined v-if="on" /><UnlockOutlined v-else />
    </AButton>
  </ATooltip>
</template>

<style scoped>
.lock {
  margin-top: 4px;
  color: var(--ink-soft);
}
.lock.on {
  color: var(--modelled);
}
</style>

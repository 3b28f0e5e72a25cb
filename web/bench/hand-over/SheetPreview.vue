<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { Modal as AModal } from 'ant-design-vue'
import { onBeforeUnmount, ref, watch } from 'vue'

/** A sheet as it will be printed, to look at. */
const props = defineProps<{ title: string; svg: Blob | null }>()
const emit = defineEmits<{ close: [] }>()
const url = ref('')
// Also before the dialog has taken the focus.
useEventListener(window, 'keydown', (event) => {
  if (event.key === 'Escape' && props.svg) emit('close')
})

function forget() {
  if (url.value) URL.revokeObjectURL(url.value)
  url.value = ''
}
watch(
  () => props.svg,
  (svg) => {
    forget()
    if (svg) url.value = URL.createObjectURL(svg)
  },
  { immediate: true },
)
onBeforeUnmount(forget)
</script>

<template>
  <AModal
    :open="svg !== null"
    :title="title"
    :footer="null"
    width="min(860px, 92vw)"
    centered
    @cancel="emit('close')"
  >
    <img v-if="url" :src="url" :alt="title" data-testid="sheet-preview" />
  </AModal>
</template>

<style scoped>
img {
  display: block;
  max-width: 100%;
  max-height: 80vh;
  margin: 0 auto;
  border: 1px solid var(--rule);
  background: #fff;
}
</style>

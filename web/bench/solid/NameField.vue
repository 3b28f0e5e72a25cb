<script setup lang="ts">
import TypedField from '../../common/TypedField.vue'

/** The name of something of the piece. */
const props = defineProps<{ value: string; what: string }>()
const emit = defineEmits<{ commit: [name: string] }>()
const MOST = 60

function read(text: string) {
  const value = text.trim()
  if (!value) return { ok: false as const, problem: `Give the ${props.what} a name.` }
  if (value.length > MOST) return { ok: false as const, problem: `Up to ${MOST} characters, please.` }
  return { ok: true as const, value }
}
</script>

<template>
  <TypedField label="Name" :shown="value" :read="read" @commit="(name) => emit('commit', name)" />
</template>

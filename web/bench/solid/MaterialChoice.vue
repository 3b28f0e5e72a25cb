<script setup lang="ts">
import { MATERIALS } from '../../../core/piece/materials'

/** One of the materials, or none. */
defineProps<{ value: string | null; none: string; label?: string }>()
const emit = defineEmits<{ choose: [id: string | null] }>()
</script>

<template>
  <label class="pair"
    ><span class="name">{{ label ?? 'Material' }}</span>
    <select
      :value="value ?? ''"
      :aria-label="label ?? 'Material'"
      @change="(e) => emit('choose', (e.target as HTMLSelectElement).value || null)"
    >
      <option value="">{{ none }}</option>
      <option v-for="m in MATERIALS" :key="m.id" :value="m.id">{{ m.name }}</option>
    </select></label
  >
</template>

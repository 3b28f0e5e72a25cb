<script setup lang="ts">
import { MATERIALS } from '../../../core/piece/materials'
import SelectRow from '../../common/SelectRow.vue'

/** One of the materials, or none. */
defineProps<{ value: string | null; none: string }>()
const emit = defineEmits<{ choose: [id: string | null] }>()
const CHOICES = MATERIALS.map(({ id, name }) => ({ value: id, text: name }))
</script>

<template>
  <SelectRow
    label="Material"
    :value="value"
    :choices="CHOICES"
    :none="none"
    @choose="(id) => emit('choose', id)"
    @clear="emit('choose', null)"
  />
</template>

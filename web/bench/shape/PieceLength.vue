<script setup lang="ts">
import LengthField from '../../common/LengthField.vue'
import { usePiece } from '../../stores/piece'

/** A length of the piece, in its unit. */
defineProps<{
  label: string
  valueMm: number | null
  /** A height or a change: it may lie below the ground. */
  signed?: boolean
  placeholder?: string
  disabled?: boolean
}>()
const emit = defineEmits<{ commit: [mm: number] }>()
const piece = usePiece()

/** No piece is as deep as this, mm. */
const LOWEST = -100_000
</script>

<template>
  <LengthField
    :label="label"
    :value-mm="valueMm"
    :unit="piece.document.unit"
    :min-mm="signed ? LOWEST : undefined"
    :placeholder="placeholder"
    :disabled="disabled"
    @commit="(mm) => emit('commit', mm)"
  />
</template>

<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { DISPLAY_UNITS, type DisplayUnit } from '../../core/units/units'
import { usePiece } from '../stores/piece'
import { usePreferences } from '../stores/preferences'
import { UNIT_NAMES } from './unit-names'

/** The unit that lengths of this piece are shown in, and that new pieces start with. */
const piece = usePiece()
const preferences = usePreferences()
const choose = (event: Event) =>
  piece.dispatch({ type: 'set-unit', unit: (event.target as HTMLSelectElement).value as DisplayUnit })
</script>

<template>
  <div class="unit">
    <label
      ><span>Show lengths in</span>
      <select :value="piece.document.unit" @change="choose">
        <option v-for="unit in DISPLAY_UNITS" :key="unit" :value="unit">{{ UNIT_NAMES[unit] }}</option>
      </select></label
    >
    <AButton
      v-if="preferences.unit !== piece.document.unit"
      size="small"
      @click="preferences.unit = piece.document.unit"
      >Start new pieces in it too</AButton
    >
  </div>
</template>

<style scoped>
.unit {
  display: grid;
  gap: 6px;
  justify-items: start;
}
label {
  display: grid;
  gap: 4px;
  width: 100%;
}
</style>

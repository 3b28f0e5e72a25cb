<script setup lang="ts">
/** A line readable on any picture: a coloured core in a light halo, itself rimmed dark. */
withDefaults(defineProps<{ d: string; colour: string; width?: number; dash?: string }>(), {
  width: 1.8,
  dash: undefined,
})
</script>

<template>
  <g fill="none" stroke-linecap="round" stroke-linejoin="round">
    <path :d="d" stroke="rgb(20 15 10 / 0.35)" :stroke-width="width + 4" />
    <path :d="d" stroke="var(--line-halo)" :stroke-width="width + 2.6" />
    <path
      :d="d"
      :stroke="colour"
      :stroke-width="width"
      :stroke-dasharray="dash"
      :stroke-linecap="dash ? 'butt' : 'round'"
    />
  </g>
</template>

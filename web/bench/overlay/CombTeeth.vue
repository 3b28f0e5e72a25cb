<script setup lang="ts">
import type { ScreenPoint } from '../../composables/use-view'
import MarkLabel from './MarkLabel.vue'

/** Teeth of a comb with a light rim about them, and what its label says of the most telling place. */
defineProps<{
  /** Path of all of them, for the rim that sets them off from the photo. */
  rim: string
  at: ScreenPoint
  words: string
  colour: string
  width: number
  height: number
}>()
</script>

<template>
  <g>
    <path class="rim" :d="rim" />
    <slot />
    <MarkLabel
      :sx="at.sx"
      :sy="at.sy"
      :text="words"
      :colour="colour"
      :dy="-20"
      :pane-width="width"
      :pane-height="height"
    />
  </g>
</template>

<style scoped>
.rim {
  fill: none;
  stroke: rgb(251 249 245 / 0.5);
  stroke-width: 2.5;
}
</style>

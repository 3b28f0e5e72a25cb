<script setup lang="ts">
import { computed } from 'vue'

/** A small tag with figures beside a mark; keeps inside the pane. */
const props = withDefaults(
  defineProps<{
    sx: number
    sy: number
    text: string
    paneWidth: number
    paneHeight: number
    colour?: string
    dx?: number
    dy?: number
  }>(),
  { colour: 'var(--line-modelled)', dx: 14, dy: -14 },
)
/** Figtree at 12.5 px: widest glyphs counted, so that the tag is never too narrow. */
const width = computed(() => 16 + 7.1 * props.text.length)
const x = computed(() => {
  const right = props.sx + props.dx
  const fits = right + width.value <= props.paneWidth - 4
  const left = Math.min(props.sx - props.dx, props.paneWidth - 4) - width.value
  return Math.max(4, fits ? right : left)
})
const y = computed(() => Math.min(props.paneHeight - 26, Math.max(4, props.sy + props.dy - 11)))
</script>

<template>
  <g class="label" :transform="`translate(${x} ${y})`">
    <rect :width="width" height="22" rx="4" />
    <rect width="4" height="22" rx="2" :style="{ fill: colour }" class="tint" />
    <text :x="width / 2 + 2" y="15.5" text-anchor="middle">{{ text }}</text>
  </g>
</template>

<style scoped>
.label {
  pointer-events: none;
}
rect {
  fill: #fbf9f5;
  stroke: rgb(43 39 35 / 0.35);
}
.tint {
  stroke: none;
}
text {
  fill: #2b2723;
  font-size: 12.5px;
  font-weight: 550;
}
</style>

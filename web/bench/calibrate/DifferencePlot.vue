<script setup lang="ts">
import { computed } from 'vue'
import type { MirrorFit } from '../../../core/outline/mirror'

/** Left minus right edge along the height: a straight band about zero when the axis is right. */
const props = defineProps<{ difference: MirrorFit['difference']; spread: number }>()
const WIDTH = 252
const HEIGHT = 72
const plot = computed(() => {
  const kept = props.difference.filter((d) => d.agrees).map((d) => Math.abs(d.px))
  const most = Math.max(1, 2 * Math.max(...kept, 0))
  const along = props.difference.map((d) => d.along)
  const low = Math.min(...along)
  const high = Math.max(...along)
  const x = (v: number) => 4 + ((WIDTH - 8) * (v - low)) / (high - low || 1)
  const y = (px: number) => HEIGHT / 2 - (Math.max(-most, Math.min(most, px)) / most) * (HEIGHT / 2 - 8)
  return {
    most,
    dots: props.difference.map((d) => ({ x: x(d.along), y: y(d.px), agrees: d.agrees })),
  }
})
</script>

<template>
  <figure>
    <svg
      :width="WIDTH"
      :height="HEIGHT"
      role="img"
      :aria-label="`Left minus right edge from foot to top, within ${plot.most.toFixed(1)} px`"
    >
      <path :d="`M0 ${HEIGHT / 2}H${WIDTH}`" class="zero" />
      <template v-for="(dot, i) in plot.dots" :key="i">
        <circle v-if="dot.agrees" :cx="dot.x" :cy="dot.y" r="1.3" class="agrees" />
        <path v-else :d="`M${dot.x - 2} ${dot.y - 2}l4 4m0 -4l-4 4`" class="not" />
      </template>
      <text x="2" y="10">+{{ plot.most.toFixed(1) }} px</text>
      <text x="2" :y="HEIGHT - 3">−{{ plot.most.toFixed(1) }} px</text>
    </svg>
    <figcaption class="soft">Left minus right edge, foot to top; crosses don’t count.</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figcaption {
  font-size: 12px;
}
svg {
  width: 100%;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--paper);
}
.zero {
  stroke: var(--ink-soft);
  stroke-width: 0.8;
}
.agrees {
  fill: var(--measured);
}
.not {
  stroke: var(--doubt);
}
text {
  fill: var(--ink-soft);
  font-size: 9.5px;
}
</style>

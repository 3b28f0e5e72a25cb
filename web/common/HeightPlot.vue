<script setup lang="ts">
import { computed } from 'vue'

/** One value along the height, from foot to top, as dots about zero; crosses for those that don't count. */
const props = defineProps<{
  dots: readonly { at: number; value: number; counts: boolean }[]
  unit: string
  /** What is shown, for those who hear it. */
  label: string
  caption: string
  /** Half the range is at least this. */
  least: number
}>()
const WIDTH = 252
const HEIGHT = 72
/** Room for the words of the range, so that no dot lies on them. */
const GUTTER = 46
const plot = computed(() => {
  const kept = props.dots.filter((d) => d.counts).map((d) => Math.abs(d.value))
  const most = Math.max(props.least, 1.3 * Math.max(...kept, 0))
  const along = props.dots.map((d) => d.at)
  const low = Math.min(...along)
  const high = Math.max(...along)
  const x = (v: number) => GUTTER + ((WIDTH - GUTTER - 4) * (v - low)) / (high - low || 1)
  const y = (v: number) => HEIGHT / 2 - (Math.max(-most, Math.min(most, v)) / most) * (HEIGHT / 2 - 8)
  return {
    most: most.toPrecision(2),
    dots: props.dots.map((d) => ({ x: x(d.at), y: y(d.value), counts: d.counts })),
  }
})
</script>

<template>
  <figure>
    <svg :width="WIDTH" :height="HEIGHT" role="img" :aria-label="`${label}, within ${plot.most} ${unit}`">
      <path :d="`M${GUTTER} ${HEIGHT / 2}H${WIDTH}`" class="zero" />
      <template v-for="(dot, i) in plot.dots" :key="i">
        <circle v-if="dot.counts" :cx="dot.x" :cy="dot.y" r="1.3" class="agrees" />
        <path v-else :d="`M${dot.x - 2} ${dot.y - 2}l4 4m0 -4l-4 4`" class="not" />
      </template>
      <text x="2" y="10">+{{ plot.most }} {{ unit }}</text>
      <text x="2" :y="HEIGHT - 3">−{{ plot.most }} {{ unit }}</text>
    </svg>
    <figcaption class="soft">{{ caption }}</figcaption>
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

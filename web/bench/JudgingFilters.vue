<script setup lang="ts">
import { computed } from 'vue'
import { useBench } from '../stores/bench'

/** Filters that CSS has no words for: opened darks, and edges brought out. */
const bench = useBench()
const exponent = computed(() => 1 / bench.judging.darks)
/** A Laplacian over the picture as it is shown; grey where nothing changes. */
const LAPLACIAN = '-1 -1 -1 -1 8 -1 -1 -1 -1'
</script>

<template>
  <svg width="0" height="0" aria-hidden="true" class="filters">
    <filter id="judge-darks" color-interpolation-filters="sRGB">
      <feComponentTransfer>
        <feFuncR type="gamma" :exponent="exponent" />
        <feFuncG type="gamma" :exponent="exponent" />
        <feFuncB type="gamma" :exponent="exponent" />
      </feComponentTransfer>
    </filter>
    <filter id="judge-tint" color-interpolation-filters="sRGB">
      <feColorMatrix type="matrix" values="0.8 0 0 0 0  0 0.65 0 0 0  0 0 0.5 0 0  0 0 0 1 0" />
    </filter>
    <filter id="judge-edges" color-interpolation-filters="sRGB" x="0" y="0" width="1" height="1">
      <feConvolveMatrix
        in="SourceGraphic"
        order="3"
        :kernelMatrix="LAPLACIAN"
        divisor="0.35"
        preserveAlpha="true"
        result="lines"
      />
      <feComposite in="SourceGraphic" in2="lines" operator="arithmetic" k1="0" k2="0.75" k3="1.1" k4="0" />
    </filter>
  </svg>
</template>

<style scoped>
.filters {
  position: absolute;
}
</style>

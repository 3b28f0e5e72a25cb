<script setup lang="ts">
import { computed } from 'vue'
import { usePiece } from '../../stores/piece'

/** What was done, the newest first; what was undone stays in sight and can be done again. */
const piece = usePiece()
const steps = computed(() =>
  piece.steps.labels.map((label, index) => ({ label, index, done: index < piece.steps.done })).reverse(),
)
</script>

<template>
  <ol data-testid="steps">
    <li v-for="step in steps" :key="step.index">
      <button
        type="button"
        class="bare"
        :class="{ undone: !step.done, now: step.index === piece.steps.done - 1 }"
        :aria-current="step.index === piece.steps.done - 1 ? 'step' : undefined"
        @click="piece.goTo(step.index)"
      >
        <span class="number">{{ step.index + 1 }}</span> {{ step.label }}
        <span v-if="!step.done" class="soft">undone</span>
      </button>
    </li>
    <li>
      <button type="button" class="bare" :class="{ now: piece.steps.done === 0 }" @click="piece.goTo(-1)">
        <span class="number">–</span> as it was opened
      </button>
    </li>
  </ol>
</template>

<style scoped>
ol {
  display: grid;
  gap: 1px;
  margin: 0;
  padding: 0;
  list-style: none;
}
button {
  width: 100%;
  padding: 4px 8px;
  border-left: 3px solid transparent;
}
button:hover {
  background: color-mix(in srgb, var(--ink) 6%, transparent);
}
.now {
  border-left-color: var(--accent);
  font-weight: 600;
}
.undone {
  color: var(--ink-soft);
}
.number {
  display: inline-block;
  min-width: 24px;
  color: var(--ink-soft);
  font-weight: 400;
}
</style>

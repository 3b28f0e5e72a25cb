<script setup lang="ts">
/** Settings of a stage: a heading, a word on what it is for, and its controls. */
defineProps<{ title: string; lead?: string }>()
</script>

<template>
  <section class="panel" :aria-label="title">
    <h2>{{ title }}</h2>
    <p v-if="lead" class="soft">{{ lead }}</p>
    <slot />
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  align-content: start;
  padding: 16px;
}
h2 {
  font-size: 19px;
}
.panel :deep(h3) {
  font-family: inherit;
  font-size: 14px;
}
</style>

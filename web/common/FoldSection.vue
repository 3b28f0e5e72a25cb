<script setup lang="ts">
/** A section of a panel that folds; its heading says how things stand, so that it can stay folded. */
defineProps<{ title: string; note?: string; state?: 'done' | 'waiting' | 'doubt' }>()
const open = defineModel<boolean>('open', { default: false })
</script>

<template>
  <section class="fold" :class="{ open }">
    <button type="button" class="bare" :aria-expanded="open" @click="open = !open">
      <span class="sign" :class="state" aria-hidden="true">{{
        state === 'done' ? '✓' : state === 'doubt' ? '!' : '○'
      }}</span>
      <span class="title">{{ title }}</span>
      <span v-if="note" class="note" :class="state">{{ note }}</span>
    </button>
    <div v-if="open" class="inside"><slot /></div>
  </section>
</template>

<style scoped>
.fold {
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--card);
}
.fold.open {
  border-color: var(--accent);
}
button {
  display: grid;
  grid-template-columns: 16px 1fr;
  gap: 0 8px;
  width: 100%;
  padding: 9px 12px;
}
.title {
  font-weight: 600;
}
.note {
  grid-column: 2;
  color: var(--ink-soft);
  font-size: 12.5px;
  line-height: 1.35;
}
.note.doubt,
.sign.doubt {
  color: var(--doubt);
}
.sign {
  color: var(--ink-soft);
  font-weight: 700;
}
.sign.done {
  color: var(--accent);
}
.inside {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 9px;
  justify-items: stretch;
  padding: 2px 12px 12px;
}
.inside :deep(.row) {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.inside :deep(.pair) {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
}
.inside :deep(select) {
  width: 100%;
  min-width: 0;
}
.inside :deep(.pair .name) {
  color: var(--ink-soft);
}
.inside :deep(p.doubt) {
  color: var(--doubt);
}
</style>

<script setup lang="ts">
import {
  BulbOutlined,
  QuestionOutlined,
  RedoOutlined,
  UndoOutlined,
  LeftOutlined,
} from '@ant-design/icons-vue'
import { Button as AButton, Input as AInput, Tooltip as ATooltip } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { usePreferences } from '../stores/preferences'
import HistoryButton from './history/HistoryButton.vue'

const bench = useBench()
const piece = usePiece()
const preferences = usePreferences()
const name = ref(piece.document.name)
watch(
  () => piece.document.name,
  (n) => (name.value = n),
)

function rename() {
  const wanted = name.value.trim().slice(0, 120)
  if (wanted && wanted !== piece.document.name) piece.dispatch({ type: 'rename', name: wanted })
  else name.value = piece.document.name
}
const saved = computed(() => {
  switch (piece.saveState.kind) {
    case 'saved':
      return { text: 'Saved', doubt: false }
    case 'pending':
      return { text: 'Saving …', doubt: false }
    case 'failed':
      return { text: 'Not saved, trying again', doubt: true }
    default:
      return { text: 'Not saved', doubt: true }
  }
})
</script>

<template>
  <header>
    <RouterLink to="/" class="home"><LeftOutlined /> Cabinet</RouterLink>
    <AInput
      v-model:value="name"
      class="name"
      :bordered="false"
      aria-label="Name of the piece"
      :maxlength="120"
      @blur="rename"
      @press-enter="($event.target as HTMLInputElement).blur()"
      @keydown.esc.stop="name = piece.document.name"
    />
    <span
      class="saved"
      :class="{ doubt: saved.doubt }"
      role="status"
      data-testid="save-state"
      :title="piece.saveState.kind === 'failed' ? piece.saveState.message : undefined"
      >{{ saved.text }}</span
    >
    <span class="spring" />
    <ATooltip :title="piece.undoLabel ? `Undo: ${piece.undoLabel}` : 'Nothing to undo'"
      ><AButton type="text" :disabled="!piece.undoLabel" aria-label="Undo" @click="piece.undo()"
        ><UndoOutlined /></AButton
    ></ATooltip>
    <ATooltip :title="piece.redoLabel ? `Redo: ${piece.redoLabel}` : 'Nothing to redo'"
      ><AButton type="text" :disabled="!piece.redoLabel" aria-label="Redo" @click="piece.redo()"
        ><RedoOutlined /></AButton
    ></ATooltip>
    <HistoryButton />
    <ATooltip :title="preferences.dark ? 'Light' : 'Dark'"
      ><AButton
        type="text"
        :aria-label="preferences.dark ? 'Light look' : 'Dark look'"
        @click="preferences.toggle()"
        ><BulbOutlined /></AButton
    ></ATooltip>
    <ATooltip title="Keys (?)"
      ><AButton type="text" aria-label="Keys" @click="bench.sheetOpen = true"><QuestionOutlined /></AButton
    ></ATooltip>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 10px;
  border-bottom: 1px solid var(--rule);
  background: var(--paper);
}
.home {
  padding: 4px 8px;
  border-radius: 5px;
  color: var(--ink-soft);
  text-decoration: none;
}
.home:hover {
  color: var(--ink);
}
.name {
  width: 300px;
  font-family: 'Source Serif 4 Variable', Georgia, serif;
  font-size: 18px;
  font-weight: 600;
}
.saved {
  color: var(--ink-soft);
  font-size: 13px;
  white-space: nowrap;
}
.saved.doubt {
  color: var(--doubt);
  font-weight: 600;
}
.spring {
  flex: 1;
}
</style>

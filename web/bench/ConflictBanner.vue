<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { ref } from 'vue'
import { usePiece } from '../stores/piece'

/** Shown when the piece was changed in another tab: neither change is lost without a decision. */
const piece = usePiece()
const busy = ref(false)
const problem = ref('')
async function choose(choice: 'mine' | 'theirs' | 'both') {
  busy.value = true
  problem.value = ''
  try {
    await piece.resolveConflict(choice)
  } catch (error) {
    problem.value = (error as Error).message
  }
  busy.value = false
}
</script>

<template>
  <div v-if="piece.saveState.kind === 'conflict'" class="banner" role="alert">
    <p>
      <strong>This piece was changed in another tab.</strong> Your changes here are not saved yet; nothing is
      lost.
    </p>
    <AButton type="primary" size="small" :disabled="busy" @click="choose('both')"
      >Keep both: mine as a new piece</AButton
    >
    <AButton size="small" :disabled="busy" @click="choose('mine')">Put mine over it</AButton>
    <AButton size="small" :disabled="busy" @click="choose('theirs')">Take the other’s</AButton>
    <p v-if="problem">{{ problem }}</p>
  </div>
</template>

<style scoped>
.banner {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 8px 14px;
  border-bottom: 1px solid var(--rule);
  border-left: 4px solid var(--doubt);
  background: var(--card);
}
.banner p {
  margin-right: 8px;
}
</style>

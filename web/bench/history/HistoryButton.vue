<script setup lang="ts">
import { HistoryOutlined } from '@ant-design/icons-vue'
import { Button as AButton, Popover as APopover, Tooltip as ATooltip } from 'ant-design-vue'
import { ref } from 'vue'
import CheckpointList from './CheckpointList.vue'
import StepList from './StepList.vue'

/** All steps by name, and the checkpoints. */
const open = ref(false)
</script>

<template>
  <APopover
    v-model:open="open"
    destroy-tooltip-on-hide
    trigger="click"
    placement="bottomRight"
    overlay-class-name="history-popover"
  >
    <template #content>
      <div class="history" @keydown.esc.stop="open = false">
        <section>
          <h3>Checkpoints</h3>
          <CheckpointList />
        </section>
        <section>
          <h3>Steps</h3>
          <StepList />
        </section>
      </div>
    </template>
    <ATooltip :title="open ? undefined : 'Steps and checkpoints'">
      <AButton type="text" aria-label="Steps and checkpoints" :aria-expanded="open"
        ><HistoryOutlined
      /></AButton>
    </ATooltip>
  </APopover>
</template>

<style scoped>
.history {
  display: grid;
  gap: 14px;
  width: 330px;
  max-height: min(640px, 78vh);
  overflow-y: auto;
}
h3 {
  margin: 0 0 6px;
  font-size: 15px;
}
</style>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { Modal as AModal } from 'ant-design-vue'

/** The sheet of keys, opened with "?". */
const props = defineProps<{ open: boolean; groups: { title: string; keys: [string, string][] }[] }>()
const emit = defineEmits<{ close: [] }>()
// The dialog itself hears Escape only once it has the focus.
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (props.open && event.key === 'Escape') emit('close')
})
</script>

<template>
  <AModal :open="open" title="Keys" :footer="null" width="720px" @cancel="emit('close')">
    <div class="sheet">
      <section v-for="group in groups" :key="group.title">
        <h3>{{ group.title }}</h3>
        <dl>
          <template v-for="[keys, what] in group.keys" :key="what">
            <dt>
              <kbd v-for="key in keys.split(' ')" :key="key">{{ key }}</kbd>
            </dt>
            <dd>{{ what }}</dd>
          </template>
        </dl>
      </section>
    </div>
  </AModal>
</template>

<style scoped>
.sheet {
  columns: 2;
  column-gap: 32px;
}
section {
  break-inside: avoid;
  margin-bottom: 16px;
}
h3 {
  margin-bottom: 6px;
  font-size: 15px;
}
dl {
  display: grid;
  grid-template-columns: 128px 1fr;
  gap: 5px 10px;
  margin: 0;
}
dt {
  display: flex;
  gap: 3px;
}
dd {
  margin: 0;
}
</style>

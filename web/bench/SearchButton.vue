<script setup lang="ts">
import { Button as AButton, Progress as AProgress } from 'ant-design-vue'
import { watch } from 'vue'
import { usePiece } from '../stores/piece'
import { useSearch } from './calibrate/use-search'

/** Starts a search of the photo, shows its progress and stops it; it is searched ahead while nobody waits. */
const { keepAxis } = defineProps<{ primary: boolean; name: string; testid: string; keepAxis: boolean }>()
const emit = defineEmits<{ search: [] }>()
const piece = usePiece()
const search = useSearch()
watch(
  () => {
    const { photo } = piece.document
    return photo && JSON.stringify(search.requestOf(photo, keepAxis))
  },
  () => search.searchAhead(keepAxis),
  { immediate: true },
)
</script>

<template>
  <AButton
    v-if="!search.running"
    :type="primary ? 'primary' : 'default'"
    block
    :disabled="!piece.document.photo"
    :data-testid="testid"
    @click="emit('search')"
    >{{ name }}</AButton
  >
  <div v-else class="running">
    <AProgress :percent="Math.round(100 * search.fraction)" size="small" status="active" />
    <AButton size="small" :disabled="search.taking" @click="search.stop()">Stop</AButton>
  </div>
</template>

<style scoped>
.running {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 16px;
  align-items: center;
}
</style>

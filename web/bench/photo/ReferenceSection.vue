<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { DeleteOutlined } from '@ant-design/icons-vue'
import { ref } from 'vue'
import type { ReferencePhoto } from '../../../core/piece/schema'
import { api } from '../../api/client'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import ReferenceViewer from './ReferenceViewer.vue'

/** Other photos of the piece, kept beside the calibrated one: front, top, underside, a detail. */
const piece = usePiece()
const input = ref<HTMLInputElement | null>(null)
const busy = ref(false)
const problem = ref('')
const shown = ref<string | null>(null)
const NAMES = ['front', 'other side', 'top', 'underside', 'detail']

async function add(event: Event) {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (!file) return
  busy.value = true
  problem.value = ''
  try {
    const facts = await api.uploadPhoto(file)
    const photo = { ...facts, fileName: file.name.slice(0, 255), quarterTurns: 0 }
    const used = new Set(piece.document.references.map((r) => r.name))
    const reference: ReferencePhoto = {
      id: newId(),
      name: NAMES.find((n) => !used.has(n)) ?? 'detail',
      photo,
      scale: null,
    }
    piece.dispatch({ type: 'set-reference', reference })
  } catch (error) {
    problem.value = (error as Error).message
  }
  busy.value = false
}
const rename = (reference: ReferencePhoto, event: Event) =>
  piece.dispatch({
    type: 'set-reference',
    reference: { ...reference, name: (event.target as HTMLInputElement).value.slice(0, 120) },
  })
</script>

<template>
  <p class="soft">
    Front, other side, top, underside, a detail: kept beside the side view, each with a scale of its own.
  </p>
  <ul v-if="piece.document.references.length">
    <li v-for="reference in piece.document.references" :key="reference.id">
      <button type="button" :aria-label="`Open ${reference.name}`" @click="shown = reference.id">
        <img :src="api.thumbnailUrl(reference.photo.sha256)" alt="" />
      </button>
      <input
        :value="reference.name"
        list="reference-names"
        aria-label="What the photo shows"
        @change="rename(reference, $event)"
      />
      <AButton
        size="small"
        type="text"
        :aria-label="`Remove ${reference.name}`"
        @click="piece.dispatch({ type: 'remove-reference', id: reference.id })"
        ><DeleteOutlined
      /></AButton>
    </li>
  </ul>
  <datalist id="reference-names"><option v-for="name in NAMES" :key="name" :value="name" /></datalist>
  <AButton size="small" :loading="busy" @click="input?.click()">Add a reference photo …</AButton>
  <p v-if="problem" class="doubt" role="alert">{{ problem }}</p>
  <input
    ref="input"
    type="file"
    accept="image/jpeg,image/png,image/webp"
    class="visually-hidden"
    tabindex="-1"
    aria-label="Reference photo file"
    @change="add"
  />
  <ReferenceViewer v-if="shown" :id="shown" @close="shown = null" />
</template>

<style scoped>
ul {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 56px 1fr auto;
  gap: 8px;
  align-items: center;
}
button[type='button']:not(.ant-btn) {
  padding: 0;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--surround);
  cursor: pointer;
}
img {
  display: block;
  width: 54px;
  height: 54px;
  object-fit: cover;
}
li input {
  min-width: 0;
  padding: 4px 8px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--card);
  color: inherit;
  font: inherit;
}
</style>

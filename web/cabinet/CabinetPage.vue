<script setup lang="ts">
import { BulbOutlined, PlusOutlined, QuestionOutlined } from '@ant-design/icons-vue'
import { App as AntApp, Button as AButton, Input as AInput, Spin as ASpin } from 'ant-design-vue'
import { h, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { ListedPiece } from '../api/types'
import ShortcutSheet from '../common/ShortcutSheet.vue'
import { useFileDrop } from '../composables/use-file-drop'
import { useShortcuts } from '../composables/use-shortcuts'
import { useCabinet } from '../stores/cabinet'
import { usePreferences } from '../stores/preferences'
import PieceCard from './PieceCard.vue'

document.title = 'Cabinet – Baldacchino'
const cabinet = useCabinet()
const preferences = usePreferences()
const router = useRouter()
const { message, notification } = AntApp.useApp()
const input = ref<HTMLInputElement | null>(null)
const archiveInput = ref<HTMLInputElement | null>(null)
const search = ref<{ focus(): void } | null>(null)
const sheet = ref(false)
const failure = ref('')

const KEYS: { title: string; keys: [string, string][] }[] = [
  {
    title: 'Cabinet',
    keys: [
      ['N', 'new piece from a photo'],
      ['Ctrl V', 'new piece from a pasted picture'],
      ['/', 'search'],
      ['?', 'this sheet'],
    ],
  },
]
useShortcuts(() => [
  { keys: ['N'], label: 'new', run: () => input.value?.click() },
  { keys: ['/'], label: 'search', run: () => search.value?.focus() },
  { keys: ['?'], label: 'keys', run: () => (sheet.value = true) },
])

onMounted(load)
async function load() {
  failure.value = ''
  try {
    await cabinet.load()
  } catch (error) {
    failure.value = (error as Error).message
  }
}

async function create(file: File) {
  if (file.name.toLowerCase().endsWith('.zip')) return takeIn(file)
  const isDocument = file.name.toLowerCase().endsWith('.json')
  try {
    const id = await (isDocument ? cabinet.createFromDocument(file) : cabinet.createFromPhoto(file))
    await router.push({ name: 'bench', params: { id, ...(!isDocument && { stage: 'calibrate' }) } })
  } catch (error) {
    void message.error((error as Error).message, 10)
  }
}
async function takeIn(file: File) {
  try {
    void message.success(await cabinet.takeIn(file), 5)
  } catch (error) {
    void message.error((error as Error).message, 10)
  }
}
const dropping = useFileDrop((file) => void create(file))
function chosen(event: Event) {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (file) void create(file)
}

async function attempt(action: Promise<unknown>) {
  try {
    await action
  } catch (error) {
    void message.error((error as Error).message, 8)
  }
}
async function remove(piece: ListedPiece) {
  await attempt(cabinet.remove(piece.id))
  const key = `deleted-${piece.id}`
  notification.open({
    key,
    message: `“${piece.name}” was put aside`,
    description: 'It can be brought back for 30 days, here for ten seconds.',
    duration: 10,
    placement: 'bottomRight',
    btn: () =>
      h(
        AButton,
        {
          type: 'primary',
          size: 'small',
          onClick: () => void attempt(cabinet.restore(piece.id)).then(() => notification.destroy(key)),
        },
        () => 'Undo',
      ),
  })
}
</script>

<template>
  <main class="cabinet">
    <header>
      <h1><img src="/favicon.svg" alt="" width="28" height="28" /> Baldacchino</h1>
      <AInput
        ref="search"
        v-model:value="cabinet.search"
        class="search"
        placeholder="Search the cabinet"
        aria-label="Search the cabinet"
        allow-clear
      />
      <AButton type="primary" @click="input?.click()"><PlusOutlined /> New piece</AButton>
      <AButton @click="archiveInput?.click()">Open …</AButton>
      <AButton
        type="text"
        :aria-label="preferences.dark ? 'Light look' : 'Dark look'"
        @click="preferences.toggle()"
        ><BulbOutlined
      /></AButton>
      <AButton type="text" aria-label="Keys" @click="sheet = true"><QuestionOutlined /></AButton>
      <input
        ref="input"
        type="file"
        accept="image/jpeg,image/png,image/webp"
        class="visually-hidden"
        tabindex="-1"
        aria-label="Photo of the new piece"
        @change="chosen"
      />
      <input
        ref="archiveInput"
        type="file"
        accept=".zip,.json,application/zip,application/json"
        class="visually-hidden"
        tabindex="-1"
        aria-label="Archive or document of pieces"
        @change="chosen"
      />
    </header>

    <div v-if="failure" class="empty" role="alert">
      <h2>The cabinet can’t be opened</h2>
      <p>{{ failure }}</p>
      <AButton @click="load">Try again</AButton>
    </div>
    <ASpin v-else-if="!cabinet.pieces" class="empty" />
    <div v-else-if="cabinet.pieces.length === 0" class="empty">
      <h2>The cabinet is empty</h2>
      <p>Drop a side-view photo of something round anywhere on this page, paste one, or choose a file.</p>
      <AButton type="primary" @click="input?.click()"><PlusOutlined /> New piece</AButton>
    </div>
    <div v-else-if="cabinet.groups.length === 0" class="empty">
      <h2>Nothing is called “{{ cabinet.search }}”</h2>
      <AButton @click="cabinet.search = ''">Show all pieces</AButton>
    </div>
    <section
      v-for="group in cabinet.groups"
      v-else
      :key="group.name ?? ''"
      :aria-label="group.name ?? 'Single pieces'"
    >
      <h2>
        {{ group.name ?? 'Single pieces' }} <span class="count">{{ group.pieces.length }}</span>
        <RouterLink
          v-if="group.name"
          :to="{ name: 'line-up', params: { set: group.name } }"
          class="to-line-up"
          >Line up</RouterLink
        >
      </h2>
      <div class="cards">
        <PieceCard
          v-for="piece in group.pieces"
          :key="piece.id"
          :piece="piece"
          :tallest-mm="cabinet.tallestMm"
          :sets="cabinet.setNames"
          @move="attempt(cabinet.moveToSet(piece.id, $event))"
          @rename="attempt(cabinet.rename(piece.id, $event))"
          @duplicate="attempt(cabinet.duplicate(piece.id))"
          @remove="remove(piece)"
        />
      </div>
    </section>
    <p v-if="cabinet.groups.length" class="soft note">
      Silhouettes are drawn at one common scale. Drop a photo anywhere to begin a new piece.
    </p>

    <div v-if="dropping || cabinet.busy" class="drop">
      {{ cabinet.busy ?? 'Drop a photo to begin a new piece, or the archive of a set' }}
    </div>
    <ShortcutSheet :open="sheet" :groups="KEYS" @close="sheet = false" />
  </main>
</template>

<style scoped>
.cabinet {
  display: flex;
  flex-direction: column;
  gap: 26px;
  max-width: 1320px;
  min-height: 100%;
  margin: 0 auto;
  padding: 22px 28px 28px;
}
header {
  display: flex;
  align-items: center;
  gap: 8px;
}
h1 {
  display: flex;
  flex: 1;
  align-items: center;
  gap: 10px;
  font-size: 25px;
}
.search {
  width: 260px;
}
h2 {
  margin-bottom: 12px;
  font-size: 19px;
}
.count {
  color: var(--ink-soft);
  font-family: 'Figtree Variable', sans-serif;
  font-size: 14px;
  font-weight: 400;
}
.to-line-up {
  margin-left: 10px;
  font-family: 'Figtree Variable', sans-serif;
  font-size: 14px;
  font-weight: 500;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 18px;
}
.empty {
  display: grid;
  flex: 1;
  gap: 12px;
  place-content: center;
  justify-items: center;
  text-align: center;
}
.note {
  margin-top: auto;
}
.drop {
  position: fixed;
  inset: 12px;
  z-index: 10;
  display: grid;
  place-content: center;
  border: 3px dashed var(--measured);
  border-radius: 12px;
  background: color-mix(in srgb, var(--paper) 85%, transparent);
  font-size: 22px;
  pointer-events: none;
}
</style>

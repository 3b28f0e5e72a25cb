<script setup lang="ts">
import { CopyOutlined, DeleteOutlined, EditOutlined, FolderOutlined } from '@ant-design/icons-vue'
import { Button as AButton, Input as AInput, Popover as APopover, Tooltip as ATooltip } from 'ant-design-vue'
import { computed, nextTick, ref } from 'vue'
import { formatLength } from '../../core/units/format-length'
import { api } from '../api/client'
import type { ListedPiece } from '../api/types'
import { silhouettePath } from '../common/silhouette'

const props = defineProps<{ piece: ListedPiece; tallestMm: number; sets: readonly string[] }>()
const emit = defineEmits<{
  rename: [name: string]
  duplicate: []
  remove: []
  move: [setName: string | null]
}>()

const SILHOUETTE_HEIGHT = 150
/** All silhouettes share one scale: the tallest piece of the cabinet fills the height. */
const silhouette = computed(() => {
  const points = props.piece.summary.silhouette
  if (!points) return null
  return silhouettePath(points, {
    x: 60,
    y: SILHOUETTE_HEIGHT + 4,
    pxPerMm: SILHOUETTE_HEIGHT / props.tallestMm,
  })
})
const size = computed(() => {
  const { heightMm, maxDiameterMm, unit } = props.piece.summary
  if (!heightMm || !maxDiameterMm) return props.piece.summary.silhouette ? '' : 'not measured yet'
  const decimals = unit === 'mm' ? 1 : undefined
  return `⌀ ${formatLength(maxDiameterMm, { unit, withUnit: false, decimals })} × ${formatLength(heightMm, { unit, decimals })}`
})
const date = computed(() =>
  new Date(props.piece.updatedAt).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  }),
)

const moving = ref(false)
const wanted = ref('')
function move() {
  moving.value = false
  const name = wanted.value.trim()
  if (name !== (props.piece.setName ?? '')) emit('move', name || null)
}

const renaming = ref(false)
const name = ref('')
const field = ref<{ focus(): void; select(): void } | null>(null)
async function startRename() {
  name.value = props.piece.name
  renaming.value = true
  await nextTick()
  field.value?.focus()
  field.value?.select()
}
function endRename(keep: boolean) {
  if (!renaming.value) return
  renaming.value = false
  const wanted = name.value.trim()
  if (keep && wanted && wanted !== props.piece.name) emit('rename', wanted)
}
</script>

<template>
  <article class="card" :aria-label="piece.name" data-testid="piece-card">
    <RouterLink
      :to="{ name: 'bench', params: { id: piece.id } }"
      class="picture"
      :aria-label="`Open ${piece.name}`"
    >
      <img v-if="piece.photoSha256" :src="api.thumbnailUrl(piece.photoSha256)" alt="" loading="lazy" />
      <svg class="silhouette" viewBox="0 0 120 158" aria-hidden="true">
        <path d="M4 154.5H116" class="ground" />
        <path v-if="silhouette" :d="silhouette" class="shape" />
        <path v-else d="M60 20V154" class="axis" />
      </svg>
    </RouterLink>
    <div class="words">
      <AInput
        v-if="renaming"
        ref="field"
        v-model:value="name"
        size="small"
        :maxlength="120"
        aria-label="New name"
        @blur="endRename(true)"
        @press-enter="endRename(true)"
        @keydown.esc="endRename(false)"
      />
      <h3 v-else :title="piece.name">{{ piece.name }}</h3>
      <p class="soft">{{ size }}</p>
      <div class="foot">
        <span class="soft">{{ date }}</span>
        <span class="actions">
          <ATooltip title="Rename"
            ><AButton type="text" size="small" :aria-label="`Rename ${piece.name}`" @click="startRename"
              ><EditOutlined /></AButton
          ></ATooltip>
          <ATooltip title="Duplicate"
            ><AButton
              type="text"
              size="small"
              :aria-label="`Duplicate ${piece.name}`"
              @click="emit('duplicate')"
              ><CopyOutlined /></AButton
          ></ATooltip>
          <APopover
            v-model:open="moving"
            trigger="click"
            title="Put it into a set"
            @open-change="wanted = piece.setName ?? ''"
          >
            <AButton type="text" size="small" title="Set" :aria-label="`Set of ${piece.name}`"
              ><FolderOutlined
            /></AButton>
            <template #content>
              <form class="set" @submit.prevent="move">
                <AInput
                  v-model:value="wanted"
                  :list="`sets-${piece.id}`"
                  :aria-label="`Set for ${piece.name}`"
                  :maxlength="120"
                  placeholder="No set"
                />
                <datalist :id="`sets-${piece.id}`">
                  <option v-for="set in sets" :key="set" :value="set" />
                </datalist>
                <AButton html-type="submit" type="primary">Put there</AButton>
              </form>
            </template>
          </APopover>
          <ATooltip title="Delete"
            ><AButton type="text" size="small" :aria-label="`Delete ${piece.name}`" @click="emit('remove')"
              ><DeleteOutlined /></AButton
          ></ATooltip>
        </span>
      </div>
    </div>
  </article>
</template>

<style scoped>
.card {
  overflow: hidden;
  border-radius: 8px;
  background: var(--card);
  box-shadow: var(--shadow);
}
.picture {
  display: grid;
  grid-template-columns: 1fr 1fr;
  height: 186px;
  background: var(--surround);
}
img {
  width: 100%;
  height: 186px;
  object-fit: cover;
}
.silhouette {
  width: 100%;
  height: 100%;
  padding: 10px 4px;
}
.shape {
  fill: var(--modelled);
  fill-opacity: 0.82;
}
.ground {
  stroke: var(--ink-soft);
  stroke-width: 0.8;
}
.axis {
  stroke: var(--ink-soft);
  stroke-dasharray: 6 3 1 3;
  stroke-width: 0.8;
}
.words {
  padding: 10px 14px 8px;
}
h3 {
  overflow: hidden;
  font-size: 16px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.foot {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
.set {
  display: flex;
  gap: 8px;
}
.actions {
  margin-right: -8px;
}
</style>

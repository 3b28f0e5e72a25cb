<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed } from 'vue'
import { useBench, type Tool } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** What a hand can do where the search needs help: paint, mark, crop, or draw the edge itself. */
defineProps<{ begun: boolean }>()
const emit = defineEmits<{ lay: [] }>()
const bench = useBench()
const piece = usePiece()

const take = (tool: Tool) => (bench.tool = bench.tool === tool ? 'none' : tool)
const type = (tool: Tool) => (bench.tool === tool ? 'primary' : 'default')
const guided = computed(() => Object.values(piece.document.guides ?? {}).some((list) => list.length > 0))
const strokes = computed(() => piece.document.outline?.strokes ?? [])
</script>

<template>
  <p class="soft">Draw an edge that wasn’t found, or was found wrongly; the pen hugs what it sees.</p>
  <div class="row">
    <AButton size="small" :type="type('edge')" :disabled="!piece.document.outline" @click="take('edge')"
      >Edge pen</AButton
    >
    <AButton v-if="begun" size="small" data-testid="lay-stroke" @click="emit('lay')">Lay the stroke</AButton>
    <AButton
      v-if="strokes.length && !begun"
      size="small"
      @click="piece.dispatch({ type: 'lift-edge', id: strokes[strokes.length - 1]!.id })"
      >Lift the last stroke</AButton
    >
  </div>
  <p class="soft ground">Or tell the search what it should know, and find the outline again.</p>
  <div class="row">
    <AButton size="small" :type="type('paint-piece')" @click="take('paint-piece')">Paint piece</AButton>
    <AButton size="small" :type="type('paint-backdrop')" @click="take('paint-backdrop')"
      >Paint backdrop</AButton
    >
    <AButton size="small" :type="type('mark')" @click="take('mark')">Mark edge</AButton>
    <AButton size="small" :type="type('crop')" @click="take('crop')">Set a box</AButton>
    <AButton v-if="guided" size="small" @click="piece.dispatch({ type: 'set-guides', guides: null })"
      >Wipe it off</AButton
    >
  </div>
</template>

<style scoped>
.ground {
  padding-top: 4px;
  border-top: 1px solid var(--rule);
}
</style>

<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { DeleteOutlined } from '@ant-design/icons-vue'
import { computed } from 'vue'
import { usePiece } from '../../stores/piece'

/** The rings of the piece that the camera is solved from, each with how well it fits. */
const piece = usePiece()
const rings = computed(() => piece.document.calibration.rings)
const solved = computed(() => piece.derived.calibration)
</script>

<template>
  <ul v-if="rings.length">
    <li v-for="(ring, i) in rings" :key="ring.id">
      <select
        :value="ring.place"
        :aria-label="`Place of ring ${i + 1}`"
        @change="
          piece.dispatch({
            type: 'set-ring',
            ring: { ...ring, place: ($event.target as HTMLSelectElement).value as 'foot' | 'rim' | 'band' },
          })
        "
      >
        <option value="foot">foot</option>
        <option value="rim">rim</option>
        <option value="band">band</option>
      </select>
      <span class="soft"
        >{{ ring.by === 'found' ? 'found' : 'by hand'
        }}<template v-if="solved.near?.rings[i]"
          >, off {{ solved.near.rings[i]!.rmsPx.toFixed(2) }} px</template
        ></span
      >
      <AButton
        size="small"
        type="text"
        :aria-label="`Remove the ${ring.place} ring`"
        @click="piece.dispatch({ type: 'remove-ring', id: ring.id })"
        ><DeleteOutlined
      /></AButton>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 78px 1fr auto;
  gap: 8px;
  align-items: center;
}
select {
  padding: 2px 6px;
}
</style>

<script setup lang="ts">
import { Button as AButton, Popover as APopover } from 'ant-design-vue'
import { computed, ref } from 'vue'
import type { AgreedSize, LineUpEntry, Variant } from '../../core/piece/line-up'
import { ERROR_NOTE, LINE_UP_COLUMNS, lineUpCells, PARTS_NOTE } from '../../core/piece/line-up-sheet'
import type { DisplayUnit } from '../../core/units/units'
import AgreeForm from './AgreeForm.vue'
import VariantForm from './VariantForm.vue'

/** Sizes, volumes and masses of all pieces of a set. */
const props = defineProps<{ pieces: readonly { id: string; entry: LineUpEntry }[]; unit: DisplayUnit }>()
const emit = defineEmits<{
  agree: [id: string, size: AgreedSize, mm: number, text: string]
  release: [id: string]
  vary: [id: string, variant: Variant]
}>()
const open = ref<string | null>(null)
const varied = ref<string | null>(null)
const rows = computed(() => props.pieces.map((p) => ({ ...p, cells: lineUpCells(p.entry, props.unit) })))
const hasParts = computed(() => props.pieces.some((p) => p.entry.hasParts))
</script>

<template>
  <table data-testid="sizes">
    <thead>
      <tr>
        <th scope="col">Piece</th>
        <th v-for="c in LINE_UP_COLUMNS" :key="c" scope="col">{{ c }}</th>
        <th><span class="visually-hidden">Change</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.id">
        <th scope="row">
          <RouterLink :to="{ name: 'bench', params: { id: row.id } }">{{ row.entry.name }}</RouterLink>
        </th>
        <td v-for="(cell, k) in row.cells" :key="k">{{ cell }}</td>
        <td>
          <APopover
            trigger="click"
            placement="topRight"
            :title="`${row.entry.name} agrees`"
            :open="open === row.id"
            @update:open="(on: boolean) => (open = on ? row.id : null)"
          >
            <AButton size="small" :aria-label="`Size of ${row.entry.name}`">Size …</AButton>
            <template #content>
              <AgreeForm
                :own="row"
                :others="pieces"
                :unit="unit"
                @agree="(...how) => ((open = null), emit('agree', row.id, ...how))"
                @release="((open = null), emit('release', row.id))"
              />
            </template>
          </APopover>
          <APopover
            trigger="click"
            placement="topRight"
            :title="`Variant of ${row.entry.name}`"
            :open="varied === row.id"
            @update:open="(on: boolean) => (varied = on ? row.id : null)"
          >
            <AButton size="small" :aria-label="`Variant of ${row.entry.name}`">Variant …</AButton>
            <template #content>
              <VariantForm :entry="row.entry" @vary="(how) => ((varied = null), emit('vary', row.id, how))" />
            </template>
          </APopover>
        </td>
      </tr>
    </tbody>
  </table>
  <p class="soft">
    {{ ERROR_NOTE }}.<template v-if="hasParts"> {{ PARTS_NOTE }}.</template>
  </p>
</template>

<style scoped>
td :deep(button + button),
td button + button {
  margin-left: 6px;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
th,
td {
  padding: 5px 10px;
  border-bottom: 1px solid var(--rule);
  text-align: right;
  white-space: nowrap;
}
th {
  font-weight: 600;
}
thead th {
  color: var(--ink-soft);
  font-size: 12.5px;
  font-weight: 400;
}
th:first-child {
  text-align: left;
}
</style>

<script setup lang="ts">
import { Checkbox as ACheckbox } from 'ant-design-vue'
import { computed } from 'vue'
import type { MeshAxes } from '../../../core/piece/hand-over'
import { PAPERS, type Paper } from '../../../core/sheet/paper'
import ChoiceRow from '../../common/ChoiceRow.vue'
import FoldSection from '../../common/FoldSection.vue'
import SelectRow from '../../common/SelectRow.vue'
import { usePiece } from '../../stores/piece'
import { usePreferences } from '../../stores/preferences'

/** How files are written where their format leaves it open, and what goes into them. */
const leftOut = defineModel<readonly string[]>('leftOut', { required: true })
const lighter = defineModel<boolean>('lighter', { required: true })
const piece = usePiece()
const preferences = usePreferences()

const UNITS: { value: MeshAxes['unit']; text: string }[] = [
  { value: 'mm', text: 'millimetres (usual)' },
  { value: 'cm', text: 'centimetres' },
  { value: 'm', text: 'metres' },
  { value: 'in', text: 'inches' },
]
const solids = computed(() => [
  { id: 'body', name: piece.whole.name },
  ...piece.whole.parts.filter((p) => p.shown && p.relation === 'separate'),
])
const papers = Object.keys(PAPERS).map((value) => ({ value: value as Paper, text: value }))
const note = computed(() => {
  const { axes, paper } = preferences
  const kept = solids.value.filter((s) => !leftOut.value.includes(s.id)).length
  const which = solids.value.length > 1 ? `, ${kept} of ${solids.value.length} solids` : ''
  return `STL, OBJ, PLY in ${axes.unit}, ${axes.up} up; ${paper}${which}`
})
function include(id: string, on: boolean) {
  const rest = leftOut.value.filter((other) => other !== id)
  leftOut.value = on ? rest : [...rest, id]
}
</script>

<template>
  <FoldSection title="How files are written" :note="note" state="done">
    <SelectRow
      label="Unit"
      name="Unit of STL, OBJ and PLY"
      :value="preferences.axes.unit"
      :choices="UNITS"
      @choose="(unit) => (preferences.axes = { ...preferences.axes, unit })"
    />
    <ChoiceRow
      label="Up"
      name="Upward axis of STL, OBJ and PLY"
      :value="preferences.axes.up"
      :choices="[
        { value: 'z', text: 'z', title: 'Usual for printing and engineering' },
        { value: 'y', text: 'y', title: 'Usual for games and film' },
      ]"
      @choose="(up) => (preferences.axes = { ...preferences.axes, up })"
    />
    <p class="soft">Only of STL, OBJ and PLY: they say neither. The others know their own.</p>
    <ChoiceRow
      label="Paper"
      :value="preferences.paper"
      :choices="papers"
      @choose="(paper) => (preferences.paper = paper)"
    />
    <ACheckbox v-model:checked="lighter">GLB also with lighter levels, in scenes of their own</ACheckbox>
    <template v-if="solids.length > 1">
      <p class="soft">What goes into the files:</p>
      <ACheckbox
        v-for="s in solids"
        :key="s.id"
        :checked="!leftOut.includes(s.id)"
        @change="(e) => include(s.id, e.target.checked)"
        >{{ s.name }}</ACheckbox
      >
    </template>
  </FoldSection>
</template>

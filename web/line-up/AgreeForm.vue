<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, ref } from 'vue'
import type { AgreedSize, LineUpEntry } from '../../core/piece/line-up'
import { formatLength } from '../../core/units/format-length'
import type { DisplayUnit } from '../../core/units/units'
import ChoiceRow from '../common/ChoiceRow.vue'
import LengthField from '../common/LengthField.vue'
import SelectRow from '../common/SelectRow.vue'

/** What a piece, or all, is to agree with: a typed length, or another piece's. */
const props = defineProps<{
  /** The piece; null: all of them. */
  own: { id: string; entry: LineUpEntry } | null
  others: readonly { id: string; entry: LineUpEntry }[]
  unit: DisplayUnit
}>()
const emit = defineEmits<{ agree: [size: AgreedSize, mm: number, text: string]; release: [] }>()

const size = ref<AgreedSize>('height')
const sizeOf = (entry: LineUpEntry) => (size.value === 'height' ? entry.heightMm : entry.maxDiameterMm)
const words = computed(() => (size.value === 'height' ? 'tall' : 'across'))
const choices = computed(() =>
  props.others
    .filter((o) => o.id !== props.own?.id)
    .map((o) => ({
      value: o.id,
      text: `as ${o.entry.name}: ${formatLength(sizeOf(o.entry), { unit: props.unit })}`,
    })),
)
const current = computed(() => (props.own ? sizeOf(props.own.entry) : null))

function typed(mm: number) {
  emit('agree', size.value, mm, `${formatLength(mm, { unit: props.unit })} ${words.value}`)
}
function chosen(id: string) {
  const other = props.others.find((o) => o.id === id)
  if (other) emit('agree', size.value, sizeOf(other.entry), `as ${words.value} as ${other.entry.name}`)
}
</script>

<template>
  <div class="form">
    <ChoiceRow
      label="Size"
      :value="size"
      :choices="[
        { value: 'height', text: 'height' },
        { value: 'diameter', text: 'largest ⌀' },
      ]"
      @choose="(v) => (size = v)"
    />
    <LengthField label="Make it" :value-mm="current" :unit="unit" @commit="typed" />
    <SelectRow
      label="Or"
      name="Agree with"
      :value="null"
      none="as another piece …"
      :choices="choices"
      @choose="chosen"
    />
    <AButton v-if="own && own.entry.factor !== 1" size="small" @click="emit('release')"
      >Back to the measured size</AButton
    >
    <p class="soft">The factor is kept in the piece as its finished size; the profile stays as measured.</p>
  </div>
</template>

<style scoped src="./form.css"></style>

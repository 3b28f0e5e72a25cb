<script setup lang="ts">
import { Button as AButton, RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'
import { ref } from 'vue'
import { LEAST_SHARE, type UnsureStretch } from '../../../core/piece/outline-report'
import { joined } from '../../common/joined'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'

/** Stretches that both edges don't vouch for, each with its reason and the choice of a side. */
const props = defineProps<{
  stretches: readonly UnsureStretch[]
  /** Both edges vouch for all of the height, short stretches included. */
  allAgree: boolean
}>()
const piece = usePiece()
const bench = useBench()
const open = ref<number | null>(null)
const SHORT = `${(100 * LEAST_SHARE).toFixed(1)}\u00A0%`

function toggle(i: number) {
  open.value = open.value === i ? null : i
  const s = props.stretches[i]!
  bench.stretch = open.value === i ? { from: s.from, to: s.to } : null
}
const choiceOf = (s: UnsureStretch) =>
  piece.document.outline?.choices.find((c) => c.from <= (s.from + s.to) / 2 && c.to >= (s.from + s.to) / 2)
function choose(s: UnsureStretch, side: 'auto' | 'left' | 'right') {
  const before = choiceOf(s)
  if (side === 'auto') {
    if (before) piece.dispatch({ type: 'forget-choice', id: before.id })
    return
  }
  const air = 0.02 * (s.to - s.from)
  const reach = before ?? { id: newId(), from: s.from - air, to: s.to + air }
  piece.dispatch({ type: 'choose-side', choice: { ...reach, side } })
}
</script>

<template>
  <p v-if="stretches.length === 0" class="soft">
    Both edges agree from foot to top{{
      allAgree ? '' : `, but for stretches of less than ${SHORT} of the height`
    }}.
  </p>
  <ul v-else>
    <li v-for="(s, i) in stretches" :key="i">
      <button type="button" :aria-expanded="open === i" :data-testid="`stretch-${i + 1}`" @click="toggle(i)">
        {{ joined(s.sentence) }}
      </button>
      <div v-if="open === i" class="why">
        <p class="soft">{{ s.why }}</p>
        <ARadioGroup
          v-if="s.state === 'left' || s.state === 'right' || choiceOf(s)"
          size="small"
          :value="choiceOf(s)?.side ?? 'auto'"
          aria-label="Side to believe here"
          @update:value="(side) => choose(s, side)"
        >
          <ARadioButton value="left">left</ARadioButton>
          <ARadioButton value="auto">as found</ARadioButton>
          <ARadioButton value="right">right</ARadioButton>
        </ARadioGroup>
        <AButton v-else-if="s.state === 'bridged'" size="small" @click="bench.tool = 'edge'"
          >Draw it with the edge pen</AButton
        >
      </div>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: 4px;
  max-height: 260px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
button[aria-expanded] {
  width: 100%;
  padding: 4px 6px;
  border: 0;
  border-left: 3px dotted var(--doubt);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
button[aria-expanded='true'] {
  border-left-style: solid;
}
button[aria-expanded]:hover {
  background: color-mix(in srgb, var(--ink) 6%, transparent);
}
.why {
  display: grid;
  gap: 6px;
  justify-items: start;
  padding: 2px 6px 8px 9px;
}
.why p {
  margin: 0;
}
</style>

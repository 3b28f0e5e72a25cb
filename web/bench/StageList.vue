<script setup lang="ts">
import { STAGES, type Stage } from '../../core/piece/stages'
import { joined } from '../common/joined'
import { usePiece } from '../stores/piece'
import { STAGE_NAMES } from './stage-names'

/** The way from photo to files; each stage says whether it is done, waiting, or in doubt and why. */
defineProps<{ current: Stage }>()
const piece = usePiece()
const STATE_WORDS = { done: 'done', waiting: 'waiting', doubt: 'in doubt' }
</script>

<template>
  <nav aria-label="Stages">
    <ol>
      <li v-for="(stage, i) in STAGES" :key="stage">
        <RouterLink
          :to="{ name: 'bench', params: { id: piece.id, stage } }"
          replace
          class="stage"
          :class="[piece.stages[stage].state, { current: stage === current }]"
          :aria-current="stage === current ? 'step' : undefined"
          :data-testid="`stage-${stage}`"
        >
          <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true">
            <circle v-if="piece.stages[stage].state !== 'doubt'" cx="9" cy="9" r="7.2" class="mark" />
            <path v-else d="M9 1.4 17 16H1Z" class="mark" />
            <path v-if="piece.stages[stage].state === 'done'" d="M5.4 9.2 8 11.8l4.7-5.4" class="sign" />
            <path v-if="piece.stages[stage].state === 'doubt'" d="M9 6.4v4.4M9 12.8v.6" class="sign" />
          </svg>
          <span class="name"
            ><span class="number">{{ i + 1 }}</span> {{ STAGE_NAMES[stage] }}</span
          >
          <span class="visually-hidden">{{ STATE_WORDS[piece.stages[stage].state] }}:</span>
          <span class="sentence">{{ joined(piece.stages[stage].sentence) }}</span>
        </RouterLink>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
ol {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 8px;
  list-style: none;
}
.stage {
  display: grid;
  grid-template-columns: 22px 1fr;
  gap: 0 6px;
  align-items: center;
  padding: 8px 8px 9px;
  border-radius: 6px;
  color: var(--ink);
  text-decoration: none;
}
.stage:hover {
  background: color-mix(in srgb, var(--ink) 6%, transparent);
}
.stage.current {
  background: var(--card);
  box-shadow: var(--shadow);
}
.name {
  font-weight: 600;
}
.number {
  color: var(--ink-soft);
  font-weight: 400;
}
.sentence {
  grid-column: 2;
  color: var(--ink-soft);
  font-size: 12.5px;
  line-height: 1.35;
}
.mark {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1.4;
}
.sign {
  fill: none;
  stroke: var(--on-accent);
  stroke-linecap: round;
  stroke-width: 1.8;
}
.done .mark {
  fill: var(--accent);
  stroke: var(--accent);
}
.doubt .mark {
  fill: var(--doubt);
  stroke: var(--doubt);
  stroke-linejoin: round;
}
.doubt .sign {
  stroke: var(--paper);
}
.doubt .sentence {
  color: var(--doubt);
}
</style>

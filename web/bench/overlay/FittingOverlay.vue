<script setup lang="ts">
import { computed } from 'vue'
import { hobbyChain } from '../../../core/profile/hobby'
import { derivativeAt, pointAt } from '../../../core/profile/segments'
import { useFitting } from '../solid/use-fitting'
import TwoTone from './TwoTone.vue'

/** The fitting in hand over the photo: its way or outline, for a tube its breadth at each point, and its points. */
const fitting = useFitting()
const STEPS = 14

const points = computed(() => fitting.shape.value?.points ?? [])
const handles = computed(() => fitting.handles())
const path = (list: readonly (readonly [number, number])[], closed: boolean) =>
  list
    .map(([x, z], k) => {
      const { sx, sy } = fitting.toScreen(x, z)
      return `${k ? 'L' : 'M'}${sx.toFixed(1)} ${sy.toFixed(1)}`
    })
    .join('') + (closed ? 'Z' : '')

const way = computed(() => {
  const list = points.value
  if (list.length < 2) return ''
  const shape = fitting.shape.value!
  if (shape.kind === 'plate' && !shape.smooth)
    return path(
      list.map((p) => [p.x, p.z] as const),
      true,
    )
  const flat = list.flatMap((p) => [p.x, p.z])
  if (shape.kind === 'plate') flat.push(flat[0]!, flat[1]!)
  const cubics = hobbyChain(flat, 'free', 'free')
  return path(
    cubics.flatMap((c) => Array.from({ length: STEPS + 1 }, (_, i) => pointAt(c, i / STEPS))),
    false,
  )
})
/** Strokes across a tube's way, as broad as it is there. */
const breadths = computed(() => {
  const shape = fitting.shape.value
  if (shape?.kind !== 'tube' || shape.points.length < 2) return []
  const cubics = hobbyChain(
    shape.points.flatMap((p) => [p.x, p.z]),
    'free',
    'free',
  )
  return shape.points.map((p, k) => {
    const [dx, dz] = k < cubics.length ? derivativeAt(cubics[k]!, 0) : derivativeAt(cubics[k - 1]!, 1)
    const half = p.mm / 2 / (Math.hypot(dx, dz) || 1)
    return path([[p.x - half * dz, p.z + half * dx], [p.x + half * dz, p.z - half * dx]], false) // prettier-ignore
  })
})
</script>

<template>
  <g v-if="fitting.shape.value" data-testid="fitting">
    <TwoTone v-if="way" :d="way" colour="var(--line-modelled)" :width="1.8" />
    <TwoTone
      v-for="(d, i) in breadths"
      :key="i"
      :d="d"
      colour="var(--line-modelled)"
      :width="1.2"
      dash="4 3"
    />
    <circle
      v-for="h in handles"
      :key="h.index"
      class="point"
      :cx="h.at.sx"
      :cy="h.at.sy"
      r="6.5"
      data-testid="fitting-point"
    />
  </g>
</template>

<style scoped>
.point {
  fill: #fbf9f5;
  stroke: var(--line-modelled);
  stroke-width: 2;
  cursor: move;
}
</style>

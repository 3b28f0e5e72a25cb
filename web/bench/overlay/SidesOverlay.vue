<script setup lang="ts">
import { computed } from 'vue'
import { sidesOf } from '../../../core/piece/outline'
import { useView } from '../../composables/use-view'
import { useOutlineRead } from '../outline/use-outline-read'
import TwoTone from './TwoTone.vue'

/** Left and right edge as they were found, each mirrored onto the other side, and the half-profile that both give. */
const props = defineProps<{ sign: number }>()
const view = useView()
const { outline, read } = useOutlineRead()

const joined = (list: readonly { sx: number; sy: number }[]) =>
  `M${list.map(({ sx, sy }) => `${sx.toFixed(1)} ${sy.toFixed(1)}`).join('L')}`

const edges = computed(() => {
  if (!outline.value) return []
  const { left, right } = sidesOf(outline.value)
  return [left, right].map(({ points }) => {
    const own: { sx: number; sy: number }[] = []
    const twin: { sx: number; sy: number }[] = []
    for (let i = 0; i + 1 < points.length; i += 2) {
      const at = view.pictureToScreen({ x: points[i]!, y: points[i + 1]! })
      const p = view.screenToPlane(at)
      own.push(at)
      twin.push(view.planeToScreen({ x: -p.x, z: p.z }))
    }
    return { own: joined(own), twin: joined(twin) }
  })
})
const mean = computed(() =>
  read.value ? joined(read.value.points.map(([r, z]) => view.planeToScreen({ x: props.sign * r, z }))) : '',
)
</script>

<template>
  <g data-testid="sides">
    <template v-for="(edge, i) in edges" :key="i">
      <TwoTone :d="edge.own" colour="var(--line-measured)" :width="1.2" />
      <TwoTone :d="edge.twin" colour="var(--line-measured)" :width="1" dash="2 5" />
    </template>
    <TwoTone v-if="mean" :d="mean" colour="var(--line-measured)" :width="1.4" dash="8 4" />
  </g>
</template>

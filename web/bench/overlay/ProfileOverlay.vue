<script setup lang="ts">
import { computed } from 'vue'
import { formatLength } from '../../../core/units/format-length'
import { profileSegments } from '../../../core/profile/profile-segments'
import type { ProfileNode } from '../../../core/profile/profile'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { INSIDE, usePiece } from '../../stores/piece'
import { screenPath } from '../screen-path'
import { JOIN_PX } from '../snapping'
import type { PhotoTools } from '../use-photo-tools'
import MarkLabel from './MarkLabel.vue'
import TwoTone from './TwoTone.vue'

/** The half-profile over the photo with its mirrored ghost; with nodes while shaping. */
const props = defineProps<{
  width: number
  height: number
  editing: boolean
  tools: PhotoTools
}>()
const piece = usePiece()
const bench = useBench()
const view = useView()

const toScreen = (p: { x: number; z: number }) => view.planeToScreen(p)
const sign = computed(() => props.tools.profile.sign.value)
const path = computed(() => screenPath(piece.derived.segments, sign.value, toScreen))
const ghost = computed(() => screenPath(piece.derived.segments, -sign.value, toScreen))
/** While a part is in hand: the piece's own curve, on both sides, to draw beside. */
const body = computed(() =>
  piece.inHand === null
    ? []
    : [1, -1].map((s) => screenPath(piece.wholeDerived.segments, s, toScreen)).filter(Boolean),
)
/** The curve of the checkpoint that is compared. */
const compared = computed(() => {
  const state = piece.document.checkpoints.find((c) => c.id === bench.compared)?.state
  return state ? screenPath(profileSegments(state.profile.nodes), sign.value, toScreen) : ''
})
const pen = computed(() => screenPath(props.tools.profile.pen.preview.value, sign.value, toScreen))
const strokes = computed(() =>
  props.tools.profile.aside.value.map(({ id, segments }) => ({
    id,
    d: screenPath(segments, sign.value, toScreen),
  })),
)
const ends = computed(() => props.tools.profile.ends.value.map((end) => props.tools.profile.nodeScreen(end)))
const frame = computed(() => {
  const f = props.tools.profile.frame.value
  if (!f) return null
  const [x, y] = [Math.min(f.from.sx, f.to.sx), Math.min(f.from.sy, f.to.sy)]
  return { x, y, width: Math.abs(f.to.sx - f.from.sx), height: Math.abs(f.to.sy - f.from.sy) }
})
/** Nodes nearer to the one before than this are left out while there are many, px: they would cover each other. */
const APART_PX = 7
const MANY = 200
/** The nodes to draw, each with its index; of very many those that can be told apart, the chosen ones and the ends. */
const nodes = computed(() => {
  const list = piece.document.profile.nodes
  const { selected } = bench
  const apartMm = list.length > MANY ? APART_PX / bench.view.pxPerMm : 0
  const out: { node: ProfileNode; index: number; at: ScreenPoint }[] = []
  let last = list[0]
  list.forEach((node, index) => {
    const far = Math.hypot(node.r - last!.r, node.z - last!.z) >= apartMm
    if (!far && index > 0 && index < list.length - 1 && !selected.has(node.id)) return
    last = node
    const at = props.tools.profile.nodeScreen(node)
    if (apartMm === 0 || (at.sy > -20 && at.sy < props.height + 20)) out.push({ node, index, at })
  })
  return out
})

const bends = computed(() => props.tools.profile.bends.value)
/** How far neighbours follow the chosen nodes, when they do. */
const reaches = computed(() => {
  if (bench.reach <= 0 || bench.selected.size > 3) return []
  const radius = bench.reach * bench.view.pxPerMm
  return nodes.value
    .filter(({ node }) => bench.selected.has(node.id))
    .map(({ node, at }) => ({ id: node.id, at, radius }))
})
const via = computed(() => {
  const p = props.tools.profile.pen.via.value
  return p ? props.tools.profile.nodeScreen(p) : null
})

/** Dashed way from an open end to the axis. */
const gaps = computed(() => {
  const { nodes: list } = piece.document.profile
  // The inside ends open at the rim.
  const ends = piece.derived.openEnds.filter((e) => piece.inHand !== INSIDE || e.place !== 'top')
  return ends.map(({ end }) => {
    const node = end === 'first' ? list[0]! : list[list.length - 1]!
    const at = props.tools.profile.nodeScreen(node)
    return { end, at, d: `M${at.sx} ${at.sy}H${view.planeToScreen({ x: 0, z: 0 }).sx}` }
  })
})

/** Corners are square, smooth nodes round, ends on the axis lozenges: kind is seen without colour. */
function shape(node: ProfileNode, { sx, sy }: ScreenPoint): string {
  if (node.r === 0) return `M${sx - 8} ${sy}L${sx} ${sy - 8}L${sx + 8} ${sy}L${sx} ${sy + 8}Z`
  if (node.joint === 'corner') return `M${sx - 6} ${sy - 6}h12v12h-12Z`
  return `M${sx - 6.5} ${sy}a6.5 6.5 0 1 0 13 0a6.5 6.5 0 1 0 -13 0Z`
}

function describe(node: ProfileNode, index: number): string {
  const { unit } = piece.document
  const diameter = formatLength(2 * node.r, { unit })
  return `Node ${index + 1}, ${node.joint}, ${node.r === 0 ? 'on the axis' : `⌀ ${diameter}`}, height ${formatLength(node.z, { unit })}`
}

/** By how much several nodes or a segment are being moved. */
const shift = computed(() => {
  const m = props.tools.profile.moved.value
  if (!m || !props.tools.dragging.value) return null
  const { unit } = piece.document
  const signed = (mm: number) =>
    `${mm < 0 ? '−' : '+'}${formatLength(Math.abs(mm), { unit, withUnit: false })}`
  return { at: m.at, text: `⌀ ${signed(2 * m.dr)}  ↥ ${signed(m.dz)}` }
})

const tag = computed(() => {
  const p = props.tools.profile.snap.value
  if (!p) return null
  const { unit } = piece.document
  const diameter = p.r === 0 ? '' : `⌀ ${formatLength(2 * p.r, { unit, withUnit: false })}  `
  const at = view.planeToScreen({ x: sign.value * p.r, z: p.z })
  return {
    at,
    guides: p.guides.map((g) => props.tools.profile.nodeScreen(g)),
    text: `${diameter}↥ ${formatLength(p.z, { unit })}${p.to.length ? `  ${[...new Set(p.to)].join(', ')}` : ''}`,
  }
})
</script>

<template>
  <g>
    <g opacity="0.75"
      ><TwoTone v-if="ghost" :d="ghost" colour="var(--line-modelled)" :width="1" dash="5 4"
    /></g>
    <g opacity="0.6" data-testid="body-beside"
      ><TwoTone v-for="(d, i) in body" :key="i" :d="d" colour="var(--line-measured)" :width="1.2" dash="8 3"
    /></g>
    <TwoTone v-if="compared" :d="compared" colour="var(--line-known)" :width="1.6" dash="7 3 2 3" />
    <TwoTone v-if="path" :d="path" colour="var(--line-modelled)" :width="2" data-testid="profile-path" />
    <template v-if="editing">
      <g v-for="gap in gaps" :key="gap.end">
        <TwoTone :d="gap.d" colour="var(--line-doubt)" :width="1.6" dash="3 5" />
        <MarkLabel
          v-if="bench.tool !== 'pen' && !tools.dragging.value"
          :sx="gap.at.sx"
          :sy="gap.at.sy"
          text="open !"
          colour="var(--line-doubt)"
          :dy="-18"
          :pane-width="width"
          :pane-height="height"
        />
      </g>
      <g v-for="stroke in strokes" :key="stroke.id" opacity="0.8" data-testid="stroke">
        <TwoTone :d="stroke.d" colour="var(--line-modelled)" :width="1.6" dash="2 4" />
      </g>
      <circle v-for="(end, i) in ends" :key="`end ${i}`" class="end" :cx="end.sx" :cy="end.sy" :r="JOIN_PX" />
      <TwoTone
        v-if="bench.tool === 'pen' && tools.profile.pen.edgeWay.value"
        :d="tools.profile.pen.edgeWay.value"
        data-testid="edge-way"
        colour="var(--line-measured)"
        :width="1.6"
        dash="6 4"
      />
      <TwoTone v-if="pen" :d="pen" colour="var(--line-modelled)" :width="1.6" dash="6 4" />
      <circle
        v-for="c in reaches"
        :key="`reach ${c.id}`"
        class="reach"
        :cx="c.at.sx"
        :cy="c.at.sy"
        :r="c.radius"
      />
      <g v-for="b in bends" :key="`${b.bend.id} ${b.bend.end}`">
        <path class="stalk" :d="`M${b.from.sx} ${b.from.sy}L${b.at.sx} ${b.at.sy}`" />
        <circle class="bend" :cx="b.at.sx" :cy="b.at.sy" r="5" data-testid="bend" />
      </g>
      <circle v-if="via" class="bend" :cx="via.sx" :cy="via.sy" r="4" />
      <path
        v-for="{ node, at, index } in nodes"
        :key="node.id"
        :d="shape(node, at)"
        class="node"
        :class="{ selected: bench.selected.has(node.id) }"
        tabindex="0"
        role="button"
        :aria-label="describe(node, index)"
        :aria-pressed="bench.selected.has(node.id)"
        @focus="!bench.selected.has(node.id) && bench.select(node.id)"
      />
      <circle
        v-if="tools.profile.insertAt.value"
        class="insert"
        :cx="tools.profile.insertAt.value.at.sx"
        :cy="tools.profile.insertAt.value.at.sy"
        r="5"
      />
      <rect v-if="frame" class="frame" v-bind="frame" />
      <MarkLabel
        v-if="shift"
        :sx="shift.at.sx"
        :sy="shift.at.sy"
        :text="shift.text"
        :dy="-24"
        :pane-width="width"
        :pane-height="height"
      />
      <g v-if="tag">
        <path
          v-for="(g, i) in tag.guides"
          :key="i"
          class="guide"
          :d="`M${g.sx} ${g.sy}L${tag.at.sx} ${tag.at.sy}`"
        />
        <path
          v-if="bench.tool === 'pen' && !tools.dragging.value"
          class="aim"
          :d="`M${tag.at.sx - 6} ${tag.at.sy}h12M${tag.at.sx} ${tag.at.sy - 6}v12`"
        />
        <MarkLabel
          :sx="tag.at.sx"
          :sy="tag.at.sy"
          :text="tag.text"
          :dy="24"
          :pane-width="width"
          :pane-height="height"
        />
      </g>
    </template>
  </g>
</template>

<style scoped>
.node {
  fill: #fbf9f5;
  stroke: var(--line-modelled);
  stroke-width: 2;
  outline: none;
  cursor: move;
}
.node.selected {
  fill: var(--line-modelled);
  stroke: #fbf9f5;
  filter: drop-shadow(0 0 1.5px #2b2723);
}
.node:focus-visible {
  stroke-width: 3.5;
}
.insert {
  fill: rgb(255 255 255 / 0.7);
  stroke: var(--line-modelled);
  stroke-dasharray: 2 2;
  stroke-width: 1.6;
}
.bend {
  fill: #fbf9f5;
  stroke: var(--line-modelled);
  stroke-width: 1.6;
  cursor: move;
}
.reach {
  fill: color-mix(in srgb, var(--line-modelled) 9%, transparent);
  stroke: var(--line-modelled);
  stroke-dasharray: 4 4;
  pointer-events: none;
}
.end,
.frame {
  fill: color-mix(in srgb, var(--line-modelled) 12%, transparent);
  stroke: var(--line-modelled);
  stroke-width: 1.2;
  stroke-dasharray: 3 3;
  pointer-events: none;
}
.guide {
  stroke: var(--line-modelled);
  stroke-width: 1.2;
  stroke-dasharray: 1 4;
  stroke-linecap: round;
}
.stalk {
  stroke: var(--line-modelled);
  stroke-width: 1;
  filter: drop-shadow(0 0 1px #fbf9f5);
}
.aim {
  stroke: #2b2723;
  stroke-width: 1.2;
}
</style>

import { defineStore } from 'pinia'
import { reactive, ref, shallowRef } from 'vue'
import type { PicturePoint } from '../../core/conventions'
import type { SegmentKind } from '../../core/profile/profile'

/** Tools that take clicks on the photo. */
export const TOOLS = [
  'none',
  'plumb',
  'ground',
  'size',
  'pairs',
  'level',
  'ring',
  'lens',
  'dividers',
  'crop',
  'edge',
  'paint-piece',
  'paint-backdrop',
  'mark',
  'pen',
  'fitting',
] as const
export type Tool = (typeof TOOLS)[number]

/** How the photo is looked at; its stored pixels stay as they are. Shares: 1 is unchanged. */
export interface Judging {
  brightness: number
  contrast: number
  /** Opens the darks: exponent 1 / darks. */
  darks: number
  grey: boolean
  /** Opacity of the photo. */
  dim: number
  edges: boolean
  /** Tints what is white, so that light lines and backdrops stand out. */
  tint: boolean
  loupe: boolean
}
export const PLAIN_JUDGING: Judging = {
  brightness: 1,
  contrast: 1,
  darks: 1,
  grey: false,
  dim: 1,
  edges: false,
  tint: false,
  loupe: true,
}

/**
 * What both panes show of the world. One height scale for both: `pxPerMm` and `groundY` are common, each pane has
 * only its own place of the axis. Screen px within a pane, y down.
 */
export interface View {
  pxPerMm: number
  groundY: number
  photoAxisX: number
  solidAxisX: number
}

/** State of the bench that isn't part of the piece. */
export const useBench = defineStore('bench', () => {
  const view = reactive<View>({ pxPerMm: 1, groundY: 500, photoAxisX: 200, solidAxisX: 200 })
  /** Somebody zoomed or moved the view since it was fitted. */
  const viewMoved = ref(false)
  const tool = ref<Tool>('none')
  /** What the pen draws next; `edge` follows the photo's edge. */
  const penKind = ref<SegmentKind | 'edge'>('line')
  /** Nodes snap to multiples of the step in height and radius, mm; 0: to none. */
  const gridMm = ref(0)
  const selected = shallowRef<ReadonlySet<string>>(new Set())
  /** True while the pointer holds a mark, a node or a handle. */
  const dragging = ref(false)
  /** Neighbours of dragged nodes follow within this, mm; 0: only the chosen ones move. */
  const reach = ref(0)
  /** Shown over the photo: how far the outline lies from the curve. */
  const comb = ref(false)
  /** Shown over the photo: both edges, mirrored onto each other, and their mean. */
  const sides = ref(false)
  /** Shown over the photo: how strongly the curve bends. */
  const curvature = ref(false)
  const chart = ref(false)
  /** The checkpoint that is laid over the present state. */
  const compared = ref<string | null>(null)
  /** Height of the level line under the pointer, mm, or null when the pointer is elsewhere. */
  const level = ref<number | null>(null)
  /** What the vessel is filled with: up to a height, or with a volume. */
  const filling = ref<{ by: 'level'; mm: number } | { by: 'volume'; mm3: number } | null>(null)
  /** `cut` is how much is cut away for looking, radians, from `cutFrom` less that on; 0: nothing. */
  const solid = reactive({
    azimuth: 0.5,
    elevation: 0,
    wire: false,
    /** What surfaces show: plain colours that tell them apart, their materials, or the body's figures. */
    surface: 'plain' as 'plain' | 'materials' | 'thickness' | 'deviation' | 'check',
    /** The mesh of quads is shown in place of the solid, subdivided so many times; null: it isn't. */
    cage: null as number | null,
    /** One of COMPANIONS that stands beside the piece, to feel its size. */
    companion: null as string | null,
    photoBeneath: false,
    opacity: 0.7,
    cut: 0,
    cutFrom: 0,
  })
  const judging = reactive<Judging>({ ...PLAIN_JUDGING })
  /** What the dividers hold, picture px. */
  const dividers = shallowRef<{ a: PicturePoint; b: PicturePoint } | null>(null)
  /** The known size whose row is open. */
  const chosenSize = ref<string | null>(null)
  /** Stretch of the outline that is pointed out, heights in mm. */
  const stretch = shallowRef<{ from: number; to: number } | null>(null)
  const sheetOpen = ref(false)
  /** The fitting whose points are shown over the photo. */
  const fitting = ref<string | null>(null)
  /** Which side of the solid its panel shows. */
  const solidSheet = ref<'body' | 'parts' | 'zones' | 'look'>('body')

  function select(...ids: string[]) {
    selected.value = new Set(ids)
  }
  function reset() {
    tool.value = 'none'
    selected.value = new Set()
    reach.value = 0
    gridMm.value = 0
    penKind.value = 'line'
    comb.value = false
    curvature.value = false
    sides.value = false
    chart.value = false
    compared.value = null
    level.value = null
    filling.value = null
    solid.elevation = 0
    solid.cut = 0
    solid.cage = null
    solidSheet.value = 'body'
    dividers.value = null
    chosenSize.value = null
    stretch.value = null
    Object.assign(judging, PLAIN_JUDGING)
  }
  return {
    view,
    viewMoved,
    tool,
    penKind,
    gridMm,
    selected,
    reach,
    dragging,
    comb,
    curvature,
    sides,
    chart,
    compared,
    level,
    filling,
    solid,
    solidSheet,
    fitting,
    judging,
    dividers,
    chosenSize,
    stretch,
    sheetOpen,
    select,
    reset,
  }
})

import { defineStore } from 'pinia'
import { reactive, ref, shallowRef } from 'vue'
import type { SegmentKind } from '../../core/profile/profile'

/** Tools that take clicks on the photo. */
export type Tool = 'none' | 'plumb' | 'ground' | 'size' | 'pen'

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
  const tool = ref<Tool>('none')
  const penKind = ref<SegmentKind>('line')
  const selected = shallowRef<ReadonlySet<string>>(new Set())
  /** Height of the level line under the pointer, mm, or null when the pointer is elsewhere. */
  const level = ref<number | null>(null)
  const solid = reactive({ azimuth: 0.5, elevation: 0, wire: false, photoBeneath: false, opacity: 0.7 })
  const sheetOpen = ref(false)

  function select(...ids: string[]) {
    selected.value = new Set(ids)
  }
  function reset() {
    tool.value = 'none'
    selected.value = new Set()
    level.value = null
    solid.elevation = 0
  }
  return { view, tool, penKind, selected, level, solid, sheetOpen, select, reset }
})

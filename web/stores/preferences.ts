import { useLocalStorage, usePreferredDark } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watchEffect } from 'vue'
import type { Bed } from '../../core/measure/printing'
import type { Deliverable } from '../../core/piece/deliver'
import { USUAL_AXES, type MeshAxes } from '../../core/piece/hand-over'
import type { Paper } from '../../core/sheet/paper'
import type { DisplayUnit } from '../../core/units/units'

/** What belongs to this browser and not to a piece. */
export const usePreferences = defineStore('preferences', () => {
  const theme = useLocalStorage<'system' | 'light' | 'dark'>('baldacchino-theme', 'system')
  /** The unit that new pieces start with. */
  const unit = useLocalStorage<DisplayUnit>('baldacchino-unit', 'mm')
  /** The printer's room, mm; a common size to begin with (no source). */
  const bed = useLocalStorage<Bed>('baldacchino-bed', { width: 220, depth: 220, height: 250 })
  /** The formats that were last handed over together. */
  const formats = useLocalStorage<Deliverable[]>('baldacchino-formats', ['3mf', 'step', 'section.pdf'])
  /** How files were last written. */
  const axes = useLocalStorage<MeshAxes>('baldacchino-axes', USUAL_AXES)
  const paper = useLocalStorage<Paper>('baldacchino-paper', 'A4')
  const systemDark = usePreferredDark()
  const dark = computed(() => theme.value === 'dark' || (theme.value === 'system' && systemDark.value))
  watchEffect(() => {
    document.documentElement.dataset.theme = dark.value ? 'dark' : 'light'
  })
  function toggle() {
    theme.value = dark.value ? 'light' : 'dark'
  }
  return { theme, unit, bed, formats, axes, paper, dark, toggle }
})

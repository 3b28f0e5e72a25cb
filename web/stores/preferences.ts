import { useLocalStorage, usePreferredDark } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watchEffect } from 'vue'
import type { DisplayUnit } from '../../core/units/units'

/** What belongs to this browser and not to a piece. */
export const usePreferences = defineStore('preferences', () => {
  const theme = useLocalStorage<'system' | 'light' | 'dark'>('baldacchino-theme', 'system')
  /** The unit that new pieces start with. */
  const unit = useLocalStorage<DisplayUnit>('baldacchino-unit', 'mm')
  const systemDark = usePreferredDark()
  const dark = computed(() => theme.value === 'dark' || (theme.value === 'system' && systemDark.value))
  watchEffect(() => {
    document.documentElement.dataset.theme = dark.value ? 'dark' : 'light'
  })
  function toggle() {
    theme.value = dark.value ? 'light' : 'dark'
  }
  return { theme, unit, dark, toggle }
})

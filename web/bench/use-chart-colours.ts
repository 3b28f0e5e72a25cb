import { Chart as ChartJS } from 'chart.js'
import { computed } from 'vue'
import { usePreferences } from '../stores/preferences'

ChartJS.defaults.font.family = "'Figtree Variable', sans-serif"

/** The app's colours by meaning for charts, in step with light and dark. */
export function useChartColours() {
  const preferences = usePreferences()
  return computed(() => {
    void preferences.dark
    const style = getComputedStyle(document.documentElement)
    const of = (name: string) => style.getPropertyValue(name).trim()
    return { measured: of('--measured'), modelled: of('--modelled'), doubt: of('--doubt'), ink: of('--ink-soft'), rule: of('--rule') } // prettier-ignore
  })
}

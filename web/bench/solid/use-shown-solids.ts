import { computed } from 'vue'
import type { ShownSolid } from '../../composables/use-solid-scene'
import { useBench } from '../../stores/bench'
import { usePreferences } from '../../stores/preferences'
import { paintColours, paintScale } from './paint-scale'
import { surfaceLooks } from './surface-looks'
import { useBuild } from './use-build'
import { useLaidPictures } from './use-laid-pictures'

/** The solids with the look that was chosen for them: for the pane, and for pictures of it. */
export function useShownSolids() {
  const bench = useBench()
  const preferences = usePreferences()
  const { built } = useBuild()
  const { pictures } = useLaidPictures()
  const scale = computed(() => paintScale(built.value, bench.solid.surface === 'deviation'))
  const solids = computed((): ShownSolid[] =>
    (built.value?.solids ?? []).map((s) => ({
      ...s,
      colours: s.values && scale.value ? paintColours(s.values, scale.value) : undefined,
    })),
  )
  const looks = computed(() => {
    const { surface } = bench.solid
    return surfaceLooks(built.value?.surfaces ?? [], {
      dark: preferences.dark,
      shows: surface === 'check' || surface === 'materials' ? surface : 'plain',
      painted: scale.value !== null,
      pictures: pictures.value,
    })
  })
  return { built, scale, solids, looks }
}

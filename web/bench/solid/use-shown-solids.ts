import { computed } from 'vue'
import type { ProfileMeasures } from '../../../core/measure/profile-measures'
import type { ShownSolid } from '../../composables/use-solid-scene'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { usePreferences } from '../../stores/preferences'
import { paintColours, paintScale } from './paint-scale'
import { surfaceLooks } from './surface-looks'
import { useBuild } from './use-build'
import { useLaidPictures } from './use-laid-pictures'

/** A wall is as thick as twice its volume over both its faces; of a ball that is two thirds of the radius. */
const meanThickness = (m: ProfileMeasures | null) => (m ? (2 * m.volumeMm3) / m.areaMm2 : undefined)

/**
 * The solids with the look that was chosen for them: for the pane, and for pictures of it.
 * @param bends whether glass bends what is behind it, which must be there then; else it is seen through
 */
export function useShownSolids(bends: () => boolean = () => false) {
  const bench = useBench()
  const piece = usePiece()
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
      bendsMm: bends() ? meanThickness(piece.wholeDerived.measures) : undefined,
      pictures: pictures.value,
    })
  })
  return { built, scale, solids, looks }
}

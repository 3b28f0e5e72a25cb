import { computed } from 'vue'
import { readOutline } from '../../../core/piece/outline'
import { unsureStretches } from '../../../core/piece/outline-report'
import { usePiece } from '../../stores/piece'

/** What the outline of the piece says through its calibration: the half-profile, and where it is unsure. */
export function useOutlineRead() {
  const piece = usePiece()
  const outline = computed(() => piece.document.outline)
  const read = computed(() =>
    outline.value ? readOutline(outline.value, piece.derived.calibration.view) : null,
  )
  const stretches = computed(() => {
    const unit = piece.derived.calibration.known.scale ? piece.document.unit : 'px'
    return read.value ? unsureStretches(read.value, unit) : []
  })
  return { outline, read, stretches }
}

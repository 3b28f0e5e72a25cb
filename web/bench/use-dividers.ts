import { computed } from 'vue'
import { MARK_SD_PX } from '../../core/calibrate/known-size'
import { toPlane, toUprightPlane } from '../../core/camera/view'
import { formatLength } from '../../core/units/format-length'
import { decimalUnit } from '../../core/units/units'
import { useView } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'

/** What the dividers read between their two points, with its standard error from the scale and the marks. */
export function useDividers() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  return computed(() => {
    const held = bench.dividers
    if (!held) return null
    const { calibration } = piece.derived
    const a = toUprightPlane(view.seen.value, held.a, 0)
    const b = toUprightPlane(view.seen.value, held.b, 0)
    const sides = [toPlane(view.seen.value, held.a).x, toPlane(view.seen.value, held.b).x] as const
    const length = Math.hypot(b.x - a.x, b.z - a.z)
    const angle = (Math.atan2(Math.abs(b.z - a.z), Math.abs(b.x - a.x)) * 180) / Math.PI
    const marks = Math.SQRT2 * MARK_SD_PX * calibration.frame.mmPerPx
    const pm = (mm: number) => Math.hypot(marks, (calibration.scale?.relativeSe ?? 0) * mm)
    const scaled = calibration.known.scale
    const { unit } = piece.document
    const show = (mm: number) =>
      scaled
        ? `${formatLength(mm, { unit })} ± ${formatLength(pm(mm), { unit: decimalUnit(unit) })}`
        : `${(mm / calibration.frame.mmPerPx).toFixed(1)} px`
    const across = sides[0] * sides[1] < 0 && angle < 15
    const diameter = Math.abs(sides[0] - sides[1])
    return {
      short: across ? `⌀ ${show(diameter)}` : show(length),
      rows: [
        { name: 'Length', value: show(length) },
        { name: 'Height', value: show(Math.abs(b.z - a.z)) },
        ...(across ? [{ name: '⌀ at the side', value: show(diameter) }] : []),
        {
          name: 'Angle',
          value: `${angle.toFixed(2)}° from level, ${(90 - angle).toFixed(2)}° from the axis`,
        },
      ],
    }
  })
}

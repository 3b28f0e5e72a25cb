import { computed } from 'vue'
import { formatLength } from '../../core/units/format-length'
import type { DisplayUnit } from '../../core/units/units'
import { usePiece } from '../stores/piece'
import { useVessel } from './solid/use-vessel'

const MM3_PER_IN3 = 25.4 ** 3

/** The unit of volumes beside lengths of a unit, and its mm³. */
export function volumeUnit(unit: DisplayUnit): { name: string; mm3: number } {
  return unit === 'mm' || unit === 'cm' || unit === 'm' ? { name: 'ml', mm3: 1000 } : { name: 'in³', mm3: MM3_PER_IN3 } // prettier-ignore
}

/** A volume in the unit people expect beside these lengths: millilitres, or cubic inches. */
export function formatVolume(mm3: number, unit: DisplayUnit): string {
  const { name, mm3: one } = volumeUnit(unit)
  return `${figures4(mm3 / one)} ${name}`
}

export function formatArea(mm2: number, unit: DisplayUnit): string {
  if (unit === 'mm' || unit === 'cm' || unit === 'm') return `${figures4(mm2 / 100)} cm²`
  return `${figures4(mm2 / 25.4 ** 2)} in²`
}

/** Four figures, without exponents for usual sizes. */
function figures4(value: number): string {
  const digits = Math.max(0, 3 - Math.floor(Math.log10(Math.max(Math.abs(value), 1e-9))))
  return value.toFixed(Math.min(digits, 6))
}

/** The measures in words; null without a solid. Without a scale lengths are pixels and there is no volume. */
export function useFigures() {
  const piece = usePiece()
  const { body } = useVessel()
  return computed(() => {
    const m = piece.wholeDerived.measures
    if (!m) return null
    const { unit } = piece.whole
    const scaled = piece.wholeDerived.calibration.known.scale
    const length = (mm: number) => (scaled ? formatLength(mm, { unit }) : `${mm.toFixed(1)} px`)
    return {
      scaled,
      height: length(m.heightMm),
      diameter: length(2 * m.maxRadiusMm),
      radius: length(m.maxRadiusMm),
      at: length(m.maxRadiusAtMm),
      lowest: length(m.lowestMm),
      volume: scaled ? formatVolume(body.value?.volumeMm3 ?? m.volumeMm3, unit) : '–',
      area: scaled ? formatArea(body.value?.areaMm2 ?? m.areaMm2, unit) : '–',
    }
  })
}

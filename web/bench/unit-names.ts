import type { DisplayUnit } from '../../core/units/units'

export const UNIT_NAMES: Record<DisplayUnit, string> = {
  mm: 'millimetres',
  cm: 'centimetres',
  m: 'metres',
  in: 'inches, decimal',
  'in-16': 'inches, sixteenths',
  'in-32': 'inches, thirty-seconds',
}

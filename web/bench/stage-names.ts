import type { Stage } from '../../core/piece/stages'

export const STAGE_NAMES: Record<Stage, string> = {
  photo: 'Photo',
  calibrate: 'Calibrate',
  outline: 'Outline',
  profile: 'Half-profile',
  solid: 'Solid',
  check: 'Check',
  'hand-over': 'Hand over',
}

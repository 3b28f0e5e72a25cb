import type { Problem } from '../errors'
import type { Segment } from '../profile/segments'

/** A curve as a file has it: x to the right, y up, in the file's own unit. */
export interface DrawnCurve {
  /** One chain, each segment beginning where the one before ends. */
  segments: Segment[]
  /** What one unit is, where the file says so. */
  mmPerUnit: number | null
  /** The file says that x is the radius and y the height from the ground: nothing needs to be placed. */
  placed: boolean
  /** What was left out or taken otherwise, in words. */
  notes: string[]
}

/** More than any drawing of a profile has; beyond it a file is something else. */
export const MOST_FILE_BYTES = 20 * 1024 * 1024
export const MOST_ELEMENTS = 100_000

/** A refusal: what is wrong with the file, where, and what to do. */
export const refusal = (code: string, message: string, where?: string): Problem => ({ code, message, where })

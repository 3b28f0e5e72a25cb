import { describe, expect, it } from 'vitest'
import { solveCalibration } from '../calibrate/calibrate'
import { applyToCalibration, type CalibrationCommand } from './commands'
import { newPiece, type PiecePhoto } from './schema'
import { rememberSolved, solvedOf } from './solved'

const photo: PiecePhoto = {
  sha256: 'a'.repeat(64),
  fileName: 'side.jpg',
  mediaType: 'image/jpeg',
  width: 1200,
  height: 1600,
  quarterTurns: 0,
  crop: null,
  focalLength35mm: 85,
}
const withPhoto = () => newPiece('Vase', photo)
const found: CalibrationCommand = {
  type: 'set-plumb',
  plumb: { foot: { x: 600, y: 1500 }, top: { x: 604, y: 100 }, by: 'hand' },
}

describe('a calibration that was solved ahead', () => {
  it('is taken over by a document that has the same values later', () => {
    const document = withPhoto()
    const ahead = applyToCalibration(document, found)
    const solved = solveCalibration(ahead.calibration, photo)
    // As it comes back from a worker.
    rememberSolved(structuredClone(ahead.calibration), photo, solved)
    const later = applyToCalibration(document, found)
    expect(later.calibration).not.toBe(ahead.calibration)
    expect(solvedOf(later)).toBe(solved)
    expect(solvedOf(later)).toBe(solved)
  })

  it('is not taken for another one, nor for another photo', () => {
    const document = withPhoto()
    const ahead = applyToCalibration(document, found)
    const solved = solveCalibration(ahead.calibration, photo)
    rememberSolved(ahead.calibration, photo, solved)
    const moved = applyToCalibration(document, {
      ...found,
      plumb: { foot: { x: 610, y: 1500 }, top: { x: 604, y: 100 }, by: 'hand' },
    } as CalibrationCommand)
    expect(solvedOf(moved)).not.toBe(solved)
    expect(solvedOf(moved)!.tilt).not.toBe(solved.tilt)
    const other = { ...applyToCalibration(document, found), photo: { ...photo, width: 1400 } }
    expect(solvedOf(other)).not.toBe(solved)
    expect(solvedOf({ ...document, photo: null })).toBeUndefined()
  })
})

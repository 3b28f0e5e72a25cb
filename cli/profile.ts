import { readFileSync } from 'node:fs'
import exifr from 'exifr'
import sharp from 'sharp'
import { focalOf, solveCalibration } from '../core/calibrate/calibrate'
import { EMPTY_CALIBRATION, type Calibration } from '../core/calibrate/calibration'
import { newKnownSize } from '../core/calibrate/known-size'
import { readProfile } from '../core/calibrate/read-profile'
import { searchPhoto } from '../core/camera/search-photo'

export interface ProfileOptions {
  heightMm: number
  /** Camera to axis, mm; null when not measured. */
  distanceMm: number | null
  view: 'distant' | 'near'
  /** The axis lies level in the picture, the top to the right. */
  lying: boolean
}

/** The half-profile of the piece in a photo, as data for a file. @throws CoreError when no piece is found */
export async function profileOfPhoto(file: string, options: ProfileOptions) {
  const bytes = readFileSync(file)
  const { data, info } = await sharp(bytes).rotate().ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  const tags = (await exifr.parse(bytes, ['FocalLengthIn35mmFormat']).catch(() => null)) as {
    FocalLengthIn35mmFormat?: number
  } | null
  const photo = {
    width: info.width,
    height: info.height,
    quarterTurns: options.lying ? 3 : 0,
    focalLength35mm: tags?.FocalLengthIn35mmFormat ?? null,
  }
  const f = focalOf(EMPTY_CALIBRATION, photo)
  const near = options.view === 'near' && f !== null
  const centre = { x: photo.width / 2, y: photo.height / 2 }
  const found = searchPhoto(
    {
      width: info.width,
      height: info.height,
      data: new Uint8Array(data.buffer, data.byteOffset, data.length),
    },
    {
      up: options.lying ? { x: 1, y: 0 } : { x: 0, y: -1 },
      eye: near ? { f, centre } : null,
      pointsAlong: 1500,
    },
  )
  const calibration: Calibration = {
    ...EMPTY_CALIBRATION,
    plumb: { ...found.plumb, by: 'found' },
    ground: found.foot,
    rings: found.rings.map((r, i) => ({ ...r, id: String(i), by: 'found' })),
    knownSizes: [
      newKnownSize({
        id: 'height',
        kind: 'overall',
        a: found.foot,
        b: found.top,
        mm: options.heightMm,
        source: 'caliper',
      }),
    ],
    view: {
      ...EMPTY_CALIBRATION.view,
      kind: near ? 'near' : 'distant',
      distanceMm: near ? options.distanceMm : null,
      distanceSdMm: 0.005 * (options.distanceMm ?? 0),
    },
  }
  const solved = solveCalibration(calibration, photo)
  const profile = readProfile(found, solved.view)
  return {
    unit: 'mm',
    view: solved.view.kind,
    tiltAssumed: solved.near?.assumed.pitch ?? null,
    notes: solved.problems.map((p) => p.message),
    profile: profile.map(([r, z]) => [round(r), round(z)]),
  }
}

const round = (mm: number) => Math.round(mm * 1e5) / 1e5

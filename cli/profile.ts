import { readFileSync } from 'node:fs'
import exifr from 'exifr'
import sharp from 'sharp'
import { autoProfile, type AutoFacts, type AutoProfile } from '../core/calibrate/auto-profile'
import { volumeOf } from '../core/calibrate/camera-effect'
import type { AxisLine } from '../core/outline/axis-line'
import type { PicturePoint } from '../core/conventions'
import { unsureStretches, seenShare } from '../core/piece/outline-report'
import { CoreError } from '../core/errors'

export interface ProfileOptions {
  /** One of the two, mm. */
  heightMm: number | null
  diameterMm: number | null
  /** Camera to axis, mm; null when not measured. */
  distanceMm: number | null
  view: 'auto' | 'distant' | 'near'
  focalLength35mm: number | null
  k1: number
  principalPoint: PicturePoint | null
  /** Where the piece's top lies when its axis is level in the picture; null when it is upright. */
  top: 'left' | 'right' | null
  axis: { foot: PicturePoint; top: PicturePoint } | null
}

/** The result as data for a file; lengths in mm, picture positions in px of the upright picture. */
export interface ProfileResult {
  unit: 'mm'
  profile: [number, number][]
  height: number
  maxDiameter: number
  volume: number
  view: {
    kind: 'distant' | 'near'
    mmPerPx: number
    focalPx?: number
    focalSdPx?: number
    distance?: number
    height?: number
    pitchDegrees?: number
    pitchSdDegrees?: number
    pitchAssumed?: boolean
  }
  outline: {
    axis: { foot: PicturePoint; top: PicturePoint }
    sdPx: number
    blurPx: number
    seenShare: number
    unsure: { from: number; to: number; state: string; why: string }[]
  }
  warnings: string[]
}

/** The half-profile of the piece in a photo. @throws CoreError when the file is no picture or no piece is found */
export async function profileOfPhoto(file: string, options: ProfileOptions): Promise<ProfileResult> {
  const bytes = readFileSync(file)
  const { data, info } = await decoded(bytes, file)
  const tags = (await exifr.parse(bytes, ['FocalLengthIn35mmFormat']).catch(() => null)) as {
    FocalLengthIn35mmFormat?: number
  } | null
  const { top, axis } = options
  const up = top === null ? { x: 0, y: -1 } : { x: top === 'right' ? 1 : -1, y: 0 }
  const facts: AutoFacts = {
    photo: {
      width: info.width,
      height: info.height,
      quarterTurns: top === 'right' ? 3 : top === 'left' ? 1 : 0,
      focalLength35mm: tags?.FocalLengthIn35mmFormat ?? null,
      ...(options.principalPoint ? { principalPoint: options.principalPoint } : {}),
    },
    heightMm: options.heightMm,
    diameterMm: options.diameterMm,
    view: options.view,
    distanceMm: options.distanceMm,
    focalLength35mm: options.focalLength35mm,
    k1: options.k1,
    up,
    axis: axis && axisLine(axis),
  }
  const raster = {
    width: info.width,
    height: info.height,
    data: new Uint8Array(data.buffer, data.byteOffset, data.length),
  }
  return resultOf(autoProfile(raster, facts))
}

async function decoded(bytes: Buffer, file: string) {
  try {
    return await sharp(bytes).rotate().ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  } catch (error) {
    throw new CoreError({
      code: 'picture-unreadable',
      message: `“${file}” is no picture that can be read (${(error as Error).message.split('\n')[0]}). JPEG, PNG, WebP, TIFF and AVIF are.`,
      where: 'photo',
    })
  }
}

function axisLine({ foot, top }: { foot: PicturePoint; top: PicturePoint }): AxisLine {
  const length = Math.hypot(top.x - foot.x, top.y - foot.y)
  return {
    at: { x: (foot.x + top.x) / 2, y: (foot.y + top.y) / 2 },
    up: { x: (top.x - foot.x) / length, y: (top.y - foot.y) / length },
  }
}

function resultOf({ found, solved, read, profile, warnings }: AutoProfile): ProfileResult {
  const { view, near } = solved
  const scale = profile[profile.length - 1]![1] / (read.top - read.foot)
  const sds = [...read.half.sd].filter(Number.isFinite).sort((a, b) => a - b)
  const stretches = unsureStretches(read, 'mm')
  return {
    unit: 'mm',
    profile: profile.map(([r, z]) => [round(r, 5), round(z, 5)]),
    height: round(profile[profile.length - 1]![1], 5),
    maxDiameter: round(2 * Math.max(...profile.map((p) => p[0])), 5),
    volume: round(volumeOf(profile), 3),
    view: {
      kind: view.kind,
      mmPerPx: round(solved.frame.mmPerPx * scale, 8),
      ...(view.kind === 'near' && near
        ? {
            focalPx: round(view.eye.f, 2),
            focalSdPx: round(near.focal.sd, 2),
            distance: round(view.distance * scale, 2),
            height: round(view.height * scale, 2),
            pitchDegrees: round((near.pitch.value * 180) / Math.PI, 4),
            pitchSdDegrees: round((near.pitch.sd * 180) / Math.PI, 4),
            pitchAssumed: near.assumed.pitch,
          }
        : {}),
    },
    outline: {
      axis: { foot: rounded(found.plumb.foot), top: rounded(found.plumb.top) },
      sdPx: round(sds[sds.length >> 1] ?? NaN, 4),
      blurPx: round(found.blur, 3),
      seenShare: round(seenShare(read), 4),
      unsure: stretches.map(({ from, to, state, why }) => ({
        from: round(from * scale, 3),
        to: round(to * scale, 3),
        state,
        why,
      })),
    },
    warnings: [...warnings, ...stretches.map((s) => s.sentence)],
  }
}

const round = (value: number, digits: number) => Number(value.toFixed(digits))
const rounded = ({ x, y }: PicturePoint) => ({ x: round(x, 3), y: round(y, 3) })

import { createHash } from 'node:crypto'
import exifr from 'exifr'
import sharp from 'sharp'
import { HttpProblem } from '../http/problem'

/** What the server knows about a photo, read from the file itself. */
export interface PhotoFacts {
  sha256: string
  mediaType: 'image/jpeg' | 'image/png' | 'image/webp'
  /** After the EXIF turn, px. */
  width: number
  height: number
  focalLength35mm: number | null
}

export const MOST_PHOTO_BYTES = 50 * 1024 * 1024
export const MOST_PIXELS = 60_000_000
/** Longest side, px; beyond it browsers can't show a picture at full resolution. */
export const MOST_SIDE = 16_384
const THUMBNAIL_PX = 640

const MEDIA_TYPES: Record<string, PhotoFacts['mediaType']> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  webp: 'image/webp',
}

/**
 * Checks that bytes are a usable photo, decoding it whole once (for the thumbnail), so that a broken file is
 * found here and not on the bench.
 * @throws HttpProblem 415, 413 or 422 with a sentence
 */
export async function inspectPhoto(bytes: Buffer): Promise<{ facts: PhotoFacts; thumbnail: Buffer }> {
  refuseKnownOthers(bytes)
  const options = { limitInputPixels: MOST_PIXELS, failOn: 'truncated' as const, unlimited: false }
  const meta = await sharp(bytes, { ...options, limitInputPixels: false })
    .metadata()
    .catch(() => null)
  const mediaType = meta && MEDIA_TYPES[meta.format ?? '']
  if (!meta || !mediaType) {
    throw new HttpProblem(
      415,
      'not-a-photo',
      'This file is not a readable JPEG, PNG or WebP picture. Open it in a picture program and save it as JPEG or PNG.',
    )
  }
  const { width = 0, height = 0 } = meta
  if (width * height > MOST_PIXELS || Math.max(width, height) > MOST_SIDE) {
    throw new HttpProblem(
      413,
      'too-many-pixels',
      `The picture has ${width} × ${height} pixels; up to 60 megapixels and ${MOST_SIDE} pixels a side can be used. Crop it tighter around the piece.`,
    )
  }
  const thumbnail = await sharp(bytes, options)
    .rotate()
    .resize(THUMBNAIL_PX, THUMBNAIL_PX, { fit: 'inside', withoutEnlargement: true })
    .webp({ quality: 82 })
    .toBuffer()
    .catch(() => {
      throw new HttpProblem(
        422,
        'broken-photo',
        'The picture is damaged or cut short; it can’t be decoded to its end. Copy it again from where it came.',
      )
    })
  const turned = (meta.orientation ?? 1) >= 5
  return {
    facts: {
      sha256: createHash('sha256').update(bytes).digest('hex'),
      mediaType,
      width: turned ? height : width,
      height: turned ? width : height,
      focalLength35mm: await focalLength(bytes),
    },
    thumbnail,
  }
}

/** Kinds that people do drop and that have a better answer than "unreadable". */
function refuseKnownOthers(bytes: Buffer): void {
  if (bytes.length === 0) throw new HttpProblem(422, 'empty-file', 'The file is empty.')
  const brand =
    bytes.subarray(4, 8).toString('latin1') === 'ftyp' ? bytes.subarray(8, 12).toString('latin1') : ''
  if (/^(hei[cxms]|hev[cx]|mif1|msf1)/.test(brand)) {
    throw new HttpProblem(
      415,
      'heic',
      'This is a HEIC photo, which browsers can’t show. On the phone choose “Most Compatible” as camera format, or export the photo as JPEG, then drop that.',
    )
  }
  const start = bytes.subarray(0, 5).toString('latin1')
  const kind =
    brand === 'avif'
      ? 'an AVIF'
      : start.startsWith('GIF8')
        ? 'a GIF'
        : start.startsWith('%PDF')
          ? 'a PDF'
          : /^(II\*\0|MM\0\*)/.test(start)
            ? 'a TIFF or raw'
            : ''
  if (kind)
    throw new HttpProblem(
      415,
      'wrong-type',
      `This is ${kind} file. Save the picture as JPEG, PNG or WebP, then drop that.`,
    )
}

async function focalLength(bytes: Buffer): Promise<number | null> {
  try {
    const tags = (await exifr.parse(bytes, ['FocalLengthIn35mmFormat'])) as
      { FocalLengthIn35mmFormat?: unknown } | undefined
    const value = tags?.FocalLengthIn35mmFormat
    return typeof value === 'number' && value >= 1 && value <= 10_000 ? value : null
  } catch {
    // No EXIF, or EXIF that can't be read, is no obstacle.
    return null
  }
}

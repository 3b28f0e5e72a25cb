import { existsSync, writeFileSync } from 'node:fs'
import { dirname, extname } from 'node:path'
import { parseArgs } from 'node:util'
import { stl } from '../core/formats/stl'
import { svg } from '../core/formats/svg'
import { encodeText } from '../core/formats/text'
import { fitCurve } from '../core/profile/fit-curve'
import { flatten } from '../core/profile/flatten'
import { profileSegments } from '../core/profile/profile-segments'
import type { Segment } from '../core/profile/segments'
import { revolve } from '../core/solid/revolve'
import { parseLength } from '../core/units/parse-length'
import { profileOfPhoto, type ProfileOptions, type ProfileResult } from './profile'
import { UsageError } from './usage'

export const PROFILE_HELP = `Usage: npm run --silent cli -- profile PHOTO --height "138 mm" [options]

Finds the piece in a photo and writes its half-profile, from the axis at the foot to the axis at the top.

  --height L             how tall the piece is; or
  --diameter L           its largest diameter
  --view V               auto (default): near when a focal length or a distance is known, or the rings of foot
                         and rim tell them, and a closing arc is 5 px high; distant: parallel rays; near: through
                         the camera
  --distance L           camera to axis, by tape
  --focal-35 N           focal length as a 35 mm equivalent, over what the file says
  --k1 K                 radial distortion, for radii in focal lengths (half the diagonal when none is known)
  --principal-point X,Y  where the lens looks straight ahead, px; default the picture's middle
  --lying                the axis lies level in the picture, the top at its right end
  --top left|right       which end of a lying piece is the top
  --axis X1,Y1,X2,Y2     the axis, from a point near the foot to one near the top, px
  --out FILE             .json, .svg, .csv or .stl; JSON to standard output without it
  --verbose              how it was found, to standard error

Lengths with or without unit ("138 mm", "5 7/16 in", "1.2 m"; mm without). Picture positions are px of the picture
turned as its EXIF says. Exit codes: 0 done, 1 no profile (the message says why), 2 the command was not understood.`

const NUMBER = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i

/** Runs `profile PHOTO …`. @throws UsageError for what isn't understood, CoreError when there is no profile */
export async function profileCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      height: { type: 'string' },
      diameter: { type: 'string' },
      view: { type: 'string' },
      distance: { type: 'string' },
      'focal-35': { type: 'string' },
      k1: { type: 'string' },
      'principal-point': { type: 'string' },
      lying: { type: 'boolean' },
      top: { type: 'string' },
      axis: { type: 'string' },
      out: { type: 'string' },
      verbose: { type: 'boolean' },
      help: { type: 'boolean', short: 'h' },
    },
  })
  if (values.help) {
    console.log(PROFILE_HELP)
    return
  }
  const [photo, ...more] = positionals
  if (!photo) throw new UsageError('“profile” needs the file of a photo.')
  if (more.length > 0) throw new UsageError(`One photo at a time; “${more[0]}” is one too many.`)
  const heightMm = lengthOf(values.height, '--height')
  const diameterMm = lengthOf(values.diameter, '--diameter')
  if (heightMm === null && diameterMm === null)
    throw new UsageError('The scale is missing: --height "138 mm" or --diameter "90 mm" of the piece.')
  if (heightMm !== null && diameterMm !== null)
    throw new UsageError('Either --height or --diameter gives the scale, not both.')
  const { view = 'auto', top } = values
  if (view !== 'auto' && view !== 'near' && view !== 'distant')
    throw new UsageError(`--view is auto, near or distant, not “${view}”.`)
  if (top !== undefined && top !== 'left' && top !== 'right')
    throw new UsageError(`--top is left or right, not “${top}”.`)
  if (top !== undefined && !values.lying) throw new UsageError('--top goes with --lying.')
  const write = writerFor(values.out)
  const focal = numbersOf(values['focal-35'], '--focal-35', 1)?.[0] ?? null
  if (focal !== null && !(focal > 0)) throw new UsageError('--focal-35 is a length above 0, in mm.')
  const centre = numbersOf(values['principal-point'], '--principal-point', 2)
  const axis = numbersOf(values.axis, '--axis', 4)
  if (axis && Math.hypot(axis[2]! - axis[0]!, axis[3]! - axis[1]!) < 30)
    throw new UsageError('The two points of --axis lie too close together to give a direction.')
  const options: ProfileOptions = {
    heightMm,
    diameterMm,
    distanceMm: lengthOf(values.distance, '--distance'),
    view,
    focalLength35mm: focal,
    k1: numbersOf(values.k1, '--k1', 1)?.[0] ?? 0,
    principalPoint: centre && { x: centre[0]!, y: centre[1]! },
    top: values.lying ? (top ?? 'right') : null,
    axis: axis && { foot: { x: axis[0]!, y: axis[1]! }, top: { x: axis[2]!, y: axis[3]! } },
  }
  const started = performance.now()
  const result = await profileOfPhoto(photo, options)
  if (values.verbose) report(result, performance.now() - started)
  write(result)
}

function report({ view, outline, warnings, height, maxDiameter }: ProfileResult, ms: number): void {
  console.error(`height ${height} mm, largest diameter ${maxDiameter} mm`)
  console.error(`view ${JSON.stringify(view)}`)
  console.error(
    `edges to ${outline.sdPx} px, blur ${outline.blurPx} px, ${Math.round(100 * outline.seenShare)} % seen`,
  )
  for (const warning of warnings) console.error(`- ${warning}`)
  console.error(`${(ms / 1000).toFixed(1)} s`)
}

function writerFor(out: string | undefined): (result: ProfileResult) => void {
  if (out === undefined) return (result) => console.log(JSON.stringify(result))
  const write = WRITERS[extname(out).toLowerCase()]
  if (!write) throw new UsageError(`--out ends in ${Object.keys(WRITERS).join(', ')}; “${out}” doesn’t.`)
  // Found out before the photo is read rather than after.
  if (!existsSync(dirname(out))) throw new UsageError(`There is no folder “${dirname(out)}” for “${out}”.`)
  return (result) => writeFileSync(out, write(result))
}

/** Curve nodes stay within this share of the height of the dense profile. */
const CURVE_SHARE = 0.0003
const CHORD_SHARE = 0.0001
/** Sides of the solid written as STL: their chords stay within 0.01 % of the diameter. */
const STL_SIDES = 256

const WRITERS: Record<string, (result: ProfileResult) => Uint8Array | string> = {
  '.json': (result) => JSON.stringify(result),
  '.csv': ({ profile }) =>
    encodeText(['height_mm,diameter_mm', ...profile.map(([r, z]) => `${z},${Number((2 * r).toFixed(5))}`)].join('\n') + '\n'), // prettier-ignore
  '.svg': (result) => svg.toBytes(curveOf(result)),
  '.stl': (result) => {
    const { points } = flatten(curveOf(result), { toleranceMm: CHORD_SHARE * result.height })
    return stl.toBytes(revolve(points, { sides: STL_SIDES }))
  },
}

function curveOf({ profile, height }: ProfileResult): Segment[] {
  let count = 0
  return profileSegments(
    fitCurve(profile, { toleranceMm: CURVE_SHARE * height, newId: () => String(count++) }).nodes,
  )
}

function lengthOf(text: string | undefined, option: string): number | null {
  if (text === undefined) return null
  const read = parseLength(text)
  if (!read.ok) throw new UsageError(`${option}: ${read.problem.message}`)
  if (!(read.mm > 0)) throw new UsageError(`${option} is a length above 0.`)
  return read.mm
}

function numbersOf(text: string | undefined, option: string, count: number): number[] | null {
  if (text === undefined) return null
  const parts = text.split(',').map((part) => part.trim())
  if (parts.length !== count || parts.some((part) => !NUMBER.test(part)))
    throw new UsageError(
      count === 1
        ? `${option} is a number, not “${text}”.`
        : `${option} is ${count} numbers with commas between, not “${text}”.`,
    )
  return parts.map(Number)
}

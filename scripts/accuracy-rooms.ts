import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { profileError, type ProfileError } from '../demo/bench/judge'
import { readPhoto, seenBy } from '../demo/bench/read-photo'
import { makeRoomPhoto, roomPhoto, type RoomPhoto } from '../demo/bench/room-photo'
import { recipeHash } from '../demo/make-photos'
import { truthOf } from '../demo/maker/photo'
import { inParallel } from './in-parallel'

/**
 * Third part of `npm run accuracy`: reads half-profiles off photos taken in rooms, where nothing was made to be a backdrop, and writes
 * docs/accuracy-rooms.md. The photos are kept among the temporary files, as those of the bench are.
 */
const PHOTOS = Array.from({ length: 48 }, (_, i) => roomPhoto(i))
const cache = join(tmpdir(), `baldacchino-rooms-${recipeHash().slice(0, 12)}`)

interface Row {
  error: ProfileError | null
  /** Why there is none; or what was said of it. */
  said: string
}

async function judge(photo: RoomPhoto): Promise<Row> {
  const file = join(cache, `${photo.id}.jpg`)
  if (!existsSync(file)) writeFileSync(file, await makeRoomPhoto(photo))
  const truth = truthOf(photo.spec)
  try {
    const got = await readPhoto(readFileSync(file), truth, photo.lying, 'near')
    const error = profileError(truth.profile, seenBy(photo.spec, truth), got.profile)
    return { error, said: got.warnings.length > 0 ? 'warned' : '' }
  } catch (error) {
    return { error: null, said: (error as Error).message.split('.')[0]! }
  }
}

/** Errors up to this, % of the height, are as good as a practitioner needs. */
const GOOD = 0.25
/** … and from this on, in itself or in its ⌀, nobody would want the half-profile without a word. */
const WRONG = 1

function write(rows: readonly Row[]): void {
  const errors = rows.flatMap(({ error }) => error?.rms ?? []).sort((a, b) => a - b)
  const refused = rows.length - errors.length
  const wrong = rows.filter(({ error }) => error && Math.max(error.rms, Math.abs(error.diameter)) > WRONG)
  const silent = wrong.filter(({ said }) => said === '').length
  const line = ({ room, skin, difficulty, family, id }: RoomPhoto, { error, said }: Row) =>
    `| ${id} | ${room.wall} | ${room.floor} | ${skin} | ${family}${difficulty === 'small' ? ', small' : ''} | ${error ? error.rms.toFixed(3) : '–'} | ${error ? error.diameter.toFixed(2) : '–'} | ${said} |`
  const text = `# Accuracy in rooms

Written by \`npm run accuracy\`. ${rows.length} seeded random pieces, photographed by the photo maker where nothing was made to be a backdrop: before
lamps out of focus, a curtain, a window, striped or ornamented paper, tiles, bookshelves, a hedge, an overexposed light box, black velvet,
boards and plaster; on boards, checked and woven cloth, a ruled cutting surface, marble, a table whose end is seen, a doily; painted with bands, flutes, checks,
spots or glaze, labelled, or of one material; in any light. Given the true height, the camera’s distance and the file’s focal
length. Root mean square distance from the visible true half-profile to the result, % of the height; ⌀ off, %.

${errors.length} of ${rows.length} answered, half of those within ${errors[errors.length >> 1]!.toFixed(3)} %, ${errors.filter((e) => e <= GOOD).length} within ${GOOD} %;
${refused} refused with a sentence; ${wrong.length} more than ${WRONG} % off, in themselves or in their ⌀, ${silent} of them without a word.

| photo | wall | floor | piece | shape | off | ⌀ off | said |
| --- | --- | --- | --- | --- | --- | --- | --- |
${rows.map((row, i) => line(PHOTOS[i]!, row)).join('\n')}
`
  writeFileSync(join(import.meta.dirname, '..', 'docs', 'accuracy-rooms.md'), text)
}

const fileOf = (photo: RoomPhoto) => join(cache, `${photo.id}.result.json`)
const [job, k, n] = process.argv.slice(2)
if (job === 'judge') {
  for (const [i, photo] of PHOTOS.entries()) {
    if (i % Number(n) !== Number(k)) continue
    writeFileSync(fileOf(photo), JSON.stringify(await judge(photo)))
    console.log(`room ${photo.id} read`)
  }
} else {
  mkdirSync(cache, { recursive: true })
  await inParallel(import.meta.filename, 'judge')
  write(PHOTOS.map((photo) => JSON.parse(readFileSync(fileOf(photo), 'utf8')) as Row))
}

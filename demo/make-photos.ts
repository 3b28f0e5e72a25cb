import { createHash } from 'node:crypto'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { LAMP_ROOM, photoFileName } from './lamp-room'
import { makePhoto, truthOf } from './maker/photo'

/**
 * Writes the demo photos and their truth into demo/photos. They are kept with the sources because computing them
 * takes about two minutes; `recipe.txt` tells which sources they came from, and a test compares.
 */
export const PHOTO_DIR = join(import.meta.dirname, 'photos')

/** SHA-256 over the photo maker and the scenario. */
export function recipeHash(): string {
  const hash = createHash('sha256')
  const maker = join(import.meta.dirname, 'maker')
  const files = readdirSync(maker).filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts')).sort().map((f) => join(maker, f)) // prettier-ignore
  for (const file of [...files, join(import.meta.dirname, 'lamp-room.ts')]) hash.update(readFileSync(file))
  return hash.digest('hex')
}

async function main() {
  mkdirSync(PHOTO_DIR, { recursive: true })
  for (const spec of LAMP_ROOM) {
    const started = Date.now()
    const file = join(PHOTO_DIR, photoFileName(spec.name))
    writeFileSync(file, await makePhoto(spec))
    writeFileSync(file.replace(/jpg$/, 'json'), JSON.stringify(truthOf(spec), rounded))
    console.log(`${spec.name}: ${((Date.now() - started) / 1000).toFixed(1)} s`)
  }
  writeFileSync(join(PHOTO_DIR, 'recipe.txt'), `${recipeHash()}\n`)
}

function rounded(_key: string, value: unknown): unknown {
  return typeof value === 'number' ? Number(value.toPrecision(9)) : value
}

if (process.argv[1] === import.meta.filename) await main()

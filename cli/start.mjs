/**
 * Starts the terminal's commands from a bundle of them, which is read much faster than hundreds of TypeScript files. The bundle
 * is kept as long as none of the files changes that it was made from, so that it is never stale.
 */
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs' // prettier-ignore
import { dirname, join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'

const here = dirname(fileURLToPath(import.meta.url))
const root = join(here, '..')
// Within the project, so that the packages, which aren't bundled, are found.
const cache = join(root, 'node_modules/.cache/terminal')
/** What was made from what: the bundle's folder and the state of every file it was made from. */
const index = join(cache, 'made.json')
/** Bundles that are no longer used are kept so long, since a command may still be running from one. */
const KEPT_MS = 24 * 3600 * 1000

function stateOf(file) {
  const { mtimeMs, size } = statSync(join(root, file), { throwIfNoEntry: false }) ?? {}
  return `${mtimeMs} ${size}`
}

/** The bundle that is at hand; null where there is none, or a file it was made from has changed. */
function madeBefore() {
  try {
    const { folder, files } = JSON.parse(readFileSync(index, 'utf8'))
    const isFresh = Object.entries(files).every(([file, state]) => stateOf(file) === state)
    return isFresh && existsSync(join(cache, folder, 'main.mjs')) ? folder : null
  } catch {
    return null
  }
}

async function make() {
  const { build } = await import('esbuild')
  mkdirSync(cache, { recursive: true })
  for (const old of readdirSync(cache))
    // Another run may be clearing up as well.
    if (Date.now() - statSync(join(cache, old), { throwIfNoEntry: false })?.mtimeMs > KEPT_MS)
      rmSync(join(cache, old), { recursive: true, force: true })
  const outdir = mkdtempSync(join(cache, 'b-'))
  const begun = Date.now()
  const { metafile } = await build({
    entryPoints: [join(here, 'main.ts')],
    outdir,
    absWorkingDir: root,
    bundle: true,
    metafile: true,
    packages: 'external',
    // What only some commands need is read when it is asked for.
    splitting: true,
    platform: 'node',
    format: 'esm',
    outExtension: { '.js': '.mjs' },
    logLevel: 'error',
  })
  const inputs = [...Object.keys(metafile.inputs), 'cli/start.mjs', 'package-lock.json', 'tsconfig.base.json']
  const files = Object.fromEntries(inputs.map((file) => [file, stateOf(file)]))
  const folder = outdir.slice(cache.length + 1)
  // What is being written while it is bundled may be in it or not.
  if (inputs.some((file) => statSync(join(root, file), { throwIfNoEntry: false })?.mtimeMs > begun))
    return folder
  // Written aside and then moved, so that whoever reads it meanwhile reads the old one or the new one.
  const written = join(cache, `${folder}.json`)
  writeFileSync(written, JSON.stringify({ folder, files }))
  renameSync(written, index)
  return folder
}

const folder = madeBefore() ?? (await make())
await import(pathToFileURL(join(cache, folder, 'main.mjs')).href)

/**
 * Starts the terminal's commands. Bundling them takes a fraction of a second, less than reading hundreds of TypeScript files
 * one by one; every run makes its own bundle, so that it is never stale and runs don't disturb each other.
 */
import { build } from 'esbuild'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'

const here = dirname(fileURLToPath(import.meta.url))
// Within the project, so that the packages, which aren't bundled, are found.
const cache = join(here, '../node_modules/.cache')
mkdirSync(cache, { recursive: true })
const folder = mkdtempSync(join(cache, 'cli-'))
process.on('exit', () => rmSync(folder, { recursive: true, force: true }))

await build({
  entryPoints: [join(here, 'main.ts')],
  outdir: folder,
  bundle: true,
  packages: 'external',
  // What only some commands need is read when it is asked for.
  splitting: true,
  platform: 'node',
  format: 'esm',
  outExtension: { '.js': '.mjs' },
  logLevel: 'error',
})
await import(pathToFileURL(join(folder, 'main.mjs')).href)

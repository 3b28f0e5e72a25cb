// Set-up that needs nothing installed: Node's version, the packages, Debian's Chromium.
import { spawnSync } from 'node:child_process'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { join, dirname } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..')

/** Runs a command in the project with its output shown; ends the script when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (result.status !== 0) {
    console.error(
      `\n“${command} ${args.join(' ')}” failed${result.error ? `: ${result.error.message}` : ''}.`,
    )
    process.exit(result.status ?? 1)
  }
}

export function requireNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Baldacchino needs Node 20.19 or newer; this is ${process.versions.node}.`)
    process.exit(1)
  }
}

/** Installs what package-lock.json says, once for each state of it. */
export function installPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex')
  const stamp = join(root, 'node_modules', '.baldacchino-installed')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  console.log(
    'Installing packages. The database driver is compiled where no ready one can be fetched; that takes two to four minutes, once.',
  )
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { env: { ...process.env, JOBS: 'max' } })
  writeFileSync(stamp, lock)
}

export const CHROMIUM = '/usr/bin/chromium'

/** Debian's Chromium for the browser tests: installed when it is missing and this is root. */
export function installChromium() {
  if (existsSync(CHROMIUM)) return
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    console.error(
      `The browser tests need Chromium at ${CHROMIUM}. Install it with: sudo apt-get install chromium`,
    )
    process.exit(1)
  }
  console.log('Installing Chromium for the browser tests …')
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  run('apt-get', ['update', '-qq'], { env })
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium', 'fonts-dejavu-core'], {
    env,
  })
}

/** Poppler, which renders the printed sheets for the tests: installed when it is missing and this is root. */
export function installPoppler() {
  if (existsSync('/usr/bin/pdftoppm')) return
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    console.error(
      'The tests of printed sheets need pdftoppm. Install it with: sudo apt-get install poppler-utils',
    )
    process.exit(1)
  }
  console.log('Installing poppler-utils for the tests of printed sheets …')
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  run('apt-get', ['update', '-qq'], { env })
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'poppler-utils'], { env })
}

export function build() {
  run(process.execPath, [join('node_modules', 'vite', 'bin', 'vite.js'), 'build', '--logLevel', 'warn'])
}

import { execFileSync } from 'node:child_process'
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs' // prettier-ignore
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

/** A project of one command, started as the real ones are. */
const root = mkdtempSync(join(tmpdir(), 'cli-start-'))
const bundles = () =>
  readdirSync(join(root, 'node_modules/.cache/terminal')).filter((name) => name.startsWith('b-'))
const run = (...args: string[]) =>
  execFileSync(process.execPath, [join(root, 'cli/start.mjs'), ...args], {
    encoding: 'utf8',
    stdio: 'pipe',
  }).trim()
/** Writes a file as if some seconds ago; what is written while a bundle is made is not trusted. */
function write(name: string, text: string, secondsAgo = 5): void {
  writeFileSync(join(root, 'cli', name), text)
  const then = Date.now() / 1000 - secondsAgo
  utimesSync(join(root, 'cli', name), then, then)
}

beforeAll(() => {
  mkdirSync(join(root, 'cli'))
  mkdirSync(join(root, 'node_modules'))
  for (const name of ['esbuild', '@esbuild'])
    symlinkSync(join(import.meta.dirname, '../node_modules', name), join(root, 'node_modules', name))
  copyFileSync(join(import.meta.dirname, 'start.mjs'), join(root, 'cli/start.mjs'))
  write('main.ts', `import { word } from './word'\nconsole.log(word as string, process.argv.slice(2).join())`)
  write('word.ts', `export const word = 'one'`)
})
afterAll(() => rmSync(root, { recursive: true, force: true }))

describe('starting the terminal’s commands', () => {
  it('bundles once, and again when any file of it has changed', () => {
    expect(run('a', 'b')).toBe('one a,b')
    const first = bundles()
    expect(first).toHaveLength(1)
    expect(run()).toBe('one')
    expect(bundles()).toEqual(first)
    write('word.ts', `export const word = 'two'`, 3)
    expect(run()).toBe('two')
    expect(bundles()).toHaveLength(2)
    write('word.ts', `export const word: string = 'three'`, 3)
    expect(run()).toBe('three')
  })

  it('does without what was kept when that is damaged or gone', () => {
    expect(run()).toBe('three')
    writeFileSync(join(root, 'node_modules/.cache/terminal/made.json'), '{"folder": "b-')
    expect(run()).toBe('three')
    for (const name of bundles())
      rmSync(join(root, 'node_modules/.cache/terminal', name), { recursive: true })
    expect(run()).toBe('three')
    expect(bundles()).toHaveLength(1)
  })

  it('a file that is gone is said, not taken from what was kept', () => {
    expect(run()).toBe('three')
    rmSync(join(root, 'cli/word.ts'))
    expect(() => run()).toThrow(/word/)
  })
})

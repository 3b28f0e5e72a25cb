import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it, vi } from 'vitest'
import type { NamedFile } from '../core/piece/hand-over'
import { newPiece } from '../core/piece/schema'
import { UsageError } from './usage'
import { filesOf, formatsOf, putFiles } from './write-files'

const dir = mkdtempSync(join(tmpdir(), 'written-'))
afterAll(() => rmSync(dir, { recursive: true }))
const file = (name: string, text: string): NamedFile => [name, new Uint8Array(Buffer.from(text))]
const read = (path: string) => readFileSync(path, 'utf8')

describe('formats as typed', () => {
  it('are parted by commas, with or without blanks', () => {
    expect(formatsOf('stl, svg,csv')).toEqual(['stl', 'svg', 'csv'])
  })

  it('that aren’t known are refused with those that are, also names every object has', () => {
    for (const list of ['stl,blend', 'constructor', '']) {
      expect(() => formatsOf(list)).toThrow(UsageError)
      expect(() => formatsOf(list)).toThrow(/--format is one or more of .*stl/)
    }
    expect(() => formatsOf(undefined)).toThrow(UsageError)
  })
})

describe('options of the files', () => {
  const filed = { document: newPiece('Vase'), pictures: new Map() }

  it('that mean nothing are refused one by one, before anything is written', async () => {
    await expect(filesOf(filed, ['stl'], 'vase', { unit: 'furlong' })).rejects.toThrow(/--unit is mm, cm, m or in/) // prettier-ignore
    await expect(filesOf(filed, ['stl'], 'vase', { unit: 'constructor' })).rejects.toThrow(/--unit/)
    await expect(filesOf(filed, ['stl'], 'vase', { up: 'x' })).rejects.toThrow(/--up is y or z/)
    await expect(filesOf(filed, ['stl'], 'vase', { paper: 'napkin' })).rejects.toThrow(/--paper is one of A/)
  })

  it('a piece without a solid says so in the core’s words', async () => {
    await expect(filesOf(filed, ['stl'], 'vase', {})).rejects.toThrow(/half-profile|nodes/)
  })
})

describe('where files go', () => {
  it('one goes under its name, into folders that are made for it', () => {
    const out = join(dir, 'new', 'deep', 'vase.stl')
    expect(putFiles([file('x.stl', 'solid')], out)).toEqual([out])
    expect(read(out)).toBe('solid')
  })

  it('one goes into a folder under its own name, when that is there or is written with a slash', () => {
    const folder = join(dir, 'there') + '/'
    expect(putFiles([file('a.csv', 'r,z')], folder)).toEqual([join(folder, 'a.csv')])
    expect(putFiles([file('b.csv', '1,2')], join(dir, 'there'))).toEqual([join(dir, 'there', 'b.csv')])
    expect(read(join(dir, 'there', 'b.csv'))).toBe('1,2')
  })

  it('several go into the folder, never beside it, whatever they are called', () => {
    const out = join(dir, 'set')
    const put = putFiles([file('a.obj', '1'), file('../a.mtl', '2')], out)
    expect(put).toEqual([join(out, 'a.obj'), join(out, 'a.mtl')])
    expect(existsSync(join(dir, 'a.mtl'))).toBe(false)
    expect(() => putFiles([file('a', '1'), file('b', '2')], undefined)).toThrow(/need --out with a folder/)
  })

  it('one without a name goes to standard output, byte for byte', () => {
    const written: unknown[] = []
    const spy = vi.spyOn(process.stdout, 'write').mockImplementation((bytes) => (written.push(bytes), true))
    try {
      expect(putFiles([file('a.json', '{}')], undefined)).toEqual([])
    } finally {
      spy.mockRestore()
    }
    expect(Buffer.from(written[0] as Uint8Array).toString()).toBe('{}')
  })
})

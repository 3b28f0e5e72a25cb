import fc from 'fast-check'
import { strToU8, zipSync } from 'fflate'
import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { packSet, unpackSet } from './set-archive'
import { newPiece, type PieceDocument } from './schema'

const sha = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex')
const withPhoto = (name: string, sha256: string): PieceDocument => ({
  ...newPiece(name),
  photo: { sha256, fileName: 'a.jpg', mediaType: 'image/jpeg', width: 10, height: 20, focalLength35mm: null, quarterTurns: 0, crop: null }, // prettier-ignore
})
const codeOf = (run: () => unknown) => {
  try {
    run()
  } catch (error) {
    return (error as { code?: string }).code
  }
  return 'nothing'
}
const index = (pieces: string[], photos: object[] = []) => strToU8(JSON.stringify({ schema: 'baldacchino-set', version: 1, name: 'A', pieces, photos })) // prettier-ignore

describe('the archive of a set', () => {
  it('gives back documents and photos byte for byte, whatever they are called (property)', () => {
    const names = fc.array(fc.string({ minLength: 1, maxLength: 40, unit: 'grapheme' }).filter((s) => s.trim().length > 0), { minLength: 1, maxLength: 6 }) // prettier-ignore
    fc.assert(
      fc.property(names, fc.uint8Array({ minLength: 1, maxLength: 500 }), (list, bytes) => {
        const photos = new Map([[sha(bytes), { bytes, mediaType: 'image/jpeg' }]])
        const documents = list.map((name) => withPhoto(name.trim().slice(0, 120), sha(bytes)))
        const set = { name: list[0]!.slice(0, 100), documents, photos }
        const packed = packSet(set)
        const back = unpackSet(packed)
        expect(back.name).toBe(set.name)
        expect(back.documents).toEqual(documents)
        expect([...back.photos.keys()]).toEqual([sha(bytes)])
        expect(Buffer.from(back.photos.get(sha(bytes))!.bytes).equals(bytes)).toBe(true)
        expect(packSet(set)).toEqual(packed)
      }),
      { numRuns: 60 },
    )
  })

  it('cut short anywhere is refused in words, never half read (property)', () => {
    const bytes = Uint8Array.from({ length: 300 }, (_, i) => i)
    const packed = packSet({ name: 'A', documents: [withPhoto('B', sha(bytes))], photos: new Map([[sha(bytes), { bytes, mediaType: 'image/png' }]]) }) // prettier-ignore
    fc.assert(
      fc.property(fc.integer({ min: 0, max: packed.length - 1 }), (n) => {
        expect(['not-archive', 'archive-incomplete', 'not-json', 'archive-too-large']).toContain(codeOf(() => unpackSet(packed.subarray(0, n)))) // prettier-ignore
      }),
      { numRuns: 80 },
    )
  })

  it('refuses what is no archive, what lists more than it has, and paths that lead out of it', () => {
    expect(codeOf(() => unpackSet(strToU8('hello')))).toBe('not-archive')
    expect(codeOf(() => unpackSet(zipSync({ 'a.txt': strToU8('x') })))).toBe('not-archive')
    expect(codeOf(() => unpackSet(zipSync({ 'set.json': index(['pieces/01.json']) })))).toBe(
      'archive-incomplete',
    )
    for (const path of ['../../etc/passwd', '/etc/passwd', 'pieces/../../x', 'C:\\x'])
      expect(codeOf(() => unpackSet(zipSync({ 'set.json': index([path]), [path]: strToU8('{}') })))).toBe('archive-incomplete') // prettier-ignore
    for (const path of ['__proto__', 'constructor', 'toString'])
      expect(codeOf(() => unpackSet(zipSync({ 'set.json': index([path]) })))).toBe('archive-incomplete')
    expect(codeOf(() => unpackSet(zipSync({ 'set.json': index(['pieces/a.json']), 'pieces/a.json': strToU8('{"a":') })))).toBe('not-json') // prettier-ignore
    const deep = strToU8('['.repeat(200_000))
    expect(codeOf(() => unpackSet(zipSync({ 'set.json': index(['pieces/a.json']), 'pieces/a.json': deep })))).toBe('not-json') // prettier-ignore
  })

  it('refuses a bomb at once, without unpacking it', () => {
    const bomb = zipSync({ 'set.json': index([]), 'photos/a.jpg': new Uint8Array(80 * 1024 * 1024) })
    expect(bomb.length).toBeLessThan(200_000)
    const started = performance.now()
    expect(codeOf(() => unpackSet(bomb, 64 * 1024 * 1024))).toBe('archive-too-large')
    expect(performance.now() - started).toBeLessThan(1000)
    // One that lies about its size gets no more room than it claims.
    const lying = Uint8Array.from(bomb)
    const view = new DataView(lying.buffer)
    for (let i = 0; i + 4 < lying.length; i++) if (view.getUint32(i, true) === 80 * 1024 * 1024) view.setUint32(i, 1000, true) // prettier-ignore
    const read = unpackSet(lying, 64 * 1024 * 1024)
    expect(read.documents).toEqual([])
  })
})

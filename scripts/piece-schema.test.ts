import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { pieceSchema } from './piece-schema'

it('the published schema of the document is the one that is used', () => {
  expect(JSON.parse(readFileSync('docs/piece.schema.json', 'utf8'))).toEqual(JSON.parse(pieceSchema()))
})

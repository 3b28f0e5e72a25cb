// `npm run schema`: the schema of a piece's document as JSON Schema, into docs/piece.schema.json.
import { writeFileSync } from 'node:fs'
import { toJsonSchema } from '@valibot/to-json-schema'
import { PieceDocument } from '../core/piece/schema'

/** What can't be said in JSON Schema (that levels rise, say) is left out; the app checks it on reading. */
export const pieceSchema = (): string =>
  `${JSON.stringify({ title: 'Document of a piece', ...toJsonSchema(PieceDocument, { errorMode: 'ignore' }) }, null, 2)}\n`

if (process.argv[1]?.endsWith('piece-schema.ts')) {
  writeFileSync('docs/piece.schema.json', pieceSchema())
  console.log('docs/piece.schema.json written.')
}

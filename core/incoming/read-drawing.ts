import { CoreError } from '../errors'
import { readCsv } from './csv-in'
import { MOST_FILE_BYTES, refusal, type DrawnCurve } from './drawn'
import { readDxf } from './dxf-in'
import { readSvg } from './svg-in'

/** What a half-profile can be read from, by the file's extension. */
export const DRAWINGS = { svg: readSvg, dxf: readDxf, csv: readCsv, txt: readCsv } as const

/**
 * The curve of a file.
 * @param name of the file: its extension says what it is
 * @throws CoreError `wrong-type`, `too-large`, `empty-file`, and what the readers throw
 */
export function readDrawing(name: string, text: string): DrawnCurve {
  const extension = name.toLowerCase().split('.').pop() ?? ''
  if (!Object.hasOwn(DRAWINGS, extension))
    throw new CoreError(refusal('wrong-type', `“${name}” is of a kind that holds no half-profile for this app. Bring SVG, DXF or CSV.`)) // prettier-ignore
  if (text.length > MOST_FILE_BYTES) throw new CoreError(refusal('too-large', `The file is larger than ${MOST_FILE_BYTES / 1024 / 1024} MB, far more than a profile needs. Export the half-profile alone.`)) // prettier-ignore
  if (text.trim() === '')
    throw new CoreError(refusal('empty-file', 'The file is empty. Export the half-profile again.'))
  return DRAWINGS[extension as keyof typeof DRAWINGS](text)
}

import { zipSync } from 'fflate'

/** Time stamps in archives are all the same, so that the same piece gives the same bytes. */
export const NO_ZIP_TIME = new Date(1980, 0, 1)

/** A ZIP archive of files by path. */
export function archive(files: Record<string, Uint8Array>): Uint8Array<ArrayBuffer> {
  return new Uint8Array(zipSync(files, { mtime: NO_ZIP_TIME, level: 6 }))
}

/** A short id, unique within a document. */
export function newId(): string {
  return crypto.randomUUID().slice(0, 12)
}

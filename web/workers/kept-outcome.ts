/**
 * Keeps what came of the last computation, a failure as well: asking for the same again costs nothing. For what depends
 * on nothing but what is asked.
 */
export class KeptOutcome<R> {
  private last: { key: string; result: R } | { key: string; failure: unknown } | null = null

  /** @throws what the computation throws, or threw */
  of(key: string, compute: () => R): R {
    if (this.last?.key !== key) {
      try {
        this.last = { key, result: compute() }
      } catch (failure) {
        this.last = { key, failure }
      }
    }
    if ('failure' in this.last) throw this.last.failure
    return this.last.result
  }
}

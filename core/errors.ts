/** What is wrong, as data; the message is the sentence for people. */
export interface Problem {
  /** Stable name of the kind of problem, for programs and tests. */
  code: string
  /** One or two sentences: what is wrong and what to do about it. */
  message: string
  /** Where: a field, a node id, a height in words. */
  where?: string
  expected?: string
  received?: string
}

/** Thrown by core functions that can't give a result for their input. */
export class CoreError extends Error implements Problem {
  readonly code: string
  readonly where?: string
  readonly expected?: string
  readonly received?: string

  constructor(problem: Problem) {
    super(problem.message)
    this.name = 'CoreError'
    this.code = problem.code
    this.where = problem.where
    this.expected = problem.expected
    this.received = problem.received
  }
}

/** Stops numbers that are not finite at the door. @throws CoreError `not-finite` */
export function requireFinite(value: number, where: string): number {
  if (!Number.isFinite(value)) {
    throw new CoreError({
      code: 'not-finite',
      message: `${where} is not a finite number.`,
      where,
      expected: 'a finite number',
      received: String(value),
    })
  }
  return value
}

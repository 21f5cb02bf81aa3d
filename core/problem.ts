/** What went wrong, for the user: what, where, and what to do. */
export interface Problem {
  /** Stable, kebab-case. */
  readonly code: string
  readonly message: string
  /** Where in the file or script, when there is a place. */
  readonly place?: string
}

/** Carries a problem through code that cannot go on. */
export class ProblemError extends Error {
  override readonly name = 'ProblemError'

  constructor(readonly problem: Problem) {
    super(problem.message)
  }
}

/** Stops with a problem. */
export function fail(code: string, message: string, place?: string): never {
  throw new ProblemError(place === undefined ? { code, message } : { code, message, place })
}

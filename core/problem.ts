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

/** What a system says when it has no room or no permission, and what the user can do then. */
const systemProblems: Readonly<Record<string, readonly [code: string, message: string]>> = {
  ENOSPC: ['disk-full', 'The disk is full. Free some space and try again: what is done is kept.'],
  EDQUOT: ['disk-full', 'Your share of the disk is used up. Free some space and try again: what is done is kept.'],
  EFBIG: ['disk-full', 'A file cannot grow any further: the system limits the size of files, or the disk is full. Raise the limit or free some space, then try again: what is done is kept.'],
  EROFS: ['no-permission', 'The disk can only be read. Choose another folder, or mount it for writing.'],
  EACCES: ['no-permission', 'There is no permission to write or read here. Choose another folder or change its permissions.'],
  EPERM: ['no-permission', 'There is no permission to write or read here. Choose another folder or change its permissions.'],
}

/** A problem for an error of the system that a user can do something about; any other error as it is. */
export function asProblem(error: unknown): unknown {
  const { code } = (error ?? {}) as { code?: unknown }
  const known = typeof code === 'string' ? systemProblems[code] : undefined
  return known === undefined ? error : new ProblemError({ code: known[0], message: known[1] })
}

/** Stops with a problem. */
export function fail(code: string, message: string, place?: string): never {
  throw new ProblemError(place === undefined ? { code, message } : { code, message, place })
}

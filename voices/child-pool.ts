import { fork, type ChildProcess } from 'node:child_process'

export interface PoolOptions {
  /** Path of the child's bundled program. */
  readonly program: string
  readonly size: number
  /** A child is replaced after this many tasks, because its memory grows slowly. */
  readonly recycleAfter: number
  readonly timeoutMs: number
  /** A child that had nothing to do for so long ends; without, it stays. */
  readonly idleMs?: number
  readonly execArgv?: readonly string[]
  /** Children are the first of sessions of their own, so that the system tells what they do from what this process does. */
  readonly ownSession?: boolean
  /** Beside that of this process. */
  readonly environment?: Readonly<Record<string, string>>
}

interface Job {
  readonly task: object
  readonly resolve: (answer: unknown) => void
  readonly reject: (error: Error) => void
}

interface Member {
  readonly process: ChildProcess
  job: Job | null
  done: number
  /** Of the task in hand, or of the rest between two. */
  timer: NodeJS.Timeout | null
}

/** The child died or was too slow; the task may be given again. */
export class ChildLostError extends Error {
  override readonly name = 'ChildLostError'
}

/**
 * A fixed number of child processes that each answer one task at a time, in order of arrival. Children
 * start when they are first needed.
 */
export class ChildPool {
  readonly #options: PoolOptions
  readonly #members = new Set<Member>()
  readonly #queue: Job[] = []
  #closed = false

  constructor(options: PoolOptions) {
    this.#options = options
  }

  /** Rejects with `ChildLostError` when the child dies or takes longer than the limit. */
  ask(task: object): Promise<unknown> {
    if (this.#closed) return Promise.reject(new ChildLostError('The pool is closed.'))
    return new Promise((resolve, reject) => {
      this.#queue.push({ task, resolve, reject })
      this.#assign()
    })
  }

  /** Ends all children; tasks that are still open are rejected. */
  close(): void {
    this.#closed = true
    for (const job of this.#queue.splice(0)) job.reject(new ChildLostError('The pool is closed.'))
    for (const member of this.#members) {
      if (member.timer !== null) clearTimeout(member.timer)
      member.process.kill('SIGKILL')
    }
  }

  #assign(): void {
    while (this.#queue.length > 0) {
      const member = [...this.#members].find(candidate => candidate.job === null) ?? this.#start()
      if (member === null) return
      const job = this.#queue.shift()!
      if (member.timer !== null) clearTimeout(member.timer)
      member.job = job
      // An answer that waits to be heard, because this process was busy, comes before the limit.
      member.timer = setTimeout(() => setImmediate(() => { if (member.job === job) member.process.kill('SIGKILL') }), this.#options.timeoutMs)
      member.process.send(job.task, error => { if (error) member.process.kill('SIGKILL') })
    }
  }

  #start(): Member | null {
    if (this.#members.size >= this.#options.size) return null
    const child = fork(this.#options.program, {
      serialization: 'advanced', detached: this.#options.ownSession ?? false, execArgv: [...this.#options.execArgv ?? []],
      env: { ...process.env, ...this.#options.environment }, stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    })
    const member: Member = { process: child, job: null, done: 0, timer: null }
    this.#members.add(member)
    child.on('message', answer => this.#finish(member, answer))
    child.on('error', () => this.#lose(member))
    child.on('exit', () => this.#lose(member))
    return member
  }

  #finish(member: Member, answer: unknown): void {
    const job = member.job
    if (member.timer !== null) clearTimeout(member.timer)
    member.job = null
    member.done += 1
    if (member.done >= this.#options.recycleAfter) this.#dismiss(member)
    else if (this.#options.idleMs !== undefined) member.timer = setTimeout(() => this.#dismiss(member), this.#options.idleMs)
    job?.resolve(answer)
    this.#assign()
  }

  /** Lets a child end that has nothing in hand. */
  #dismiss(member: Member): void {
    this.#members.delete(member)
    if (member.process.connected) member.process.disconnect()
  }

  #lose(member: Member): void {
    if (member.timer !== null) clearTimeout(member.timer)
    this.#members.delete(member)
    member.job?.reject(new ChildLostError('The process ended before it had answered.'))
    member.job = null
    if (!this.#closed) this.#assign()
  }
}

import { fork, type ChildProcess } from 'node:child_process'

export interface PoolOptions {
  /** Path of the child's bundled program. */
  readonly program: string
  readonly size: number
  /** A child is replaced after this many tasks, because its memory grows slowly. */
  readonly recycleAfter: number
  /** Of a task, from when its child has started. */
  readonly timeoutMs: number
  /** A child that had nothing to do for so long ends; without, it stays. */
  readonly idleMs?: number
  /** Tasks that a child has in hand at once; one without. A child that takes several answers each with the `id` of its task. */
  readonly atOnce?: number
  readonly execArgv?: readonly string[]
  /** Children are the first of sessions of their own, so that the system tells what they do from what this process does. */
  readonly ownSession?: boolean
  /** Beside that of this process. */
  readonly environment?: Readonly<Record<string, string>>
}

/** How long a child may take to load its program: a machine with much to do needs seconds for it. */
const longestStartMs = 30_000

/** What a child sends when its program is loaded: the limit of a task it was given before begins then. */
export const childIsUp = { up: true } as const

interface Job {
  readonly id: number
  readonly task: object
  readonly piece: (answer: unknown) => void
  readonly resolve: (answer: unknown) => void
  readonly reject: (error: Error) => void
}

interface Member {
  readonly process: ChildProcess
  /** In hand, the oldest first, each with the timer of its limit. */
  readonly jobs: Map<Job, NodeJS.Timeout>
  done: number
  /** Its program is loaded. */
  isUp: boolean
  /** Of the rest between two tasks. */
  resting: NodeJS.Timeout | null
}

/** The child died or was too slow; the task may be given again. */
export class ChildLostError extends Error {
  override readonly name = 'ChildLostError'
}

/** A fixed number of child processes that answer tasks, begun in order of arrival. Children start when they are first needed, and say `childIsUp` when they have. */
export class ChildPool {
  readonly #options: PoolOptions
  readonly #members = new Set<Member>()
  readonly #queue: Job[] = []
  #asked = 0
  #closed = false

  constructor(options: PoolOptions) {
    this.#options = options
  }

  /**
   * What a child answers. One that answers in pieces sends those before the last one with `more`; `piece` is called with each. Rejects with `ChildLostError` when the child dies
   * or takes longer than the limit.
   */
  ask(task: object, piece: (answer: unknown) => void = () => undefined): Promise<unknown> {
    if (this.#closed) return Promise.reject(new ChildLostError('The pool is closed.'))
    return new Promise((resolve, reject) => {
      this.#asked += 1
      this.#queue.push({ id: this.#asked, task, piece, resolve, reject })
      this.#assign()
    })
  }

  /** Starts a child now, so that the first task does not wait for it. */
  warm(): void {
    if (this.#members.size === 0) this.#start()
  }

  /** Ends all children; tasks that are still open are rejected. */
  close(): void {
    this.#closed = true
    for (const job of this.#queue.splice(0)) job.reject(new ChildLostError('The pool is closed.'))
    for (const member of this.#members) {
      for (const timer of [...member.jobs.values(), member.resting]) clearTimeout(timer ?? undefined)
      member.process.kill('SIGKILL')
    }
  }

  #assign(): void {
    while (this.#queue.length > 0) {
      const member = this.#free()
      if (member === null) return
      const job = this.#queue.shift()!
      clearTimeout(member.resting ?? undefined)
      member.jobs.set(job, this.#limit(member, job))
      member.process.send({ ...job.task, id: job.id }, error => { if (error) member.process.kill('SIGKILL') })
    }
  }

  /** Ends the child when a task takes too long. */
  #limit(member: Member, job: Job): NodeJS.Timeout {
    // An answer that waits to be heard, because this process was busy, comes before the limit.
    return setTimeout(() => setImmediate(() => { if (member.jobs.has(job)) member.process.kill('SIGKILL') }), member.isUp ? this.#options.timeoutMs : longestStartMs)
  }

  /** A child that can take a task: one that rests, a new one, or one that can take more than it has in hand. */
  #free(): Member | null {
    const [least] = [...this.#members].filter(member => member.done < this.#options.recycleAfter).sort((a, b) => a.jobs.size - b.jobs.size)
    if (least?.jobs.size === 0) return least
    const started = this.#start()
    if (started !== null) return started
    return least !== undefined && least.jobs.size < (this.#options.atOnce ?? 1) ? least : null
  }

  #start(): Member | null {
    if (this.#members.size >= this.#options.size) return null
    const child = fork(this.#options.program, {
      serialization: 'advanced', detached: this.#options.ownSession ?? false, execArgv: [...this.#options.execArgv ?? []],
      env: { ...process.env, ...this.#options.environment }, stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    })
    const member: Member = { process: child, jobs: new Map(), done: 0, isUp: false, resting: null }
    this.#members.add(member)
    child.on('message', answer => this.#hear(member, answer))
    child.on('error', () => this.#lose(member))
    child.on('exit', () => this.#lose(member))
    return member
  }

  #hear(member: Member, answer: unknown): void {
    if ((answer as Partial<typeof childIsUp>).up === true) {
      member.isUp = true
      for (const [job, timer] of member.jobs) {
        clearTimeout(timer)
        member.jobs.set(job, this.#limit(member, job))
      }
      return
    }
    const job = this.#answered(member, answer)
    if ((answer as { readonly more?: true }).more === true) {
      job?.piece(answer)
      return
    }
    if (job !== undefined) {
      clearTimeout(member.jobs.get(job))
      member.jobs.delete(job)
    }
    member.done += 1
    if (member.jobs.size === 0) {
      if (member.done >= this.#options.recycleAfter) this.#dismiss(member)
      else if (this.#options.idleMs !== undefined) member.resting = setTimeout(() => this.#dismiss(member), this.#options.idleMs)
    }
    job?.resolve(answer)
    this.#assign()
  }

  #answered(member: Member, answer: unknown): Job | undefined {
    const jobs = [...member.jobs.keys()]
    return this.#options.atOnce === undefined ? jobs[0] : jobs.find(job => job.id === (answer as { readonly id: number }).id)
  }

  /** Lets a child end that has nothing in hand. */
  #dismiss(member: Member): void {
    this.#members.delete(member)
    if (member.process.connected) member.process.disconnect()
  }

  #lose(member: Member): void {
    clearTimeout(member.resting ?? undefined)
    this.#members.delete(member)
    for (const [job, timer] of member.jobs) {
      clearTimeout(timer)
      job.reject(new ChildLostError('The process ended before it had answered.'))
    }
    member.jobs.clear()
    if (!this.#closed) this.#assign()
  }
}

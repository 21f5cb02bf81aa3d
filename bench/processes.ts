import { readdirSync, readFileSync } from 'node:fs'

const ticksPerSecond = 100

interface Process {
  readonly pid: number
  readonly parent: number
  /** Of itself, and of its children that have ended, s. */
  readonly own: number
  readonly ended: number
}

function all(): Process[] {
  return readdirSync('/proc').filter(name => /^\d+$/u.test(name)).flatMap(name => {
    try {
      const stat = readFileSync(`/proc/${name}/stat`, 'utf8')
      const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ').map(Number)
      return {
        pid: Number(name), parent: fields[1]!,
        own: (fields[11]! + fields[12]!) / ticksPerSecond, ended: (fields[13]! + fields[14]!) / ticksPerSecond,
      }
    } catch {
      return []
    }
  })
}

/** CPU time of a process, of its children that have ended, and of those that run, s. */
export interface CpuTime {
  readonly own: number
  readonly ended: number
  readonly running: number
  readonly total: number
}

/** What a process and all below it have used so far. */
export function cpuOf(pid: number): CpuTime {
  const processes = all()
  const root = processes.find(each => each.pid === pid)
  if (root === undefined) throw new Error(`There is no process ${pid}.`)
  const below = (parent: number): Process[] => processes.filter(each => each.parent === parent).flatMap(each => [each, ...below(each.pid)])
  const running = below(pid).reduce((sum, each) => sum + each.own + each.ended, 0)
  return { own: root.own, ended: root.ended, running, total: root.own + root.ended + running }
}

export function since(now: CpuTime, before: CpuTime): CpuTime {
  return { own: now.own - before.own, ended: now.ended - before.ended, running: now.running - before.running, total: now.total - before.total }
}

/** Time of all processors of this machine so far, and what of it the host gave to other machines, ticks. */
export function machineTime(): { readonly all: number, readonly taken: number } {
  // user, nice, system, idle, iowait, irq, softirq, steal (proc(5))
  const ticks = readFileSync('/proc/stat', 'utf8').split('\n', 1)[0]!.split(/\s+/u).slice(1, 9).map(Number)
  return { all: ticks.reduce((sum, each) => sum + each, 0), taken: ticks[7]! }
}

/** The most memory that a process has held at once, MB. */
export function peakMemoryMb(pid: number): number {
  return Number(/^VmHWM:\s+(\d+) kB$/mu.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024
}

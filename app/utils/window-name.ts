/** How long the page that was may take to go: it is certain to be going after a reload only. */
const patienceMs = { reload: 20_000, other: 4000 }

let name: Promise<string> | null = null

/**
 * The name under which this window edits. It is the same after a reload, and a window that is closed gives its
 * name to the next one that is opened: so undo reaches back across both. Two open windows never share one.
 */
export function windowName(): Promise<string> {
  name ??= chooseName()
  return name
}

async function chooseName(): Promise<string> {
  const browser = localStorage.getItem('browser') ?? crypto.randomUUID()
  localStorage.setItem('browser', browser)
  const slot = await takeSlot()
  sessionStorage.setItem('slot', String(slot))
  return `${browser}-${slot}`
}

async function takeSlot(): Promise<number> {
  const before = Number(sessionStorage.getItem('slot') ?? 0)
  // The page that was may hold it for a moment, on a slow machine for seconds; a copy of a window finds it taken for good.
  const [navigation] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[]
  const patience = navigation?.type === 'reload' ? patienceMs.reload : patienceMs.other
  if (before > 0 && await hold(before, { signal: AbortSignal.timeout(patience) })) return before
  for (let slot = 1; ; slot += 1) if (await hold(slot, { ifAvailable: true })) return slot
}

/** Holds a lock for as long as the page lives. */
function hold(slot: number, options: LockOptions): Promise<boolean> {
  return new Promise(resolve => {
    navigator.locks.request(`window ${slot}`, options, lock => {
      resolve(lock !== null)
      return lock === null ? undefined : new Promise<never>(() => undefined)
    }).catch(() => resolve(false))
  })
}

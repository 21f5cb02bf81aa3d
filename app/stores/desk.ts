import { refDebounced, useEventSource } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { capabilitiesOf, type Casting } from '#core/score/cast'
import type { Desk, OperationsAnswer, PartSummary, ReadingDesk } from '#shared/api'
import type { Operation } from '#shared/operations'
import type { CastingRequest, EditionRequest, DeliveryRequest } from '#shared/schemas'
import { useFirstSteps } from '~/composables/useFirstSteps'
import { useNotices } from '~/stores/notices'
import { answeredAt, ask, messageOf, sendFile } from '~/utils/api'
import { windowName } from '~/utils/window-name'

/** Between an event and the loads it causes, so that events that come together cause one. */
const eventDelayMs = 250
/** While a reading runs, loading the desk may take this share of the time. */
const loadingShare = 0.2

/** A connection that is lost is usually there again by then. */
const awayAfterMs = 2_000

/** What listening makes comes sentence by sentence. */
const listeningDelayMs = 1_500

/** The edition on the desk, kept up to date by the server's events. */
export const useDesk = defineStore('desk', () => {
  const notices = useNotices()
  const firstSteps = useFirstSteps()
  const editionId = ref<string | null>(null)
  const desk = ref<Desk | null>(null)
  const reading = ref<ReadingDesk | null>(null)
  /** Counts changes of deliveries, for whoever shows them. */
  const deliveryTick = ref(0)
  /** Counts changes of script, rests, voice or takes, for whoever shows a score. */
  const scoreTick = ref(0)

  const parts = computed<readonly PartSummary[]>(() => desk.value?.parts ?? [])
  const included = computed(() => parts.value.filter(part => part.included))
  const running = computed(() => reading.value?.reading?.state === 'running' ? reading.value.reading : null)
  /** Sentences that a reading would make now. */
  const missing = computed(() => reading.value?.toRead.sentences ?? 0)
  const totalMs = computed(() => included.value.reduce((sum, part) => sum + part.durationMs, 0))

  const url = computed(() => editionId.value === null ? undefined : `/api/editions/${editionId.value}/events`)
  const { event, lastEventId, status } = useEventSource(url, ['reading', 'delivery', 'script', 'takes'] as const, { autoReconnect: { delay: 1000 } })
  /** Since when it tells nothing, ms of the page. */
  const silentAt = ref<number | null>(null)
  watch([url, status], () => { silentAt.value = url.value === undefined || status.value === 'OPEN' ? null : performance.now() })
  /** The server has told and answered nothing for a while. */
  const isAway = refDebounced(computed(() => silentAt.value !== null && answeredAt.value < silentAt.value), awayAfterMs)
  watch([lastEventId, status], () => {
    if (status.value !== 'OPEN') return
    if (event.value === 'delivery') deliveryTick.value += 1
    if (event.value === 'reading') followReading()
    else if (event.value === 'takes') refreshSoon(listeningDelayMs)
    else refreshSoon(eventDelayMs)
  })

  async function open(id: string): Promise<void> {
    if (editionId.value !== id) {
      desk.value = null
      reading.value = null
      editionId.value = id
    }
    await refresh()
  }

  /** Watches nothing any more. */
  function leave(): void {
    editionId.value = null
  }

  let again = false
  let loadedInMs = 0
  let refreshing: Promise<void> | null = null
  /** Loads again; calls that come while it loads are one more load afterwards. */
  function refresh(): Promise<void> {
    again = true
    refreshing ??= (async () => {
      try {
        while (again) {
          again = false
          const began = performance.now()
          const id = editionId.value
          if (id === null) return
          const [loaded, loadedReading] = await Promise.all([ask<Desk>(`/api/editions/${id}`), ask<ReadingDesk>(`/api/editions/${id}/reading`)])
          if (editionId.value !== id) continue
          loadedInMs = performance.now() - began
          desk.value = loaded
          reading.value = loadedReading
          scoreTick.value += 1
        }
      } finally {
        refreshing = null
      }
    })()
    return refreshing
  }

  let timer: ReturnType<typeof setTimeout> | null = null
  function refreshSoon(ms: number): void {
    timer ??= setTimeout(() => {
      timer = null
      void inBackground(refresh)
    }, ms)
  }

  /** Said while what is shown could not be brought up to date. */
  let outOfDate: string | null = null
  /** Brings up to date what nobody waits for. That it fails is said, until it succeeds. */
  async function inBackground(load: () => Promise<void>): Promise<void> {
    try {
      await load()
      if (outOfDate !== null && notices.current === outOfDate) notices.dismiss()
      outOfDate = null
    } catch (error) {
      outOfDate = messageOf(error)
      notices.show(outOfDate)
    }
  }

  let following = false
  /** While a reading runs its figures are loaded often, the whole desk as often as it is quick: that of a long book is not. */
  function followReading(): void {
    if (following) return
    following = true
    setTimeout(() => {
      following = false
      const id = editionId.value
      if (id === null) return
      void inBackground(async () => {
        const loaded = await ask<ReadingDesk>(`/api/editions/${id}/reading`)
        if (editionId.value !== id) return
        reading.value = loaded
        refreshSoon(loaded.reading?.state === 'running' ? loadedInMs / loadingShare : 0)
      })
    }, eventDelayMs)
  }

  async function change<T = void>(path: string, method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', body?: unknown): Promise<T> {
    const answer = await ask<T>(`/api/editions/${editionId.value}${path}`, method, body)
    await refresh()
    return answer
  }

  return {
    editionId, desk, reading, deliveryTick, scoreTick, parts, included, running, missing, totalMs, isAway, open, leave, refresh,
    engineOf: (casting: Pick<Casting, 'engine'>) => capabilitiesOf(desk.value!.engines, casting),
    operate: async (operations: Operation[]) => change<OperationsAnswer>('/operations', 'POST', { window: await windowName(), operations }),
    edit: (request: EditionRequest) => change('', 'PATCH', request),
    setCasting: (casting: CastingRequest) => change('/casting', 'PUT', casting),
    /** Brings a sound into the library, under the name of its file or another. Resolves to its name there. */
    addSound: async (file: File, name = file.name) => {
      const added = await sendFile<{ readonly name: string }>(`/api/editions/${editionId.value}/sounds?name=${encodeURIComponent(name)}`, file)
      await refresh()
      return added.name
    },
    removeSound: (id: string) => change(`/sounds/${id}`, 'DELETE'),
    read: async (parts?: readonly string[]) => {
      await change('/readings', 'POST', parts === undefined ? {} : { parts })
      firstSteps.tick('read')
    },
    deliver: async (request: DeliveryRequest) => {
      await change('/deliveries', 'POST', request)
      firstSteps.tick('made')
    },
    retry: async (keys: readonly string[] | null) => {
      await ask(`/api/readings/${reading.value!.reading!.id}/retry`, 'POST', keys === null ? {} : { keys })
      await refresh()
    },
    stopReading: async () => {
      if (running.value !== null) await ask(`/api/readings/${running.value.id}/stop`, 'POST')
      await refresh()
    },
  }
})

import { setTimeout as sleep } from 'node:timers/promises'
import { hash } from '#core/hash'
import type { Micros } from '#core/estimate/price'
import { ProblemError } from '#core/problem'
import type { SpeechEngines } from '#voices/engines'
import type { Bill } from './bill'
import type { Settings } from './settings'
import { sampleRate, speak, type Speech } from './speech'
import { readMarkup } from './ssml'
import { soldVoices } from './voices'

/** A request as it is sent. */
export interface SpeechOrder {
  readonly voice: string
  /** Of the voice's own pace. */
  readonly ratePercent: number
  readonly pitchSemitones: number
  readonly markup: string
}

export interface SpeechAnswer {
  readonly sampleRate: number
  /** Signed 16 bit, little-endian, mono, as base64. */
  readonly audio: string
  readonly words: Speech['words'] | null
  readonly billed: { readonly characters: number, readonly micros: Micros }
}

/** An answer with another status than 200. */
export class Refusal extends Error {
  constructor(readonly status: number, readonly code: string, message: string, readonly retryAfterSeconds: number | null = null) {
    super(message)
  }
}

/** What happens to an answer on its way. */
export type Delivery = 'whole' | 'cut-off'

interface Remembered {
  readonly order: string
  readonly answer: Promise<SpeechAnswer>
}

/** One of the last requests, for the service's own page. */
export interface Asked {
  readonly at: string
  readonly voice: string
  readonly characters: number
  readonly status: number
}

const keptAsked = 50
const secondMs = 1000

/** Sells speech. */
export class SpeechService {
  readonly asked: Asked[] = []
  readonly #remembered = new Map<string, Remembered>()
  #arrivals: number[] = []
  #atOnce = 0

  /** `random` decides on faults: 0…1, anew for each call. */
  constructor(public settings: Settings, readonly bill: Bill, private readonly engines: SpeechEngines, private readonly random: () => number = Math.random) {}

  /** Throws a refusal for a wrong key. */
  admit(key: string | undefined): void {
    if (key !== this.settings.key) throw new Refusal(401, 'key-refused', 'The key is not known.')
  }

  account(): object {
    const { currency, charactersPerRequest, countsMarkup, requestsPerSecond, requestsAtOnce, wordTimes, prices, charactersPerMonth } = this.settings
    return { currency, charactersPerRequest, countsMarkup, requestsPerSecond, requestsAtOnce, wordTimes, prices, charactersPerMonth, used: this.bill.monthOf(new Date()) }
  }

  voices(): object {
    return soldVoices.map(({ id, name, language, gender, tier, revision, wordsPerMinute }) => ({ id, name, language, gender, tier, revision, wordsPerMinute }))
  }

  /** Speaks, and bills what it spoke. Throws a refusal. */
  async speech(order: SpeechOrder, request: string | null): Promise<{ readonly answer: SpeechAnswer, readonly delivery: Delivery }> {
    const characters = this.#charactersOf(order)
    try {
      const answered = await this.#admitted(order, request, characters)
      this.#note(order, characters, 200)
      return answered
    } catch (error) {
      if (error instanceof Refusal) this.#note(order, characters, error.status)
      throw error
    }
  }

  async #admitted(order: SpeechOrder, request: string | null, characters: number): Promise<{ answer: SpeechAnswer, delivery: Delivery }> {
    const { requestsPerSecond, requestsAtOnce, faults, slowMs } = this.settings
    const now = Date.now()
    this.#arrivals = this.#arrivals.filter(at => now - at < secondMs)
    if (this.#arrivals.length >= requestsPerSecond || this.#atOnce >= requestsAtOnce) throw new Refusal(429, 'too-many', 'Too many requests. Wait a little.', 1)
    this.#arrivals.push(now)
    const chance = this.random()
    if (chance < faults.busy) throw new Refusal(429, 'too-many', 'Too many requests. Wait a little.', 1)
    if (chance < faults.busy + faults.unavailable) throw new Refusal(503, 'unavailable', 'The service does not work just now.')
    const isCut = chance < faults.busy + faults.unavailable + faults.cutOff
    const isSlow = !isCut && chance < faults.busy + faults.unavailable + faults.cutOff + faults.slow
    this.#atOnce += 1
    try {
      const answer = await this.#once(order, request, characters)
      if (isSlow) await sleep(slowMs)
      return { answer, delivery: isCut ? 'cut-off' : 'whole' }
    } finally {
      this.#atOnce -= 1
    }
  }

  /** A request that comes again under its key is answered again, and not billed again. */
  #once(order: SpeechOrder, request: string | null, characters: number): Promise<SpeechAnswer> {
    const key = this.settings.idempotency ? request : null
    if (key === null) return this.#sell(order, null, characters)
    const digest = hash(order)
    const known = this.#remembered.get(key)
    if (known !== undefined && known.order !== digest) throw new Refusal(422, 'key-reused', 'Another request had this idempotency key.')
    if (known !== undefined) return known.answer
    const answer = this.#sell(order, key, characters)
    this.#remembered.set(key, { order: digest, answer })
    answer.catch(() => this.#remembered.delete(key))
    return answer
  }

  async #sell(order: SpeechOrder, request: string | null, characters: number): Promise<SpeechAnswer> {
    const { charactersPerMonth, wordTimes } = this.settings
    const { tier } = soldVoices.find(({ id }) => id === order.voice)!
    const billed = request === null ? undefined : this.bill.entries.find(entry => entry.request === request)
    const { plain, fine } = this.bill.monthOf(new Date()).characters
    if (billed === undefined && charactersPerMonth !== null && plain + fine + characters > charactersPerMonth) throw new Refusal(402, 'allowance-spent', `The allowance of this month, ${charactersPerMonth} characters, is used up.`)
    const { samples, words } = await speak(this.engines, order)
    const { micros } = billed ?? this.bill.add({ request, voice: order.voice, tier, characters }, this.settings, new Date())
    return { sampleRate, audio: Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength).toString('base64'), words: wordTimes ? words : null, billed: { characters, micros } }
  }

  /** Characters as they are billed. Throws a refusal for a voice or markup that is not known, and for too many. */
  #charactersOf({ voice, markup }: SpeechOrder): number {
    const { countsMarkup, charactersPerRequest } = this.settings
    if (!soldVoices.some(({ id }) => id === voice)) throw new Refusal(404, 'voice-unknown', `There is no voice “${voice}”.`)
    try {
      const { sentences, characters: ofText } = readMarkup(markup)
      if (sentences.length === 0) throw new Refusal(400, 'nothing-to-say', 'There is nothing to say.')
      const characters = countsMarkup ? [...markup].length : ofText
      if (characters > charactersPerRequest) throw new Refusal(413, 'too-long', `${characters} characters are more than ${charactersPerRequest}.`)
      return characters
    } catch (error) {
      if (error instanceof ProblemError) throw new Refusal(400, error.problem.code, error.problem.message)
      throw error
    }
  }

  #note({ voice }: SpeechOrder, characters: number, status: number): void {
    this.asked.unshift({ at: new Date().toISOString(), voice, characters, status })
    this.asked.length = Math.min(this.asked.length, keptAsked)
  }
}

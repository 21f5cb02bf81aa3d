import { setTimeout as sleep } from 'node:timers/promises'
import { LRUCache } from 'lru-cache'
import PQueue from 'p-queue'
import pRetry, { AbortError } from 'p-retry'
import type { About } from '#core/health'
import { hash } from '#core/hash'
import { priceOf } from '#core/estimate/price'
import { fail, ProblemError, type Problem } from '#core/problem'
import type { EngineCapabilities } from '#core/score/cast'
import type { EngineRequest } from '#core/score/request'
import { resample } from '#core/audio/resample'
import type { AskedUtterance, Engine, EngineOptions, Question, Spoken, VoiceList } from '../port'
import { laid, trimmed, type Piece } from '../trimmed'
import { environmentAccounts, type Account, type Accounts, type Purpose } from './accounts'
import { divided } from './divide'
import { ordersFor, partsOf, type Order, type OrderLimit, type OrderPart, type Utterance } from './orders'
import { bodyOf, isSayable, textOf } from './pieces'
import { ServiceFault, type Offer, type PaidAnswer, type Terms, type Wire } from './wire'

/** An order is asked for so many times, ever longer apart. */
const tries = 8
const usualFirstWaitMs = 250
const longestWaitMs = 10_000
const usualTimeoutMs = 60_000
/** How long what a service says about itself is believed. */
const knownForMs = 60_000
const mostAtOnce = 4

/** An engine that is asked over the network, under an account, and billed. */
export class PaidEngine implements Engine {
  readonly parallel = mostAtOnce
  readonly #capabilities: EngineCapabilities
  readonly #wire: Wire
  readonly #accounts: Accounts
  readonly #timeoutMs: number
  readonly #firstWaitMs: number
  /** By account, address and key. What it said last is believed while it does not answer. */
  readonly #known = new LRUCache<string, Offer, Account>({
    max: 10, ttl: knownForMs, noDeleteOnFetchRejection: true,
    fetchMethod: (_key, _stale, { context: account }) => this.#wire.offer(account),
  })
  readonly #asking = new PQueue({ concurrency: mostAtOnce })

  constructor(capabilities: EngineCapabilities, wire: Wire, { accounts = environmentAccounts(process.env), timeoutMs = usualTimeoutMs, firstWaitMs = usualFirstWaitMs }: EngineOptions) {
    this.#capabilities = capabilities
    this.#wire = wire
    this.#accounts = accounts
    this.#timeoutMs = timeoutMs
    this.#firstWaitMs = firstWaitMs
  }

  async list(): Promise<VoiceList> {
    const account = await this.#accounts.of(this.#capabilities.id)
    if (account === null) return { voices: [], variants: [] }
    const { voices, terms: { currency } } = await this.#knownOf(account, false)
    return { voices: voices.map(({ wordsPerMinute: _, tariff: { microsPerMillion }, ...voice }) => ({ ...voice, engine: this.#capabilities.id, price: { microsPerMillion, currency } })), variants: [] }
  }

  async about(): Promise<About> {
    const account = await this.#accounts.of(this.#capabilities.id)
    if (account === null) return { found: 'no account is set up: it is not used', remedy: null }
    const { voices, terms } = await this.#askedNow(account, true).catch((error: unknown) => { throw asProblemError(error) })
    return { found: `${voices.length} voices, ${terms.charactersPerRequest.toLocaleString('en-GB')} characters in a request`, remedy: null }
  }

  async speak(request: EngineRequest): Promise<Spoken> {
    const key = hash(request)
    const answers = new Map<string, Spoken | Problem>()
    for (const question of await this.questions([{ key, request, purpose: null }])) for (const [of, answer] of await question.ask()) answers.set(of, answer)
    const answer = answers.get(key)
    if (answer === undefined) throw new Error('The service has answered nothing.')
    if ('samples' in answer) return answer
    throw new ProblemError(answer)
  }

  async questions(wanted: readonly AskedUtterance[]): Promise<readonly Question[]> {
    const account = await this.#accounts.of(this.#capabilities.id) ?? fail('account-missing', `No account is set up for “${this.#capabilities.name}”. Set one up on the Settings page, or choose another voice.`)
    const known = await this.#knownOf(account, true)
    const questions: Question[] = []
    const utterances = new Map<string, Utterance>()
    for (const { key, request } of wanted) {
      try {
        utterances.set(key, { key, request, parts: this.#partsFor(key, request, known) })
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        questions.push({ keys: [key], ask: () => Promise.resolve(new Map([[key, error.problem]])) })
      }
    }
    const left = new Map(wanted.filter(({ key }) => utterances.has(key)).map(each => [each.key, each]))
    // What was asked for before, and lost on its way, is asked for in the same words: it is not billed again.
    for (const order of await this.#accounts.begun(account, [...left.keys()])) {
      const whole = [...left.values()].filter(({ key }) => order.parts.filter(part => part.key === key).length === utterances.get(key)!.parts.length)
      if (whole.length === 0) continue
      for (const { key } of whole) left.delete(key)
      questions.push(this.#question(account, known, whole, [order]))
    }
    /** Orders that one utterance is divided over belong together. */
    const together: Order[][] = []
    for (const order of ordersFor([...left.keys()].map(key => utterances.get(key)!), this.#limitOf(known.terms))) {
      const [{ key }] = order.parts as [OrderPart]
      if (together.at(-1)?.[0]?.parts[0]!.key === key) together.at(-1)!.push(order)
      else together.push([order])
    }
    for (const orders of together) {
      const keys = [...new Set(orders.flatMap(({ parts }) => parts.map(({ key }) => key)))]
      questions.push(this.#question(account, known, keys.map(key => left.get(key)!), orders))
    }
    return questions
  }

  close(): Promise<void> {
    this.#asking.clear()
    return Promise.resolve()
  }

  /** What a service offers, as far as it is known; `isPatient` asks for it again after faults. */
  async #knownOf(account: Account, isPatient: boolean): Promise<Offer> {
    const last = this.#known.peek(nameOf(account), { allowStale: true })
    try {
      return await (isPatient && last === undefined ? this.#untilAnswered(() => this.#askedNow(account)) : this.#askedNow(account))
    } catch (error) {
      if (last !== undefined && error instanceof ServiceFault && error.again) return last
      throw asProblemError(error, isPatient)
    }
  }

  async #askedNow(account: Account, forceRefresh = false): Promise<Offer> {
    return (await this.#known.fetch(nameOf(account), { context: account, forceRefresh }))!
  }

  #limitOf(terms: Terms): OrderLimit {
    return { characters: terms.charactersPerRequest, count: parts => this.#wire.count(parts, terms), isDivisible: terms.wordTimes }
  }

  #partsFor(key: string, request: EngineRequest, { terms, voices }: Offer): OrderPart[] {
    if (!voices.some(({ id }) => id === request.voice)) fail('voice-unknown', `The service has no voice “${request.voice}”. Choose one from the list of voices.`)
    let begins = 0
    const parts = bodyOf(request.body).pieces.flatMap((piece, number) => {
      const text = textOf(piece)
      const own = isSayable(text) ? partsOf(key, piece, number, begins, this.#limitOf(terms)) : []
      begins += text.length + 1
      return own.filter(part => isSayable(textOf(part)))
    })
    return parts.length === 0 ? fail('nothing-to-say', 'There is nothing in this sentence that a voice could say. Give it a rest instead.') : parts
  }

  #question(account: Account, known: Offer, utterances: readonly AskedUtterance[], orders: readonly Order[]): Question {
    return {
      keys: utterances.map(({ key }) => key),
      ask: async () => {
        const wanted = new Set(utterances.map(({ key }) => key))
        const purpose = utterances[0]!.purpose
        try {
          const parts = new Map<string, { readonly part: OrderPart, readonly spoken: Piece }[]>()
          for (const order of orders) {
            for (const each of await this.#partsSpoken(account, known, order, purpose)) {
              if (wanted.has(each.part.key)) parts.set(each.part.key, [...parts.get(each.part.key) ?? [], each])
            }
          }
          return new Map(utterances.map(({ key, request }) => [key, this.#assembled(request, parts.get(key) ?? [])]))
        } catch (error) {
          // One that is refused must not take the others with it: refused orders cost nothing.
          if (error instanceof ProblemError && error.problem.code === 'request-refused' && utterances.length > 1) return this.#oneByOne(account, known, utterances)
          throw error
        }
      },
    }
  }

  async #oneByOne(account: Account, known: Offer, utterances: readonly AskedUtterance[]): Promise<ReadonlyMap<string, Spoken | Problem>> {
    const answers = new Map<string, Spoken | Problem>()
    for (const utterance of utterances) {
      const { key, request } = utterance
      const orders = ordersFor([{ key, request, parts: this.#partsFor(key, request, known) }], this.#limitOf(known.terms))
      try {
        for (const [of, answer] of await this.#question(account, known, [utterance], orders).ask()) answers.set(of, answer)
      } catch (error) {
        if (!(error instanceof ProblemError) || error.problem.code !== 'request-refused') throw error
        answers.set(key, error.problem)
      }
    }
    return answers
  }

  /** What was spoken of each part of an order. Where the answer cannot be told apart, each part is asked for by itself. */
  async #partsSpoken(account: Account, known: Offer, order: Order, purpose: Purpose | null): Promise<{ readonly part: OrderPart, readonly spoken: Piece }[]> {
    const answer = await this.#bought(account, known, order, purpose)
    const { sampleRate } = this.#capabilities
    const samples = resample(answer.samples, answer.sampleRate, sampleRate)
    const words = answer.words.map(({ place, sample }) => ({ place, sample: Math.round(sample * sampleRate / answer.sampleRate) }))
    const pieces = divided({ samples, words }, sampleRate, order.parts.map(part => textOf(part).length))
    if (pieces !== null) return order.parts.map((part, index) => ({ part, spoken: pieces[index]! }))
    const spoken = []
    for (const part of order.parts) spoken.push(...await this.#partsSpoken(account, known, { ...order, parts: [part] }, purpose))
    return spoken
  }

  /** An utterance of what was spoken of its parts. */
  #assembled({ body }: EngineRequest, spoken: readonly { readonly part: OrderPart, readonly spoken: Piece }[]): Spoken {
    const { sampleRate } = this.#capabilities
    const { samples, words, begins } = laid(spoken.map(({ part, spoken: { samples: own, words: marks } }) => ({ samples: own, words: marks.map(({ place, sample }) => ({ place: part.begins + place, sample })) })), sampleRate)
    let place = 0
    const cuts = bodyOf(body).pieces.flatMap((piece, number) => {
      const cut = { place, isRest: piece.isAfterRest === true, sample: begins[spoken.findIndex(({ part }) => part.piece >= number)] ?? samples.length }
      place += textOf(piece).length + 1
      return number > 0 || cut.isRest ? [cut] : []
    })
    return trimmed(samples, sampleRate, words, cuts)
  }

  /** Buys an order: noted before it is asked for, asked for until it is answered, noted again. Throws a problem. */
  async #bought(account: Account, { terms, voices }: Offer, order: Order, purpose: Purpose | null): Promise<PaidAnswer> {
    const voice = voices.find(({ id }) => id === order.voice) ?? fail('voice-unknown', `The service has no voice “${order.voice}” any more. Choose another one on the Cast page.`)
    const characters = this.#wire.count(order.parts, terms)
    const micros = priceOf(characters, 0, { ...voice.tariff, freeCharacters: 0 })
    const id = await this.#accounts.reserve(account, { order, keys: [...new Set(order.parts.map(({ key }) => key))], characters, micros, currency: terms.currency, purpose })
    const ask = async (): Promise<PaidAnswer> => {
      await this.#accounts.turn(account, id, terms.requestsPerSecond)
      return this.#wire.speak(account, order, { id, ownWordsPerMinute: voice.wordsPerMinute, timeoutMs: this.#timeoutMs })
    }
    this.#asking.concurrency = Math.min(mostAtOnce, terms.requestsAtOnce)
    try {
      const answer = await this.#untilAnswered(() => this.#asking.add(ask, { throwOnTimeout: true }))
      await this.#accounts.settle(id, answer.billed)
      return answer
    } catch (error) {
      if (error instanceof ServiceFault && !error.again) await this.#accounts.refuse(id, error.problem.code)
      throw asProblemError(error, true)
    }
  }

  /** Asks until the service answers, ever later, a few times. Rejects with its last fault, or the first that another try would not mend. */
  #untilAnswered<T>(ask: () => Promise<T>): Promise<T> {
    return pRetry(() => ask().catch((error: unknown) => {
      throw error instanceof ServiceFault && error.again ? error : new AbortError(error as Error)
    }), {
      retries: tries - 1, minTimeout: this.#firstWaitMs, maxTimeout: longestWaitMs, randomize: true,
      onFailedAttempt: async error => { if (error instanceof ServiceFault) await sleep(error.afterMs) },
    })
  }
}

/** A fault of a service as a problem, after a try or, if it may go well another time, after all of them; any other error as it is. */
function asProblemError(error: unknown, wasTriedAgain = false): unknown {
  if (!(error instanceof ServiceFault)) return error
  if (!error.again || !wasTriedAgain) return new ProblemError(error.problem)
  return new ProblemError({ code: 'service-stopped', message: `${error.problem.message} It was asked ${tries} times. Try again later, or choose another voice. What is read is kept.` })
}

const nameOf = ({ id, address, key }: Account): string => hash([id, address, key])

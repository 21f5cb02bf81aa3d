import { Ajv, type ValidateFunction } from 'ajv'
import { samplesOf } from '#core/audio/pcm'
import { lookup } from '#core/lookup'
import type { Voice } from '../port'
import { textOf } from '../paid/pieces'
import type { Account } from '../paid/accounts'
import { ServiceFault, type Terms, type Wire } from '../paid/wire'
import { markupOf } from './markup'

const whole = { type: 'integer', minimum: 0 } as const
const positive = { type: 'integer', minimum: 1 } as const

/** A check of answers, compiled when the first one comes: most processes never ask a service. */
function accepting<T>(schema: object): (value: unknown) => value is T {
  let validate: ValidateFunction<T> | null = null
  return (value): value is T => (validate ??= new Ajv().compile<T>(schema))(value)
}

interface AccountAnswer extends Terms {
  readonly prices: Readonly<Record<string, { readonly microsPerMillion: number, readonly freeCharacters: number }>>
}
const isAccount = accepting<AccountAnswer>({
  type: 'object', required: ['currency', 'charactersPerRequest', 'countsMarkup', 'requestsPerSecond', 'requestsAtOnce', 'wordTimes', 'prices'],
  properties: {
    currency: { type: 'string', pattern: '^[A-Z]{3}$' }, charactersPerRequest: positive, countsMarkup: { type: 'boolean' }, requestsPerSecond: { type: 'number', exclusiveMinimum: 0 }, requestsAtOnce: positive, wordTimes: { type: 'boolean' },
    prices: { type: 'object', additionalProperties: { type: 'object', required: ['microsPerMillion', 'freeCharacters'], properties: { microsPerMillion: whole, freeCharacters: whole } } },
  },
})

type VoiceAnswer = Pick<Voice, 'id' | 'name' | 'language' | 'gender' | 'revision'> & { readonly tier: string, readonly wordsPerMinute: number }
const isVoices = accepting<VoiceAnswer[]>({
  type: 'array', items: {
    type: 'object', required: ['id', 'name', 'language', 'gender', 'tier', 'revision', 'wordsPerMinute'],
    properties: { id: { type: 'string', pattern: '^[a-z0-9-]+$' }, name: { type: 'string' }, language: { type: 'string' }, gender: { enum: ['female', 'male', 'unknown'] }, tier: { type: 'string' }, revision: { type: 'string', minLength: 1 }, wordsPerMinute: { type: 'number', exclusiveMinimum: 0 } },
  },
})

interface SpeechAnswer {
  readonly sampleRate: number
  readonly audio: string
  readonly words: readonly (readonly [number, number])[] | null
  readonly billed: { readonly characters: number, readonly micros: number }
}
const isSpeech = accepting<SpeechAnswer>({
  type: 'object', required: ['sampleRate', 'audio', 'words', 'billed'],
  properties: {
    sampleRate: { type: 'integer', minimum: 8_000, maximum: 96_000 }, audio: { type: 'string' },
    words: { type: ['array', 'null'], items: { type: 'array', minItems: 2, maxItems: 2, items: whole } },
    billed: { type: 'object', required: ['characters', 'micros'], properties: { characters: whole, micros: whole } },
  },
})

const askTimeoutMs = 10_000

/** What its answers mean that say no. */
const refusals: Readonly<Record<string, readonly [code: string, message: string]>> = {
  401: ['account-refused', 'The speech service does not know the key. Enter it again on the Settings page.'],
  403: ['account-refused', 'The speech service does not let this account in. Look at the account there, or enter another key on the Settings page.'],
  402: ['allowance-spent', 'The allowance of this month at the speech service is used up. Raise it there, wait for the next month, or choose another voice. What is read is kept.'],
  404: ['voice-unknown', 'The speech service does not have this voice. Choose another one on the Cast page.'],
}

function unclear(): never {
  throw new ServiceFault({ code: 'service-unclear', message: 'The answer of the speech service is not understood. Check its address on the Settings page.' }, true)
}

async function ask<T>({ address, key }: Account, path: string, accept: (value: unknown) => value is T, timeoutMs: number, options: RequestInit = {}): Promise<T> {
  let response: Response
  let text: string
  try {
    response = await fetch(`${address}${path}`, { ...options, redirect: 'error', headers: { ...options.headers, authorization: `Bearer ${key}` }, signal: AbortSignal.timeout(timeoutMs) })
    text = await response.text()
  } catch (error) {
    const isLate = error instanceof Error && error.name === 'TimeoutError'
    throw new ServiceFault(isLate ? { code: 'service-slow', message: `The speech service did not answer within ${timeoutMs / 1000} s.` } : { code: 'service-away', message: 'The speech service cannot be reached, or its answer was cut off. Check its address on the Settings page, and the network.' }, true)
  }
  if (response.ok) {
    let value: unknown
    try {
      value = JSON.parse(text)
    } catch {
      unclear()
    }
    return accept(value) ? value : unclear()
  }
  const again = response.status === 429 || response.status >= 500
  if (again) throw new ServiceFault({ code: 'service-busy', message: response.status === 429 ? 'The speech service has too much to do.' : `The speech service does not work just now (${response.status}).` }, true, 1000 * (Number(response.headers.get('retry-after')) || 0))
  const [code, message] = lookup(refusals, String(response.status)) ?? ['request-refused', `The speech service refuses this text: ${reasonIn(text)}`]
  throw new ServiceFault({ code, message }, false)
}

/** What it says itself, as far as it is a short text. */
function reasonIn(text: string): string {
  try {
    const { error } = JSON.parse(text) as { error?: { message?: unknown } }
    return String(error?.message ?? '').slice(0, 200)
  } catch {
    return 'it does not say why.'
  }
}

/** How the service is spoken to: JSON over HTTP (`docs/speech-service.md`). */
export const wire: Wire = {
  offer: async account => {
    const [{ prices, ...terms }, voices] = await Promise.all([ask(account, '/account', isAccount, askTimeoutMs), ask(account, '/voices', isVoices, askTimeoutMs)])
    const priced = voices.flatMap(({ id, name, language, gender, revision, wordsPerMinute, tier }) => {
      const tariff = lookup(prices, tier)
      return tariff === undefined ? [] : [{ id, name, language, gender, revision, wordsPerMinute, tier, tariff }]
    })
    return { terms, voices: priced }
  },
  count: (parts, { countsMarkup }) => [...(countsMarkup ? markupOf(parts) : parts.map(textOf).join(''))].length,
  speak: async (account, { voice, wordsPerMinute, pitchSemitones, parts }, { id, ownWordsPerMinute, timeoutMs }) => {
    const order = { voice, ratePercent: Number((wordsPerMinute / ownWordsPerMinute * 100).toFixed(2)), pitchSemitones, markup: markupOf(parts) }
    const { sampleRate, audio, words, billed } = await ask(account, '/speech', isSpeech, timeoutMs, { method: 'POST', body: JSON.stringify(order), headers: { 'content-type': 'application/json', 'idempotency-key': id } })
    return { samples: samplesOf(Buffer.from(audio, 'base64')), sampleRate, billed, words: (words ?? []).map(([place, sample]) => ({ place, sample })) }
  },
}

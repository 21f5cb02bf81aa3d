import { join } from 'node:path'
import type { About } from '#core/health'
import { lookup } from '#core/lookup'
import { fail, ProblemError, type Problem } from '#core/problem'
import type { EngineRequest } from '#core/score/request'
import { askChild, unexpectedAnswer } from '../ask-child'
import { ChildPool } from '../child-pool'
import type { Engine, EngineOptions, Spoken, VoiceList } from '../port'
import { capabilities } from './capabilities'
import type { ChildAnswer, ChildTask } from './child'
import { toPhones } from './phones'
import { isSayable, type FliteBody } from './text'
import { clockWords, voiceSettings, type VoiceName } from './voices'

/** Raised when trimming, tables or the way the library is driven changes what equal requests sound like. */
const drivingRevision = 1
/** Of the Debian package: the library does not tell. */
const version = '2.2'

const usualTimeoutMs = 60_000

/** The small English engine, driven through its C library in child processes. */
export class FliteEngine implements Engine {
  readonly parallel: number
  readonly #pool: ChildPool
  #installed: Promise<readonly VoiceName[]> | null = null

  constructor({ programs, parallel, timeoutMs = usualTimeoutMs }: EngineOptions) {
    this.parallel = parallel
    this.#pool = new ChildPool({ program: join(programs, 'flite-child.mjs'), size: parallel, recycleAfter: 500, timeoutMs })
  }

  async list(): Promise<VoiceList> {
    const installed = await this.#voices()
    const revision = `${version}/${drivingRevision}`
    return {
      voices: installed.map(id => {
        const { name, gender, warning } = voiceSettings[id]
        return { engine: capabilities.id, id, name, language: 'en-US', gender, revision, ...(warning === undefined ? {} : { warning }) }
      }),
      variants: [],
    }
  }

  async about(): Promise<About> {
    return { found: `flite ${version}, ${(await this.#voices()).length} voices`, remedy: null }
  }

  async speak({ voice, wordsPerMinute, pitchSemitones, body }: EngineRequest): Promise<Spoken> {
    if (lookup(voiceSettings, voice) === undefined) fail('voice-unknown', `There is no voice “${voice}”. Choose one from the list of voices.`)
    const content = contentOf(body)
    const outside = voice === 'awb_time' ? outsideClock(content) : null
    if (outside !== null) throw new ProblemError(outside)
    if (!content.pieces.some(({ text }) => isSayable(text))) fail('nothing-to-say', 'There is nothing in this sentence that the English voice could say. Give it to a role with another voice.')
    const answer = await this.#ask({ speak: { voice: voice as VoiceName, wordsPerMinute, pitchSemitones, body: content } })
    if ('spoken' in answer) return answer.spoken
    throw unexpectedAnswer()
  }

  examine(requests: readonly EngineRequest[]): Promise<readonly (Problem | null)[]> {
    return Promise.resolve(requests.map(({ voice, body }) => problemOf(voice, contentOf(body))))
  }

  close(): Promise<void> {
    this.#pool.close()
    return Promise.resolve()
  }

  #voices(): Promise<readonly VoiceName[]> {
    this.#installed ??= this.#ask({ list: true }).then(answer => {
      if ('installed' in answer) return answer.installed
      throw unexpectedAnswer()
    }).catch((error: unknown) => {
      this.#installed = null
      throw error
    })
    return this.#installed
  }

  #ask(task: ChildTask): Promise<ChildAnswer> {
    return askChild<ChildAnswer>(this.#pool, task)
  }
}

/** What is said. Throws a problem for one that was written by another release of this program. */
function contentOf(body: unknown): FliteBody {
  return typeof body === 'object' && body !== null && 'pieces' in body ? body as FliteBody : fail('request-outdated', 'This sentence was prepared by another release of this program. Read what is missing again.')
}

/** What a voice does not have of an utterance; null where there is nothing. */
function problemOf(voice: string, content: FliteBody): Problem | null {
  const { sounds } = content
  const outside = voice === 'awb_time' ? outsideClock(content) : null
  if (outside !== null) return outside
  const others = [...new Map(Object.values(sounds).flatMap(ipa => [...toPhones(ipa).otherwise]))]
  if (others.length === 0) return null
  return { code: 'sound-missing', message: `The voice has no sound for ${others.map(([sign, instead]) => instead === '' ? `/${sign}/ and passes it over` : `/${sign}/ and says /${instead}/`).join(', ')}.` }
}

/** The voice that knows a few words only fails on all others. */
function outsideClock({ pieces }: FliteBody): Problem | null {
  const unknown = [...new Set(pieces.flatMap(({ text }) => text.toLowerCase().match(/[a-z\d'-]+/gu) ?? []))].filter(word => !clockWords.has(word))
  return unknown.length === 0 ? null : { code: 'words-unknown', message: `This voice only tells the time. It does not know ${quoted(unknown)}. Choose another voice.` }
}

function quoted(texts: readonly string[]): string {
  const most = 3
  return `${texts.slice(0, most).map(text => `“${text}”`).join(', ')}${texts.length > most ? ` and ${texts.length - most} more` : ''}`
}

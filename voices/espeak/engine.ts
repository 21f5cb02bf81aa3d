import { join } from 'node:path'
import { primaryLanguage } from '#core/language/abbreviations'
import type { About } from '#core/health'
import { fail, ProblemError, type Problem } from '#core/problem'
import type { EngineRequest } from '#core/score/request'
import { askChild, unexpectedAnswer } from '../ask-child'
import { ChildPool } from '../child-pool'
import type { Engine, EngineOptions, Spoken, VoiceList } from '../port'
import { voicesFor } from '../voices-for'
import type { ChosenVoice } from './dialect'
import type { ChildAnswer, ChildTask } from './child'
import type { EngineVoices } from './listed'
import type { MarkupElement, MarkupNode } from './markup'
import type { SpeakOrder } from './order'

/** Raised when trimming or the way the library is driven changes what equal requests sound like. */
const drivingRevision = 6

/** Words a minute of its speech per word a minute of its setting, measured from 120 to 250. */
const pacePerSetting = 1.17

/** Steps of its pitch scale (0…99, the voice's own pitch at 50) to an octave, measured below and above. */
const pitchStepsPerOctave = { below: 82, above: 69 }

const usualTimeoutMs = 30_000

/** The embedded engine, driven through its C library in child processes. */
export class EspeakEngine implements Engine {
  readonly parallel: number
  readonly #pool: ChildPool
  #voices: Promise<EngineVoices & { readonly byProgram: boolean }> | null = null

  constructor({ programs, parallel, timeoutMs = usualTimeoutMs }: EngineOptions) {
    this.parallel = parallel
    this.#pool = new ChildPool({ program: join(programs, 'espeak-child.mjs'), size: parallel, recycleAfter: 500, timeoutMs })
  }

  async list(): Promise<VoiceList> {
    const { version, voices, variants, byProgram } = await this.#library()
    // What is spoken in pieces sounds otherwise.
    const revision = `${version}/${drivingRevision}${byProgram ? ' by pieces' : ''}`
    return { voices: voices.map(({ voice }) => ({ ...voice, revision })), variants }
  }

  async about(): Promise<About> {
    const { version, voices, byProgram } = await this.#library()
    const found = `espeak-ng ${version}, ${voices.length} voices`
    return byProgram
      ? { found: `${found}, by its command-line program: its library cannot be loaded, so the times of words are estimated`, remedy: 'Install the Debian package espeak-ng again, or set QUILL_ESPEAK_LIBRARY to the file of its library; then start again.' }
      : { found, remedy: null }
  }

  async speak(request: EngineRequest): Promise<Spoken> {
    const answer = await this.#ask({ speak: await this.#order(request) })
    if ('spoken' in answer) return answer.spoken
    throw unexpectedAnswer()
  }

  async inIpa(voice: string, texts: readonly string[]): Promise<readonly string[]> {
    if (texts.length === 0) return []
    const answer = await this.#ask({ inIpa: texts, identifier: await this.#identifier(voice) })
    if ('ipa' in answer) return answer.ipa
    throw unexpectedAnswer()
  }

  async examine(requests: readonly EngineRequest[]): Promise<readonly (Problem | null)[]> {
    if (requests.length === 0) return []
    const orders = await Promise.all(requests.map(request => this.#order(request).catch((error: unknown) => {
      if (error instanceof ProblemError) return error.problem
      throw error
    })))
    const answer = await this.#ask({ examine: orders.filter((order): order is SpeakOrder => 'content' in order) })
    if (!('problems' in answer)) throw unexpectedAnswer()
    const problems = [...answer.problems]
    return orders.map(order => 'content' in order ? problems.shift() ?? null : order)
  }

  close(): Promise<void> {
    this.#pool.close()
    return Promise.resolve()
  }

  async #order(request: EngineRequest): Promise<SpeakOrder> {
    const content = contentOf(request)
    const identifier = await this.#identifier(request.voice)
    return {
      identifier, content,
      rate: Math.round(request.wordsPerMinute / pacePerSetting),
      pitch: pitchSetting(request.pitchSemitones),
      ...await this.#switches(request, content, identifier),
    }
  }

  async #identifier(voiceId: string): Promise<string> {
    const [id, variant] = voiceId.split('+')
    const { voices, variants } = await this.#library()
    const listed = voices.find(candidate => candidate.voice.id === id)
    if (listed === undefined) fail('voice-unknown', `There is no voice “${id}”. Choose one from the list of voices.`)
    if (variant === undefined) return listed.identifier
    if (!variants.some(candidate => candidate.id === variant)) {
      fail('voice-unknown', `The voice “${id}” has no variant “${variant}”. Choose one from the list of variants.`)
    }
    return `${listed.identifier}+${variant}`
  }

  /** What the markup of a request refers to: voices, and changes of pitch. */
  async #switches({ voice, pitchSemitones }: EngineRequest, content: readonly MarkupNode[], identifier: string): Promise<Pick<SpeakOrder, 'byLanguage' | 'byProperties' | 'pitchSettings'>> {
    const byLanguage: Record<string, string | null> = {}
    const byProperties: Record<string, ChosenVoice> = {}
    const pitchSettings: Record<string, number> = {}
    const elements = elementsIn(content)
    if (elements.length === 0) return { byLanguage, byProperties, pitchSettings }
    const { voices, variants } = await this.#library()
    const variant = voice.includes('+') ? `+${voice.split('+')[1]!}` : ''
    const own = voices.find(listed => listed.voice.id === voice.split('+')[0])!.voice.language
    const speaker = (language: string): string | null => {
      if (primaryLanguage(language) === primaryLanguage(own) && language.toLowerCase() !== 'en-us') return identifier
      const found = voicesFor(voices.map(listed => listed.voice), language)[0]
      const listed = voices.find(candidate => candidate.voice === found)
      return listed === undefined ? null : `${listed.identifier}${variant}`
    }
    for (const { name, attributes } of elements) {
      const { 'xml:lang': language, pitch } = attributes
      if (name === 'lang' && language !== undefined) byLanguage[language] = speaker(language)
      if (name === 'voice') byProperties[JSON.stringify(attributes)] = voiceWith(attributes, { voices, variants }, speaker, identifier)
      if (name === 'prosody' && pitch !== undefined) pitchSettings[Number.parseFloat(pitch)] = pitchSetting(pitchSemitones + Number.parseFloat(pitch))
    }
    return { byLanguage, byProperties, pitchSettings }
  }

  #library(): Promise<EngineVoices & { readonly byProgram: boolean }> {
    this.#voices ??= this.#ask({ list: true }).then(answer => {
      if ('voices' in answer) return { ...answer.voices, byProgram: answer.byProgram }
      throw unexpectedAnswer()
    }).catch((error: unknown) => {
      this.#voices = null
      throw error
    })
    return this.#voices
  }

  #ask(task: ChildTask): Promise<ChildAnswer> {
    return askChild<ChildAnswer>(this.#pool, task)
  }
}

/** What a request is to say. Throws a problem for one that was written by another release of this program. */
function contentOf({ body }: EngineRequest): readonly MarkupNode[] {
  return Array.isArray(body) ? body as readonly MarkupNode[] : fail('request-outdated', 'This sentence was prepared by another release of this program. Read what is missing again.')
}

function elementsIn(content: readonly MarkupNode[]): MarkupElement[] {
  return content.flatMap(node => typeof node === 'string' || 'mark' in node ? [] : [node, ...elementsIn(node.content)])
}

/**
 * The voice that SSML's properties ask for (SSML 1.1, 3.2.1): the first name that exists, else the first language, coloured by gender. Where no voice is called so the other properties choose
 * (`priorityselect`, `processorchoice`), or the voice around it stays (`keepexisting`, and where there are none).
 */
function voiceWith(
  { name = '', languages = '', gender = '', onvoicefailure = '' }: Readonly<Record<string, string>>, { voices, variants }: Pick<EngineVoices, 'voices' | 'variants'>,
  speaker: (language: string) => string | null, identifier: string,
): ChosenVoice {
  const names = wordsIn(name)
  for (const each of names) {
    const [id, variant] = each.split('+')
    const listed = voices.find(candidate => candidate.voice.id === id!.toLowerCase() || candidate.voice.name === each)
    if (listed !== undefined && (variant === undefined || variants.some(candidate => candidate.id === variant))) return { to: `${listed.identifier}${variant === undefined ? '' : `+${variant}`}`, missing: null }
  }
  const asked = wordsIn(languages)
  const spoken = asked.map(each => speaker(each.split(':')[0]!)).find(found => found !== null) ?? null
  const missing = [...names.length > 0 ? [`the name “${name}”`] : [], ...asked.length > 0 && spoken === null ? [`the language “${languages}”`] : []].join(' and ')
  if (missing !== '' && (onvoicefailure === 'keepexisting' || spoken === null && gender === '')) return { to: null, missing }
  const base = spoken ?? identifier
  const coloured = gender === 'female' ? `${base.split('+')[0]!}+f3` : gender === 'male' ? `${base.split('+')[0]!}+m3` : base
  return { to: coloured, missing: missing === '' ? null : missing }
}

function wordsIn(list: string): string[] {
  return list.split(/\s+/u).filter(word => word !== '')
}

function pitchSetting(semitones: number): number {
  const steps = semitones < 0 ? pitchStepsPerOctave.below : pitchStepsPerOctave.above
  return Math.max(0, Math.min(99, Math.round(50 + semitones / 12 * steps)))
}

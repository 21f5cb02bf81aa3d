import koffi, { type IKoffiLib } from 'koffi'
import { fail, ProblemError, type Problem } from '#core/problem'
import type { Spoken, Voice, VoiceVariant } from '../port'
import { joined, trimmed } from '../trimmed'
import { capabilities } from './capabilities'
import { sourcePlace, translate, type ChosenVoice } from './dialect'
import type { MarkupNode } from './markup'
import { phonemeTable, toMnemonics } from './phonemes'
import { unmovedText } from './unmoved-text'

// Values of speak_lib.h.
const audioSynchronous = 2
const parameterRate = 1
const parameterPitch = 3
const charsUtf8 = 1
const ssml = 0x10
/** Text in doubled square brackets is mnemonics of phonemes. */
const phonemes = 0x100
const phonemesAsIpa = 2
const eventEnd = 0
const eventWord = 1
const eventMark = 3
const genderMale = 1
const genderFemale = 2

/** The length of the synthesis buffer is part of the result, so it never changes. */
const bufferMs = 200
/** A take that began as more samples than this (ten minutes) is a fault of the engine. */
const maximumSamples = 22_050 * 600

koffi.struct('espeak_EVENT', {
  type: 'int', unique_identifier: 'uint', text_position: 'int', length: 'int', audio_position: 'int', sample: 'int',
  user_data: 'void *', id: 'uint64_t',
})
koffi.struct('espeak_VOICE', {
  name: 'const char *', languages: 'const uint8_t *', identifier: 'const char *', gender: 'uint8_t', age: 'uint8_t',
  variant: 'uint8_t', xx1: 'uint8_t', score: 'int', spare: 'void *',
})
const SynthCallback = koffi.proto('int SynthCallback(int16_t *wav, int count, void *events)')
const eventBytes = koffi.sizeof('espeak_EVENT')

interface Library {
  readonly lib: IKoffiLib
  readonly sampleRate: number
  readonly terminate: () => number
}

/** Loads and initialises the library; whoever calls it must terminate before unloading, or unloading hangs. */
function open(): Library {
  let lib: IKoffiLib
  try {
    lib = koffi.load('libespeak-ng.so.1')
  } catch {
    fail('engine-missing', 'The speech engine is not installed. Run bin/start once, or install the Debian package espeak-ng.')
  }
  const initialize = lib.func('int espeak_Initialize(int output, int bufferMs, const char *path, int options)')
  const sampleRate = initialize(audioSynchronous, bufferMs, null, 0) as number
  if (sampleRate <= 0) fail('engine-broken', 'The speech engine does not start: its voice data is missing. Install the Debian package espeak-ng-data again.')
  return { lib, sampleRate, terminate: lib.func('int espeak_Terminate()') as () => number }
}

export interface SpeakOrder {
  /** The library's own name of voice and variant: `gmw/en+f3`. */
  readonly identifier: string
  readonly rate: number
  readonly pitch: number
  readonly content: readonly MarkupNode[]
  /** Voices that the markup switches to: by language, and by its properties as JSON. */
  readonly byLanguage: Readonly<Record<string, string | null>>
  readonly byProperties: Readonly<Record<string, ChosenVoice>>
  /** Setting of the pitch scale for each change in semitones that the markup asks for. */
  readonly pitchSettings: Readonly<Record<string, number>>
}

/**
 * Speaks one utterance. The library is loaded, initialised, used once, terminated and unloaded: kept open,
 * the same sentence differs by some samples from call to call.
 */
export function speak(order: SpeakOrder): Spoken {
  const { lib, sampleRate, terminate } = open()
  const chunks: Int16Array[] = []
  const words: WordEvent[] = []
  const marks: number[] = []
  let count = 0
  const callback = koffi.register((wav: unknown, length: number, events: unknown) => {
    if (wav !== null && length > 0) {
      chunks.push(Int16Array.from(koffi.decode(wav, 'int16_t', length) as Int16Array))
      count += length
    }
    for (let at = 0; ; at += eventBytes) {
      const event = koffi.decode(events, at, 'espeak_EVENT') as WordEvent
      if (event.type === eventEnd) break
      if (event.type === eventWord) words.push(event)
      if (event.type === eventMark) marks.push(event.sample)
    }
    return count > maximumSamples ? 1 : 0
  }, koffi.pointer(SynthCallback))
  let translated
  try {
    const data = dataFolder(lib)
    translated = translateOrder(order, data)
    if (lib.func('int espeak_SetVoiceByName(const char *name)')(order.identifier) !== 0) {
      fail('voice-unknown', `The speech engine does not know the voice ${order.identifier}.`)
    }
    const setParameter = lib.func('int espeak_SetParameter(int parameter, int value, int relative)')
    setParameter(parameterRate, order.rate, 0)
    setParameter(parameterPitch, order.pitch, 0)
    lib.func('void espeak_SetSynthCallback(SynthCallback *callback)')(callback)
    const text = Buffer.from(`${translated.markup}\0`)
    const synthesise = lib.func('int espeak_Synth(const char *text, size_t size, uint position, int positionType, uint end, uint flags, void *id, void *user)')
    if (synthesise(text, text.length, 0, 1, 0, charsUtf8 | ssml | phonemes, null, null) !== 0) {
      fail('engine-failed', 'The speech engine could not speak this text.')
    }
  } finally {
    terminate()
    koffi.unregister(callback)
    lib.unload()
  }
  if (marks.length !== translated.marks.length) fail('engine-failed', 'The speech engine lost a place in this text. Move the rest or the volume in it to another word.')
  const cuts = translated.marks.map(({ place, isRest }, index) => ({ place, isRest, sample: marks[index]! }))
  const placed = ofWords(words).map(word => ({ place: sourcePlace(translated, word.text_position - 1), sample: word.sample }))
  return trimmed(joined(chunks), sampleRate, placed, cuts)
}

function translateOrder(order: SpeakOrder, data: string): ReturnType<typeof translate> {
  return translate(order.content, {
    own: order.identifier,
    forLanguage: language => order.byLanguage[language] ?? null,
    forProperties: properties => order.byProperties[JSON.stringify(properties)] ?? { to: null, missing: null },
    mnemonics: (ipa, voice) => toMnemonics(ipa, phonemeTable(data, voice ?? order.identifier)),
    pitchPercent: semitones => (order.pitchSettings[String(semitones)] ?? order.pitch) / Math.max(1, order.pitch) * 100,
  })
}

/** What the voices do not have of each of some orders, or would keep it from being spoken; null where there is nothing. */
export function examine(orders: readonly SpeakOrder[]): (Problem | null)[] {
  const { lib, terminate } = open()
  try {
    const data = dataFolder(lib)
    return orders.map(order => {
      try {
        const problems = translateOrder(order, data).problems
        return problems.length === 0 ? null : { code: problems[0]!.code, message: [...new Set(problems.map(({ message }) => message))].join(' ') }
      } catch (error) {
        if (error instanceof ProblemError) return error.problem
        throw error
      }
    })
  } finally {
    terminate()
    lib.unload()
  }
}

/** How a voice reads each of some texts, in IPA; nothing is spoken. */
export function readInIpa(identifier: string, texts: readonly string[]): string[] {
  const { lib, terminate } = open()
  try {
    if (lib.func('int espeak_SetVoiceByName(const char *name)')(identifier) !== 0) fail('voice-unknown', `The speech engine does not know the voice ${identifier}.`)
    const translateClause = lib.func('const char *espeak_TextToPhonemes(_Inout_ void **text, int textMode, int phonemeMode)')
    return texts.map(text => {
      // It moves the pointer on, clause by clause, and to null at the end.
      const memory = unmovedText(text)
      const rest: unknown[] = [memory]
      const clauses: string[] = []
      while (rest[0] !== null) clauses.push((translateClause(rest, charsUtf8, phonemesAsIpa) as string | null ?? '').trim())
      koffi.free(memory)
      return clauses.filter(clause => clause !== '').join(' ')
    })
  } finally {
    terminate()
    lib.unload()
  }
}

function dataFolder(lib: IKoffiLib): string {
  const path = [null]
  lib.func('const char *espeak_Info(_Out_ const char **path)')(path)
  return path[0] ?? '/usr/share/espeak-ng-data'
}

/** `text_position` counts code points from 1. */
interface WordEvent {
  readonly type: number
  readonly text_position: number
  readonly length: number
  readonly sample: number
}

/** Events that belong to a word. Those of no length do where they stand in order: behind an opening quotation mark, or a dash within a word. */
function ofWords(events: readonly WordEvent[]): WordEvent[] {
  let next = Number.POSITIVE_INFINITY
  const ends = events.map(() => 0)
  for (let index = events.length - 1; index >= 0; index -= 1) {
    ends[index] = next
    if (events[index]!.length > 0) next = Math.min(next, events[index]!.text_position)
  }
  let last = 0
  return events.filter(({ length, text_position: position }, index) => {
    const belongs = length > 0 || position > last && position < ends[index]!
    if (belongs) last = Math.max(last, position)
    return belongs
  })
}

export interface ListedVoice {
  readonly identifier: string
  readonly voice: Omit<Voice, 'revision'>
}

export interface LibraryVoices {
  readonly version: string
  readonly voices: readonly ListedVoice[]
  readonly variants: readonly VoiceVariant[]
}

/** Every voice and variant that is installed. */
export function listVoices(): LibraryVoices {
  const { lib, terminate } = open()
  try {
    const list = lib.func('void *espeak_ListVoices(espeak_VOICE *like)') as (like: unknown) => unknown
    const version = lib.func('const char *espeak_Info(void *path)')(null) as string
    const voices = withUniqueIds(readList(list(null)))
    const like = { name: null, languages: null, identifier: null, gender: 0, age: 0, variant: 0, xx1: 0, score: 0, spare: null }
    const variants = readList(list({ ...like, languages: Buffer.from('variant\0') }))
      .map(raw => ({ engine: capabilities.id, id: raw.identifier.replace(/^!v\//u, ''), name: raw.name, gender: genderOf(raw) }))
    return { version, voices, variants }
  } finally {
    terminate()
    lib.unload()
  }
}

interface RawVoice {
  readonly name: string
  readonly language: string
  readonly identifier: string
  readonly gender: number
}

function readList(list: unknown): RawVoice[] {
  const voices: RawVoice[] = []
  for (let index = 0; ; index += 1) {
    const pointer: unknown = koffi.decode(list, index * koffi.sizeof('void *'), 'void *')
    if (pointer === null) return voices
    const raw = koffi.decode(pointer, 'espeak_VOICE') as { name: string, languages: unknown, identifier: string, gender: number }
    // The list of languages begins with a priority byte; the first name ends at a NUL.
    voices.push({ name: raw.name.trim(), language: koffi.decode(raw.languages, 1, 'char', -1) as string, identifier: raw.identifier, gender: raw.gender })
  }
}

/** A voice's id is its language; where several voices have the same, the later ones take the name of their file. */
function withUniqueIds(list: readonly RawVoice[]): ListedVoice[] {
  const seen = new Set<string>()
  return list.map(raw => {
    const language = raw.language.toLowerCase()
    const id = seen.has(language) ? raw.identifier.replace(/^.*\//u, '').toLowerCase() : language
    seen.add(id)
    return { identifier: raw.identifier, voice: toVoice(raw, id) }
  })
}

/** Languages that the library calls by no tag of BCP 47. */
const properTags: Readonly<Record<string, string>> = { 'chr-us-qaaa-x-west': 'chr-Qaaa-US-x-west', 'en-us-nyc': 'en-US-x-nyc', 'piqd': 'tlh-Piqd' }

function toVoice(raw: RawVoice, id: string): ListedVoice['voice'] {
  return {
    engine: capabilities.id,
    id,
    name: raw.name,
    language: properTags[raw.language.toLowerCase()] ?? raw.language,
    gender: genderOf(raw),
  }
}

function genderOf(raw: RawVoice): Voice['gender'] {
  return raw.gender === genderFemale ? 'female' : raw.gender === genderMale ? 'male' : 'unknown'
}

import koffi, { type IKoffiLib } from 'koffi'
import { joined } from '#core/audio/pcm'
import { fail, type Problem } from '#core/problem'
import type { Spoken, Voice } from '../port'
import { trimmed } from '../trimmed'
import { sourcePlace } from './dialect'
import { listedVariants, listedVoices, type EngineVoices, type RawVoice } from './listed'
import { problemsOf, translateOrder, type SpeakOrder } from './order'
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

/** The library’s file; another one where it has another name or place. */
const file = process.env['QUILL_ESPEAK_LIBRARY'] ?? 'libespeak-ng.so.1'

function load(): IKoffiLib {
  try {
    return koffi.load(file)
  } catch {
    return fail('engine-missing', 'The speech engine is not installed. Run bin/start once, or install the Debian package espeak-ng.')
  }
}

/** Whether the library can be loaded. */
export function isLoadable(): boolean {
  try {
    load().unload()
    return true
  } catch {
    return false
  }
}

/** Loads and initialises the library; whoever calls it must terminate before unloading, or unloading hangs. */
function open(): Library {
  const lib = load()
  const initialize = lib.func('int espeak_Initialize(int output, int bufferMs, const char *path, int options)')
  const sampleRate = initialize(audioSynchronous, bufferMs, null, 0) as number
  if (sampleRate <= 0) fail('engine-broken', 'The speech engine does not start: its voice data is missing. Install the Debian package espeak-ng-data again.')
  return { lib, sampleRate, terminate: lib.func('int espeak_Terminate()') as () => number }
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

export function examine(orders: readonly SpeakOrder[]): (Problem | null)[] {
  const { lib, terminate } = open()
  try {
    return problemsOf(orders, dataFolder(lib))
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

/** Every voice and variant that is installed. */
export function listVoices(): EngineVoices {
  const { lib, terminate } = open()
  try {
    const list = lib.func('void *espeak_ListVoices(espeak_VOICE *like)') as (like: unknown) => unknown
    const version = lib.func('const char *espeak_Info(void *path)')(null) as string
    const voices = listedVoices(readList(list(null)))
    const like = { name: null, languages: null, identifier: null, gender: 0, age: 0, variant: 0, xx1: 0, score: 0, spare: null }
    const variants = listedVariants(readList(list({ ...like, languages: Buffer.from('variant\0') })))
    return { version, voices, variants }
  } finally {
    terminate()
    lib.unload()
  }
}

function readList(list: unknown): RawVoice[] {
  const voices: RawVoice[] = []
  for (let index = 0; ; index += 1) {
    const pointer: unknown = koffi.decode(list, index * koffi.sizeof('void *'), 'void *')
    if (pointer === null) return voices
    const raw = koffi.decode(pointer, 'espeak_VOICE') as { name: string, languages: unknown, identifier: string, gender: number }
    // The list of languages begins with a priority byte; the first name ends at a NUL.
    voices.push({ name: raw.name.trim(), language: koffi.decode(raw.languages, 1, 'char', -1) as string, identifier: raw.identifier, gender: genderOf(raw.gender) })
  }
}

function genderOf(value: number): Voice['gender'] {
  return value === genderFemale ? 'female' : value === genderMale ? 'male' : 'unknown'
}

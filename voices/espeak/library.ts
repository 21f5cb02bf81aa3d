import koffi, { type IKoffiLib } from 'koffi'
import { trimEdges } from '#core/audio/pcm'
import { fail } from '#core/problem'
import type { Spoken, Voice, VoiceVariant } from '../port'

// Values of speak_lib.h.
const audioSynchronous = 2
const parameterRate = 1
const parameterPitch = 3
const charsUtf8 = 1
const ssml = 0x10
const eventEnd = 0
const eventWord = 1
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
  readonly markup: string
}

/**
 * Speaks one utterance. The library is loaded, initialised, used once, terminated and unloaded: kept open,
 * the same sentence differs by some samples from call to call.
 */
export function speak(order: SpeakOrder): Spoken {
  const { lib, sampleRate, terminate } = open()
  const chunks: Int16Array[] = []
  const words: WordEvent[] = []
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
    }
    return count > maximumSamples ? 1 : 0
  }, koffi.pointer(SynthCallback))
  try {
    if (lib.func('int espeak_SetVoiceByName(const char *name)')(order.identifier) !== 0) {
      fail('voice-unknown', `The speech engine does not know the voice ${order.identifier}.`)
    }
    const setParameter = lib.func('int espeak_SetParameter(int parameter, int value, int relative)')
    setParameter(parameterRate, order.rate, 0)
    setParameter(parameterPitch, order.pitch, 0)
    lib.func('void espeak_SetSynthCallback(SynthCallback *callback)')(callback)
    const text = Buffer.from(`${order.markup}\0`)
    const synthesise = lib.func('int espeak_Synth(const char *text, size_t size, uint position, int positionType, uint end, uint flags, void *id, void *user)')
    if (synthesise(text, text.length, 0, 1, 0, charsUtf8 | ssml, null, null) !== 0) {
      fail('engine-failed', 'The speech engine could not speak this text.')
    }
  } finally {
    terminate()
    koffi.unregister(callback)
    lib.unload()
  }
  return trimmed(join(chunks, count), sampleRate, words)
}

/** `text_position` counts code points from 1. Events of no length, out of order, belong to no word. */
interface WordEvent {
  readonly type: number
  readonly text_position: number
  readonly length: number
  readonly sample: number
}

function trimmed(samples: Int16Array, sampleRate: number, words: readonly WordEvent[]): Spoken {
  const speech = trimEdges({ samples, sampleRate })
  const wordMarks: number[] = []
  for (const word of words) {
    if (word.length === 0 || word.text_position - 1 <= (wordMarks.at(-2) ?? -1)) continue
    wordMarks.push(word.text_position - 1, Math.max(0, Math.min(speech.samples.length, word.sample - speech.offset)))
  }
  return { samples: speech.samples, sampleRate, wordMarks }
}

function join(chunks: readonly Int16Array[], count: number): Int16Array {
  const all = new Int16Array(count)
  let at = 0
  for (const chunk of chunks) {
    all.set(chunk, at)
    at += chunk.length
  }
  return all
}

export interface ListedVoice {
  readonly identifier: string
  readonly voice: Voice
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
      .map(raw => ({ id: raw.identifier.replace(/^!v\//u, ''), name: raw.name, gender: genderOf(raw) }))
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

function toVoice(raw: RawVoice, id: string): Voice {
  return {
    engine: 'espeak',
    id,
    name: raw.name,
    language: raw.language,
    gender: genderOf(raw),
  }
}

function genderOf(raw: RawVoice): Voice['gender'] {
  return raw.gender === genderFemale ? 'female' : raw.gender === genderMale ? 'male' : 'unknown'
}

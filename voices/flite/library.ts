import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import koffi, { type IKoffiLib } from 'koffi'
import { applyGain } from '#core/audio/pcm'
import { fail } from '#core/problem'
import { within } from '#core/score/cast'
import type { Spoken } from '../port'
import { laid, trimmed, type Piece, type Placed } from '../trimmed'
import { capabilities } from './capabilities'
import { toPhones } from './phones'
import { isSayable, type FliteBody, type FlitePiece } from './text'
import { voiceSettings, type VoiceName } from './voices'

// The C library, kept open: with its random numbers begun anew for each text it gives the same samples every time, those of its command-line program.

koffi.struct('cst_wave', { type: 'const char *', sample_rate: 'int', num_samples: 'int', num_channels: 'int', samples: 'void *' })
koffi.struct('cst_voice', { name: 'const char *', features: 'void *' })

export interface SpeakOrder {
  readonly voice: VoiceName
  readonly wordsPerMinute: number
  readonly pitchSemitones: number
  readonly body: FliteBody
}

/** Beginning of its random numbers. */
const seed = 1

interface Library {
  readonly synthesise: (text: string, voice: unknown) => unknown
  readonly relation: (utterance: unknown, name: string) => unknown
  readonly first: (relation: unknown) => unknown
  readonly next: (item: unknown) => unknown
  readonly integer: (item: unknown, name: string) => number
  readonly number: (item: unknown, path: string) => number
  readonly wave: (utterance: unknown) => unknown
  readonly free: (utterance: unknown) => void
  readonly set: (features: unknown, name: Buffer, value: number) => void
  readonly addWords: (voice: unknown, file: string) => number
  readonly beginRandom: (seed: number) => void
}

let opened: Library | null = null
const voices = new Map<VoiceName, unknown>()

function load(name: string): IKoffiLib {
  try {
    return koffi.load(name, { global: true })
  } catch {
    return fail('engine-missing', 'The small English engine is not installed. Run bin/start once, or install the Debian package flite.')
  }
}

function library(): Library {
  if (opened !== null) return opened
  const lib = load('libflite.so.1')
  for (const name of ['libflite_usenglish.so.1', 'libflite_cmulex.so.1']) load(name)
  lib.func('int flite_init()')()
  opened = {
    synthesise: lib.func('void *flite_synth_text(const char *text, void *voice)'),
    relation: lib.func('void *utt_relation(void *utterance, const char *name)'),
    first: lib.func('void *relation_head(void *relation)'),
    next: lib.func('void *item_next(void *item)'),
    integer: lib.func('int item_feat_int(void *item, const char *name)'),
    number: lib.func('float flite_ffeature_float(void *item, const char *path)'),
    wave: lib.func('void *utt_wave(void *utterance)'),
    free: lib.func('void delete_utterance(void *utterance)'),
    // It keeps the pointer to the name.
    set: lib.func('void flite_feat_set_float(void *features, const uint8_t *name, float value)'),
    addWords: lib.func('int flite_voice_add_lex_addenda(void *voice, const char *file)'),
    beginRandom: koffi.load('libc.so.6').func('void srand(uint seed)'),
  }
  return opened
}

function openVoice(name: VoiceName): unknown {
  library()
  let voice = voices.get(name)
  if (voice === undefined) {
    const { file, register } = voiceSettings[name]
    voice = load(file).func(`void *${register}(const char *folder)`)(null) as unknown
    voices.set(name, voice)
  }
  return voice
}

const stretchName = Buffer.from('duration_stretch\0')
const pitchName = Buffer.from('int_f0_target_mean\0')

/** Speaks one utterance. */
export function speak(order: SpeakOrder): Spoken {
  const { body, voice: name } = order
  const voice = openVoice(name)
  teach(voice, body.sounds)
  let begins = 0
  const { samples, words } = laid(body.pieces.map(piece => {
    const spoken = isSayable(piece.text) ? speakPiece(piece, begins, order, voice) : { samples: new Int16Array(0), words: [] }
    begins += piece.text.length + 1
    return spoken
  }), capabilities.sampleRate)
  const cuts = body.cuts.map(cut => ({ ...cut, sample: words.find(({ place }) => place >= cut.place)?.sample ?? samples.length }))
  return trimmed(samples, capabilities.sampleRate, words, cuts)
}

/** Speaks a piece that begins at a place of the utterance. */
function speakPiece({ text, rate, pitchSemitones }: FlitePiece, begins: number, order: SpeakOrder, voice: unknown): Piece {
  const { set, beginRandom, synthesise, relation, first, next, integer, number, wave, free } = library()
  const { wordsPerMinute, pitchHz, gainDb } = voiceSettings[order.voice]
  const { features } = koffi.decode(voice, 'cst_voice') as { features: unknown }
  set(features, stretchName, wordsPerMinute / within(capabilities.wordsPerMinute, order.wordsPerMinute * rate))
  set(features, pitchName, pitchHz * 2 ** ((order.pitchSemitones + pitchSemitones) / 12))
  beginRandom(seed)
  const utterance = synthesise(text, voice)
  if (utterance === null) fail('engine-failed', 'The small English engine could not speak this text.')
  try {
    const { sample_rate: sampleRate, num_samples: count, samples } = koffi.decode(wave(utterance), 'cst_wave') as { sample_rate: number, num_samples: number, samples: unknown }
    const words: Placed[] = []
    for (let item = first(relation(utterance, 'Token')); item !== null; item = next(item)) {
      // It has read one character more than the token.
      const last = Math.min(text.length, integer(item, 'file_pos')) - 2
      const place = begins + text.lastIndexOf(' ', last) + 1
      const start = number(item, 'daughter1.R:Word.R:SylStructure.daughter1.daughter1.R:Segment.p.end')
      if (place > (words.at(-1)?.place ?? -1)) words.push({ place, sample: Math.round(start * sampleRate) })
    }
    return { samples: applyGain(Int16Array.from(koffi.decode(samples, 'int16_t', count) as Int16Array), gainDb), words }
  } finally {
    free(utterance)
  }
}

/** Gives the dictionary of a voice the words that stand for sounds. */
function teach(voice: unknown, sounds: FliteBody['sounds']): void {
  const lines = Object.entries(sounds).map(([word, ipa]) => `${word} : ${toPhones(ipa).phones}`)
  if (lines.length === 0) return
  const folder = mkdtempSync(join(tmpdir(), 'quill-words-'))
  try {
    const file = join(folder, 'words')
    writeFileSync(file, `${lines.join('\n')}\n`)
    library().addWords(voice, file)
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** The voices that can be loaded. Throws a problem where the engine itself is not there. */
export function installedVoices(): VoiceName[] {
  library()
  return (Object.keys(voiceSettings) as VoiceName[]).filter(name => {
    try {
      return openVoice(name) !== null
    } catch {
      return false
    }
  })
}

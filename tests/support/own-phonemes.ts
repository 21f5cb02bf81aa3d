import { execFileSync } from 'node:child_process'
import koffi from 'koffi'
import { phonemeTable, toMnemonics } from '../../voices/espeak/phonemes'
import type { EngineRequest } from '#core/score/request'
import { translate } from '../../voices/espeak/dialect'
import { unmovedText } from '../../voices/espeak/unmoved-text'
import type { MarkupNode } from '../../voices/espeak/markup'

const data = /Data at: (\S+)/u.exec(execFileSync('espeak-ng', ['--version'], { encoding: 'utf8' }))![1]!

/** Voices of the embedded engine, by their files in its data. */
export const voiceFiles = { 'en-GB': 'gmw/en', 'de': 'gmw/de', 'fr': 'roa/fr', 'es': 'roa/es', 'it': 'roa/it', 'pl': 'zlw/pl', 'pt': 'roa/pt', 'nl': 'gmw/nl', 'sv': 'gmq/sv', 'da': 'gmq/da', 'cs': 'zlw/cs', 'ru': 'zle/ru' } as const
export type TestLanguage = keyof typeof voiceFiles

// Values of speak_lib.h.
const [audioSynchronous, charsUtf8, ssml, phonemes, phonemesAsIpa] = [2, 1, 0x10, 0x100, 2]

const library = koffi.load('libespeak-ng.so.1')
library.func('int espeak_Initialize(int output, int bufferMs, const char *path, int options)')(audioSynchronous, 0, null, 0)
const setVoice = library.func('int espeak_SetVoiceByName(const char *name)')
const synthesise = library.func('int espeak_Synth(const char *text, size_t size, uint position, int positionType, uint end, uint flags, void *id, void *user)')
const toPhonemes = library.func('const char *espeak_TextToPhonemes(_Inout_ void **text, int textMode, int phonemeMode)')

/** What the engine says it speaks of a request, as it is sent to it, clause by clause. */
export function ipaOf({ body }: EngineRequest, language: TestLanguage): string {
  const voice = voiceFiles[language]
  const { markup: sent } = translate(body as readonly MarkupNode[], {
    own: voice, forLanguage: () => voice, forProperties: () => ({ to: voice, missing: null }), pitchPercent: () => 100,
    mnemonics: ipa => toMnemonics(ipa, phonemeTable(data, voice)),
  })
  setVoice(voice)
  // How a text is taken, as SSML with mnemonics, stays from the last one that was spoken.
  synthesise(' \0', 2, 0, 1, 0, charsUtf8 | ssml | phonemes, null, null)
  const memory = unmovedText(sent)
  const rest: unknown[] = [memory]
  let ipa = ''
  while (rest[0] !== null) ipa += ` ${toPhonemes(rest, charsUtf8, phonemesAsIpa) as string | null ?? ''}`
  koffi.free(memory)
  return ipa.trim()
}

/** Sounds alone, without stress, length, pauses and the parting of words, which directions change on purpose. */
export function sounds(ipa: string): string {
  return ipa.replace(/\([a-z-]+\)/gu, '').normalize('NFD').replace(/[\sˈˌː‿\u0361\u0329.-]/gu, '')
}

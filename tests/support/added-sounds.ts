import { diff } from 'fast-myers-diff'
import type { EngineRequest } from '#core/score/request'
import { plainRequest } from './casting'
import { ipaOf, sounds, type TestLanguage } from './own-phonemes'

/** A text without its marks of punctuation: a comma for each that stands between words. */
function wordsAlone(text: string): string {
  return text.replace(/[“”„‟"«»‹›()[\]{}¡¿]/gu, ' ').replace(/(?:[!?…—–]|[.,;:](?=[\s’'—–]|$)|(?<![\p{L}\p{N}])['‘’]|['’](?![\p{L}\p{N}]))+/gu, ' , ').replace(/(?:\s+,)+\s+/gu, ', ').replace(/^[\s,]+|[\s,]+$/gu, '')
}

/** Sounds in a row that may be another way to join two words (a liaison, a linking r); the name of a mark has more. */
const mostLinking = 1

/** The first sounds of what is sent for a spoken text that its words alone do not have, with those around them; null where there are none. */
export function addedSounds(text: string, request: EngineRequest, language: TestLanguage): string | null {
  const [words, sent] = [sounds(ipaOf(plainRequest(wordsAlone(text)), language)), sounds(ipaOf(request, language))]
  if (words === sent) return null
  const [from, to] = [[...words], [...sent]]
  for (const [start, end, toStart, toEnd] of diff(from, to)) {
    if (toEnd - toStart - (end - start) > mostLinking) return `${to.slice(Math.max(0, toStart - 8), toStart).join('')}[${to.slice(toStart, toEnd).join('')}]${to.slice(toEnd, toEnd + 8).join('')}`
  }
  return null
}

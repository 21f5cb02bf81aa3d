import { spawn } from 'node:child_process'
import { readdirSync } from 'node:fs'
import { dictionary } from 'cmu-pronouncing-dictionary'
import { primaryLanguage } from '#core/language/abbreviations'
import { fail } from '#core/problem'
import type { Casting } from '#core/score/cast'
import { arpabetToIpa } from '#core/words/arpabet'
import type { Dictionary } from '#core/words/census'
import type { ComparedWords, KnownWords } from '#core/words/known-words'
import { isSaidOtherwise } from '#core/words/sounds-apart'
import type { SpeechEngines } from './engines'

// What dictionaries know of the words of a script, and how a voice says them. English: the CMU Pronouncing Dictionary. Other languages: the spelling dictionaries that Debian has (hunspell).

const folder = '/usr/share/hunspell'
const longestMs = 60_000

/** The CMU Pronouncing Dictionary. */
export const english: Dictionary = { has: word => Object.hasOwn(dictionary, word), language: 'en' }

/** The words of that, in lower case. */
export const englishWords = (): string[] => Object.keys(dictionary)

/** The name of the spelling dictionary of a language (BCP 47); null where none is installed. */
function spellingDictionary(language: string): string | null {
  const [primary, region] = language.replace('-', '_').split(/[-_]/u)
  let names: string[]
  try {
    names = readdirSync(folder).filter(name => name.endsWith('.dic')).map(name => name.slice(0, -'.dic'.length)).sort()
  } catch {
    return null
  }
  const own = names.filter(name => name.split('_')[0] === primary!.toLowerCase())
  const usual = `${primary!.toLowerCase()}_${primary!.toUpperCase()}`
  return own.find(name => name === `${primary!.toLowerCase()}_${region?.toUpperCase() ?? ''}`) ?? own.find(name => name === usual || name === primary!.toLowerCase()) ?? own[0] ?? null
}

/** Words that a spelling dictionary does not have. */
async function misspelt(name: string, words: readonly string[]): Promise<ReadonlySet<string>> {
  return new Set((await askHunspell(name, ['-l'], words.join('\n'))).split('\n').filter(word => word !== ''))
}

/** What hunspell says of lines, with options of its own. */
function askHunspell(name: string, options: readonly string[], lines: string): Promise<string> {
  return new Promise<string>((resolve, reject) => {
    const child = spawn('hunspell', [...options, '-i', 'UTF-8', '-d', name], { stdio: ['pipe', 'pipe', 'ignore'], timeout: longestMs, env: { ...process.env, LC_ALL: 'C.UTF-8' } })
    let out = ''
    child.stdout.setEncoding('utf8').on('data', (piece: string) => { out += piece })
    child.on('error', reject)
    child.on('close', code => {
      if (code === 0) resolve(out)
      else reject(new Error(`hunspell ended with ${code}`))
    })
    child.stdin.on('error', () => undefined)
    child.stdin.end(`${lines}\n`)
  }).catch(() => fail('dictionary-broken', `The spelling dictionary ${name} does not answer. Install the Debian packages hunspell and hunspell-${primaryLanguage(name)} again.`))
}

/** Words of a language (BCP 47) that its spelling dictionary suggests for one that it does not have, the likeliest first; none where there is no dictionary. */
export function suggestions(language: string, word: string): Promise<readonly string[]> {
  const name = spellingDictionary(language)
  if (name === null) return Promise.resolve([])
  return askHunspell(name, ['-a'], `^${word}`).then(answer => /^& .*?: (.*)$/mu.exec(answer)?.[1]?.split(', ').filter(each => /^[\p{L}\p{M}’']+$/u.test(each)) ?? [])
}

/** The pronunciations of an English word (lower case) in IPA; none where the dictionary does not have it. */
function pronunciations(word: string): string[] {
  const ways: string[] = []
  for (let index = 0; ; index += 1) {
    const key = index === 0 ? word : `${word}(${index})`
    if (!Object.hasOwn(dictionary, key)) {
      if (index > 0) return ways
      continue
    }
    const ipa = arpabetToIpa(dictionary[key]!.split('#')[0]!.trim())
    if (ipa !== null) ways.push(ipa)
  }
}

/** What a voice says of words, as it was told before: by engine, voice and word. */
const read = new Map<string, string>()
const mostRead = 200_000

/** So many words are asked for at a time: what was answered is compared meanwhile. */
const atOnce = 4_000

/** What a voice says of words, piece by piece: the next is asked for before one is given out. */
async function* inIpa(engines: SpeechEngines, casting: Pick<Casting, 'engine' | 'voice' | 'voiceRevision'>, words: readonly string[]): AsyncGenerator<ReadonlyMap<string, string>> {
  const keyOf = (word: string): string => `${casting.engine} ${casting.voice} ${casting.voiceRevision} ${word}`
  const ask = async (piece: readonly string[]): Promise<ReadonlyMap<string, string>> => {
    const open = piece.filter(word => !read.has(keyOf(word)))
    if (read.size + open.length > mostRead) read.clear()
    const answer = await engines.inIpa(casting, open)
    answer.forEach((ipa, index) => read.set(keyOf(open[index]!), ipa))
    return new Map(piece.flatMap(word => read.has(keyOf(word)) ? [[word, read.get(keyOf(word))!] as const] : []))
  }
  let next = ask(words.slice(0, atOnce))
  for (let at = atOnce; at < words.length; at += atOnce) {
    const answered = await next
    next = ask(words.slice(at, at + atOnce))
    // A failure is thrown where it is waited for.
    next.catch(() => undefined)
    yield answered
  }
  yield await next
}

/** The signs of a reading alone: spelt out or not, they are the same. */
const bare = (ipa: string): string => ipa.replace(/[ˈˌː\s|-]/gu, '')

/** What is known about words as they are written in a text of a language (BCP 47): those of no dictionary, those that the voice says otherwise than one, and those that it spells out. */
export async function knownWords(engines: SpeechEngines, casting: Pick<Casting, 'engine' | 'voice' | 'voiceRevision'>, language: string, { words, names }: ComparedWords): Promise<KnownWords> {
  const isEnglish = primaryLanguage(language) === 'en'
  const name = isEnglish ? null : spellingDictionary(language)
  const all = [...words, ...names]
  const unknown = isEnglish ? new Set(all.filter(word => !isIn(word))) : name === null ? null : await misspelt(name, all)
  const isName = new Set(names)
  const known = isEnglish ? all.filter(isIn) : []
  const doubtful = all.filter(word => unknown === null || unknown.has(word))
  const letters = new Map(doubtful.map(word => [word, [...word].join(' ')]))
  const said = new Map<string, string>()
  const otherwise: KnownWords['otherwise'][number][] = []
  for await (const piece of inIpa(engines, casting, [...known, ...doubtful, ...letters.values()])) {
    for (const [word, ipa] of piece) {
      said.set(word, ipa)
      const expected = isEnglish && ipa !== '' && isIn(word) ? pronunciations(word.toLowerCase()) : []
      if (isSaidOtherwise(ipa, expected, isName.has(word))) otherwise.push({ word, said: ipa, expected: expected[0]! })
    }
  }
  return {
    unknown: isEnglish || unknown === null ? null : [...unknown],
    hasDictionary: isEnglish || unknown !== null,
    otherwise,
    spelt: doubtful.filter(word => {
      const ipa = bare(said.get(word) ?? '')
      return [...word].length > 1 && ipa !== '' && ipa === bare(said.get(letters.get(word)!) ?? '')
    }),
  }
}

function isIn(word: string): boolean {
  return english.has(word.toLowerCase())
}

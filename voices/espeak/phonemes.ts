import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fail } from '#core/problem'
import { nearestSound } from '#core/words/nearest-sound'

// The library takes no IPA, but mnemonics of its own, other ones for each voice. Which IPA each of them stands for is asked
// of the library itself, once for each voice.

const headerBytes = 4
const nameBytes = 32
const phonemeBytes = 16

/** The mnemonics of every table in the library's `phontab`: a count, then for each table its count, its parent, its name and its phonemes. */
function mnemonicsOf(data: string, table: string): string[] {
  const file = readFileSync(join(data, 'phontab'))
  const tables: { name: string, parent: number, own: string[] }[] = []
  let at = headerBytes
  for (let left = file[0]!; left > 0; left -= 1) {
    const [count, parent] = [file[at]!, file[at + 1]!]
    const name = textAt(file, at + headerBytes, nameBytes)
    at += headerBytes + nameBytes
    tables.push({ name, parent, own: Array.from({ length: count }, (_, index) => textAt(file, at + index * phonemeBytes, 4)) })
    at += count * phonemeBytes
  }
  const all = (found: (typeof tables)[number] | undefined): string[] => found === undefined ? [] : [...(found.parent > 0 ? all(tables[found.parent - 1]) : []), ...found.own]
  return [...new Set(all(tables.find(each => each.name === table)))]
}

function textAt(file: Buffer, at: number, length: number): string {
  const bytes = file.subarray(at, at + length)
  const end = bytes.indexOf(0)
  return bytes.subarray(0, end < 0 ? length : end).toString('latin1')
}

/** The table a voice uses: named in its file, or that of its language. */
function tableOf(data: string, identifier: string): string {
  const text = readFileSync(join(data, 'lang', identifier.split('+')[0]!), 'utf8')
  return /^phonemes\s+(\S+)/mu.exec(text)?.[1] ?? /^language\s+([a-z]+)/mu.exec(text)?.[1] ?? 'en'
}

export type PhonemeTable = ReadonlyMap<string, string>

const tables = new Map<string, PhonemeTable>()

/** IPA to mnemonic for a voice, `identifier` being its file in the library's `data` folder (`gmw/en-GB`). */
export function phonemeTable(data: string, identifier: string): PhonemeTable {
  const voice = identifier.split('+')[0]!
  let table = tables.get(voice)
  if (table === undefined) {
    table = askForTable(data, voice)
    tables.set(voice, table)
  }
  return table
}

/** What makes the consonant before it soft, in voices that have such: no sound of its own. */
const soft = { sign: 'ʲ', mnemonic: ';' }

function askForTable(data: string, voice: string): PhonemeTable {
  // Stress, pauses and signs that only steer others are no sounds.
  const mnemonics = mnemonicsOf(data, tableOf(data, voice)).filter(each => /^[^_|%,'=!*:;#-]/u.test(each))
  // A consonant may change at the end of a word: each is asked before a vowel too. What that vowel is differs from voice to voice.
  // A vowel may change there as well: each is asked between two consonants.
  const between = ask(voice, mnemonics.map(each => `b${each}b`))
  const alone = ask(voice, mnemonics)
  const [vowel, softened, ...before] = ask(voice, ['', `p${soft.mnemonic}`, ...mnemonics].map(each => `${each}a`))
  const ending = new RegExp(`ˈ?${vowel!.replace(/[ˈˌː]/gu, '')}ː?$`, 'u')
  const table = new Map<string, string>()
  const simplicity = (mnemonic: string): number => mnemonic.length + (/[#\d]/u.test(mnemonic) ? 10 : 0)
  mnemonics.map((mnemonic, index) => ({ mnemonic, ipa: ipaOf(alone[index] ?? '', (before[index] ?? '').replace(ending, ''), between[index] ?? '') }))
    .filter(({ ipa }) => ipa !== '' && !ipa.includes('?'))
    .sort((a, b) => simplicity(a.mnemonic) - simplicity(b.mnemonic))
    .forEach(({ mnemonic, ipa }) => { if (!table.has(ipa)) table.set(ipa, mnemonic) })
  if (softened!.includes(soft.sign)) table.set(soft.sign, soft.mnemonic)
  return table
}

function ipaOf(alone: string, beforeVowel: string, between: string): string {
  const isVowel = /^[ˈˌ]/u.test(alone)
  return isVowel ? /^b(.+)b$/u.exec(normal(between))?.[1] ?? normal(alone) : normal(beforeVowel || alone)
}

const ask = (voice: string, mnemonics: readonly string[]): string[] => ipaLines(voice, mnemonics.map(each => `[[${each}]]`))

/** A line for each text, unless the voice divides one or finds nothing to say in it. */
export function ipaLines(voice: string, texts: readonly string[]): string[] {
  try {
    const output = execFileSync('espeak-ng', ['-q', '--ipa', '-v', voice, '--stdin'], { input: texts.map(each => `${each}.`).join('\n\n'), encoding: 'utf8', timeout: 60_000, maxBuffer: 1 << 26 })
    return output.split('\n').filter(line => line.trim() !== '').map(line => line.trim())
  } catch {
    return fail('engine-broken', 'The speech engine’s program espeak-ng does not answer, and without it pronunciations cannot be spoken. Install the Debian package espeak-ng again.')
  }
}

/** IPA without stress, ties and syllable marks, with one sign for each sound. */
function normal(ipa: string): string {
  return ipa.normalize('NFD').replace(/[ˈˌ.‿\u0361\u035c\u200d]/gu, '').replace(/g/gu, 'ɡ').replace(/:/gu, 'ː').trim()
}

/** Ligatures of affricates, which the alphabet has no more. */
const ligatures: Readonly<Record<string, string>> = { ʣ: 'dz', ʤ: 'dʒ', ʥ: 'dʑ', ʦ: 'ts', ʧ: 'tʃ', ʨ: 'tɕ' }

/** Signs that stand for others where a voice has no sound of their own for them, the nearest first. */
const near: Readonly<Record<string, string>> = { r: 'ɹ', ɹ: 'r', ɾ: 'r', ʀ: 'r', ɚ: 'ə', ɝ: 'ɜː', a: 'æ', æ: 'a', ɐ: 'ə', ɫ: 'l', e: 'ɛ', ɛ: 'e', i: 'iː', u: 'uː', ɔ: 'ɒ', ɒ: 'ɔ', ɑ: 'ɑː a', o: 'ɔ', ʍ: 'w', ʌ: 'ɐ', ʏ: 'y yː', ɥ: 'y w' }

export interface Pronounced {
  readonly mnemonics: string
  /** Signs that the voice has no sound for, and the one that is said instead; empty for one that is passed over. */
  readonly otherwise: ReadonlyMap<string, string>
}

/** IPA in a voice's mnemonics, longest sounds first, words parted. For a sign that the voice has no sound for it says the nearest that it has. */
export function toMnemonics(ipa: string, table: PhonemeTable): Pronounced {
  const otherwise = new Map<string, string>()
  const words = ipa.trim().split(/\s+/u).map(word => {
    // Stress stands before a syllable in IPA, and before the vowel in mnemonics: the library moves it there.
    const signs = [...word.normalize('NFD').replace(/[.‿\u0361\u035c\u200d]/gu, '').replace(/g/gu, 'ɡ').replace(/:/gu, 'ː').replace(/['’]/gu, 'ˈ').replace(/[ʣ-ʨ]/gu, sign => ligatures[sign]!)]
    let out = ''
    for (let at = 0; at < signs.length;) {
      const sign = signs[at]!
      if (sign === 'ˈ' || sign === 'ˌ') {
        out += sign === 'ˈ' ? '\'' : ','
        at += 1
        continue
      }
      const length = [6, 5, 4, 3, 2, 1].find(count => at + count <= signs.length && table.has(signs.slice(at, at + count).join('')))
      const stand = near[sign]?.split(' ').find(each => table.has(each))
      if (length !== undefined) {
        out += table.get(signs.slice(at, at + length).join(''))!
        at += length
      } else if (stand !== undefined) {
        out += table.get(stand)!
        at += signs[at + 1] === 'ː' ? 2 : 1
      } else if (sign === 'ː') {
        out += ':'
        at += 1
      } else {
        const nearest = nearestSound(sign, ipa => table.has(ipa))
        otherwise.set(sign, nearest ?? '')
        if (nearest !== null) out += table.get(nearest)!
        at += 1
      }
    }
    return out
  })
  return { mnemonics: words.filter(word => word !== '').join('||'), otherwise }
}

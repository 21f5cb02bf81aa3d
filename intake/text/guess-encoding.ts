import iconv from 'iconv-lite'
import { alphabets } from '#core/language/alphabets'
import { lookup } from '#core/lookup'
import { textEncodings, type EncodingCertainty, type OtherEncoding } from '#core/manuscript/encodings'

/** An encoding that a text may have, and how much speaks for it: from about 3.5, where all does, down to nothing. */
export interface Likelihood {
  readonly encoding: string
  readonly value: number
}

/** A tie goes to the more usual one. */
const rankWeight = 0.006
/** What letters of the text's own language weigh against what detectors say. */
const alphabetWeight = 2
/** Text in which half of the words with special letters are garbled is as good as excluded. */
const garbledWeight = 5
/** What an alphabet counts whose language is not sure. */
const unreliableWeight = 0.8
/** Letters that the text's language does not have are rare, even in names. */
const foreignWeight = 4

/** What detectors think possible, and the encodings of the table, judged by how the decoded text looks; the best first. */
export async function likelihoods(sample: Buffer): Promise<Likelihood[]> {
  const [{ default: chardet }, { default: jschardet }, { eld }] = await Promise.all([import('chardet'), import('jschardet'), import('eld/small')])
  const confidence = new Map<string, number>()
  const consider = (encoding: string | null, value: number): void => {
    const name = encoding === null ? undefined : lookup(meant, encoding.toLowerCase()) ?? encoding.toLowerCase()
    if (name === undefined || /^(?:utf-8|ascii)$/u.test(name) || !iconv.encodingExists(name)) return
    confidence.set(name, (confidence.get(name) ?? 0) + value)
  }
  for (const match of chardet.analyse(sample)) consider(match.name, match.confidence / 100)
  for (const match of jschardet.detectAll(sample)) consider(match.encoding, match.confidence)
  textEncodings.forEach((encoding, rank) => { consider(encoding, (textEncodings.length - rank) * rankWeight) })
  return [...confidence].map(([encoding, value]) => {
    const text = iconv.decode(sample, encoding)
    const found = eld.detect(text)
    const own = ownShare(text, found.language)
    const sure = found.isReliable() ? 1 : unreliableWeight
    return { encoding, value: value + own * sure * alphabetWeight - (own > 0 ? (1 - own) * foreignWeight : 0) - garbledShare(text) * garbledWeight }
  }).sort((one, other) => other.value - one.value)
}

/** Most encodings that are offered beside the one that a text is read in. */
const mostOthers = 3
/** Signs before and behind the first place where two encodings differ. */
const aroundDifference = 10

/** What no text has: bytes that are not of the encoding, control characters, and places without a sign. */
const impossible = /[\u0080-\u009f\ue000-\uf8ff\ufffd]/u

/** Encodings in which the text would read otherwise and could be one, the likeliest first. Where two give the same text, one stands for both. */
export function othersThan(name: string, sample: Buffer, likely: readonly Likelihood[]): OtherEncoding[] {
  const text = iconv.decode(sample, name)
  const seen = new Set([text])
  const others: OtherEncoding[] = []
  for (const { encoding } of likely) {
    if (others.length === mostOthers) break
    const other = iconv.decode(sample, encoding)
    if (seen.has(other) || impossible.test(other)) continue
    seen.add(other)
    const at = firstDifference(text, other)
    others.push({ name: encoding, now: around(text, at), instead: around(other, at) })
  }
  return others
}

function firstDifference(one: string, other: string): number {
  let at = 0
  while (one[at] === other[at]) at += 1
  return at
}

function around(text: string, at: number): string {
  return text.slice(Math.max(0, at - aroundDifference), at + aroundDifference).replace(/\s+/gu, ' ').trim()
}

/** How far the best guess must be before the next that reads otherwise. */
const margins = { certain: 1, likely: 0.4 }

/** With fewer letters beyond ASCII no encoding is certain. */
const leastLetters = 8

/** How sure the best guess is, by the next one whose text would be another. */
export function certaintyOf(sample: Buffer, likely: readonly Likelihood[], others: readonly OtherEncoding[]): EncodingCertainty {
  const next = likely.find(({ encoding }) => encoding === others[0]?.name)
  const margin = next === undefined ? Infinity : likely[0]!.value - next.value
  const letters = iconv.decode(sample, likely[0]!.encoding).match(/(?![a-z])\p{L}/giu)?.length ?? 0
  if (margin >= margins.certain && likely[0]!.value >= margins.certain && letters >= leastLetters) return 'certain'
  return margin >= margins.likely ? 'likely' : 'doubtful'
}

/** Names that detectors use for what is meant: files that say ISO-8859-1 have the quotation marks and dashes of Windows-1252 as well. */
const meant: Readonly<Record<string, string>> = { 'iso-8859-1': 'windows-1252', 'gbk': 'gb18030', 'gb2312': 'gb18030', 'cp949': 'euc-kr', 'cp932': 'shift_jis', 'ibm866': 'cp866', 'tis-620': 'windows-874', 'iso-8859-11': 'windows-874', 'iso-8859-8-i': 'iso-8859-8', 'macroman': 'macintosh' }

/** Special letters for each of the 26, at most: in Vietnamese, which has most, it is about half. */
const mostSpecial = 0.6

/** Signs beyond ASCII that texts of any language have. */
const usualSigns = /[\u00a0§©®°«»·–—‘’‚“”„†•…‹›€™£½¼¾²³¿¡]/u

/** Letters of languages that the table of alphabets has not: in Cyrillic and Greek, and in Latin letters that the recogniser of languages does not know. */
const moreAlphabets: Readonly<Record<string, string>> = {
  en: 'àâäáæçèéêëíîïñóôöøœúü',
  be: 'абвгдеёжзійклмнопрстуўфхцчшыьэюя’', bg: 'абвгдежзийклмнопрстуфхцчшщъьюя', ru: 'абвгдеёжзийклмнопрстуфхцчшщъыьэюя',
  sr: 'абвгдђежзијклљмнњопрстћуфхцчџш', uk: 'абвгґдеєжзиіїйклмнопрстуфхцчшщьюя’', el: 'αάβγδεέζηήθιίϊΐκλμνξοόπρσςτυύϋΰφχψωώ',
  he: 'אבגדהוזחטיךכלםמןנסעףפץצקרשת', ar: 'ءآأؤإئابةتثجحخدذرزسشصضطظعغـفقكلمنهوىيًٌٍَُِّْ،؛؟',
  vi: 'àảãáạăằẳẵắặâầẩẫấậđèẻẽéẹêềểễếệìỉĩíịòỏõóọôồổỗốộơờởỡớợùủũúụưừửữứựỳỷỹýỵ',
}
const unrecognised: readonly string[] = ['ĉĝĥĵŝŭ', 'àċèġħìòùż', 'âáàäêéèëîíìïôóòöûúùüŵẃẁẅŷýỳÿ', 'áéíóúḃċḋḟġṁṗṡṫ']

/** Which share of the letters beyond ASCII a text of a language would have; 0 where there are none, or no alphabet is known. */
function ownShare(decoded: string, language: string): number {
  const text = decoded.normalize('NFC').toLowerCase()
  const signs = (text.match(/[^\u0000-\u007f]/gu) ?? []).filter(sign => !usualSigns.test(sign))
  if (signs.length === 0) return 0
  const special = text.match(/(?![a-z])\p{sc=Latin}/gu)?.length ?? 0
  // No language has more special letters than others: this would be another script in the wrong encoding.
  if (special > (text.match(/[a-z]/gu)?.length ?? 0) * mostSpecial) return -1
  const share = (alphabet: string): number => signs.filter(sign => alphabet.includes(sign)).length / signs.length
  const alphabet = lookup(alphabets, language) ?? lookup(moreAlphabets, language)
  const other = signs.some(sign => sign > lastOfLatin1) && unrecognised.some(letters => share(letters) === 1) ? almostCertain : 0
  return Math.max(other, alphabet === undefined ? 0 : share(alphabet))
}

/** Letters up to this one are those of many languages: they tell none. */
const lastOfLatin1 = 'ÿ'
/** How much of the letters count where all are of an alphabet whose language is not recognised. */
const almostCertain = 0.97

/** A wrong encoding mixes alphabets, or capital letters and small ones, or puts signs inside words. */
const garbledWord = /\p{Ll}[–‰¿¡„‚“”«»]\p{Ll}|\p{Ll}[†‡]|\p{Ll}—\p{Ll}(?!\p{L})|\p{L}[^\p{L}\p{M}\p{N}\p{P}]+\p{L}|\p{L}[¹²³ªº¼½¾¡¿]|[\u0080-\u009f\u2500-\u259f\ufffd]|\p{sc=Latin}(?:\p{sc=Greek}|\p{sc=Cyrillic})|(?:\p{sc=Greek}|\p{sc=Cyrillic})\p{sc=Latin}|(?![a-z])\p{Ll}\p{Lu}|\p{Ll}(?![A-Z])\p{Lu}/u

function garbledShare(text: string): number {
  const words = text.split(/\s+/u).filter(word => /[^\u0000-\u007f]/u.test(word))
  return words.length === 0 ? 0 : words.filter(word => garbledWord.test(word)).length / words.length
}

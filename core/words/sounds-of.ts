import { primaryLanguage } from '../language/abbreviations'
import { nearestSound } from './nearest-sound'

/** A sound of a language, and a word that has it. */
export interface Sound {
  readonly ipa: string
  readonly as: string
}

/**
 * Stress marks, then the vowels and consonants of each language, by a word that has them: the common inventories of the languages
 * as pronouncing dictionaries give them (common practice).
 */
const inventories: Readonly<Record<string, string>> = {
  en: 'ə about|ɪ kit|iː fleece|ɛ dress|æ trap|ʌ strut|ɑː palm|ɒ lot|ɔː thought|ʊ foot|uː goose|ɜː nurse|eɪ face|aɪ price|ɔɪ choice|əʊ goat|aʊ mouth|ɪə near|eə square|ʊə cure|p pea|b bee|t tea|d day|k key|ɡ go|f fee|v vow|θ thin|ð this|s see|z zoo|ʃ she|ʒ measure|h he|tʃ cheese|dʒ joy|m me|n no|ŋ sing|l lie|ɹ red|j yes|w we',
  de: 'ə bitte|a Mann|aː Bahn|ɛ Bett|ɛː Käse|eː Weg|ɪ mit|iː Biene|ɔ Gott|oː Ofen|œ Hölle|øː schön|ʊ Mutter|uː gut|ʏ Müller|yː Hügel|aɪ Ei|aʊ Baum|ɔʏ Heu|ɐ Vater|p Post|b Biene|t Tag|d du|k Korb|ɡ gut|f Vogel|v Wabe|s das|z See|ʃ Schule|ʒ Garage|ç ich|x ach|h Honig|pf Pferd|ts Zeit|tʃ deutsch|m Mai|n nein|ŋ lang|l Licht|ʁ rot|j ja|ʔ beachten',
  fr: 'i si|e été|ɛ père|a patte|ɑ pâte|ɔ port|o eau|u ou|y tu|ø peu|œ peur|ə le|ɛ̃ pain|ɑ̃ sans|ɔ̃ bon|œ̃ brun|j yeux|w oui|ɥ huit|p pas|b beau|t toi|d dans|k quand|ɡ gare|f feu|v vous|s sous|z zéro|ʃ chat|ʒ je|m main|n nous|ɲ agneau|ŋ camping|l la|ʁ rue',
  es: 'a pan|e mesa|i miel|o sol|u luz|j bien|w bueno|p pan|b abeja|t té|d día|k casa|ɡ gato|f flor|θ cera|s sol|x jamón|tʃ chico|ʝ yo|m miel|n no|ɲ año|l luz|ʎ llave|ɾ pero|r perro',
}

/** The sounds that are offered for a language (BCP 47): its own, or the English ones. */
export function soundsOf(language: string): Sound[] {
  const list = inventories[primaryLanguage(language)] ?? inventories['en']!
  return [{ ipa: 'ˈ', as: 'stress before the syllable' }, { ipa: 'ˌ', as: 'lesser stress' }, ...list.split('|').map(each => ({ ipa: each.split(' ')[0]!, as: `as in ${each.split(' ')[1]!}` }))]
}

/** How speakers of a language say sounds of others, where that is not the nearest one (common practice). */
const loans: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  en: { aː: 'ɑː', eː: 'eɪ', oː: 'əʊ', a: 'æ', e: 'eɪ', o: 'əʊ', ɔ: 'ɒ', y: 'uː', ø: 'ɜː', œ: 'ɜː', x: 'h', ɲ: 'nj', ʎ: 'lj', ç: 'ʃ', r: 'ɹ', ɾ: 'ɹ', ʁ: 'ɹ', ʀ: 'ɹ', β: 'b', ɐ: 'ə', ɨ: 'ɪ', ʏ: 'ʊ', ɬ: 'l' },
  de: { ɑː: 'aː', ɔː: 'oː', eɪ: 'eː', əʊ: 'oː', w: 'v', θ: 's', ð: 'z', ɹ: 'ʁ', r: 'ʁ', ɾ: 'ʁ', ʌ: 'a', æ: 'ɛ', ɒ: 'ɔ', ɜ: 'œ', ɲ: 'nj', ʎ: 'lj' },
}

/** Signs that are no sounds of their own: stress, and the space between words. */
const marks = /[ˈˌ ]/u
const nasal = '\u0303'

/**
 * A pronunciation (IPA) in the sounds that a language (BCP 47) has, as its speakers say a word of another one: the nearest for each that it has not, vowels
 * through the nose with an n behind them. As it is where the sounds of the language are not known here.
 */
export function inSoundsOf(ipa: string, language: string): string {
  const inventory = inventories[primaryLanguage(language)]
  if (inventory === undefined) return ipa
  const own = inventory.split('|').map(each => each.split(' ')[0]!.normalize('NFD'))
  const isOwn = (sound: string): boolean => own.includes(sound)
  const said = new Map([...own.map((sound): [string, string] => [sound, sound]), ...Object.entries(loans[primaryLanguage(language)] ?? {}).map(([sound, as]): [string, string] => [sound.normalize('NFD'), as])])
  const longest = Math.max(...[...said.keys()].map(sound => sound.length))
  const text = ipa.normalize('NFD')
  let written = ''
  for (let at = 0; at < text.length;) {
    const length = Array.from({ length: longest }, (_, index) => longest - index).find(each => said.has(text.slice(at, at + each)) && text[at + each] !== nasal)
    const sign = text[at]!
    if (length !== undefined) written += said.get(text.slice(at, at + length))!
    else if (marks.test(sign)) written += sign
    else if (sign === nasal) written += 'n'
    else written += nearestSound(sign, isOwn) ?? ''
    at += length ?? 1
  }
  return written.normalize('NFC')
}

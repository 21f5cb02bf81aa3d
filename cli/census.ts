import { primaryLanguage } from '#core/language/abbreviations'
import { writtenText } from '#core/script/content'
import { prepareRules } from '#core/style/rule'
import { census, contextOf, passagesById, readingIn, toBeRead } from '#core/words/census'
import { comparedWords } from '#core/words/known-words'
import { english, knownWords } from '#voices/known-words'
import type { IntakeFlags } from './choices'
import { openCasting, openDocument, openVoices, openHouseStyle, type VoiceFlags } from './environment'
import { counted, note, printJson, printTable } from './print'
import { openWordbooks } from './wordbook'

const mostContexts = 5

/** Prints what of a document a voice may get wrong, what hurts most first. */
export async function takeCensus(file: string, flags: IntakeFlags & VoiceFlags & { json?: boolean }): Promise<void> {
  const { script, manuscript } = await openDocument(file, flags)
  const findWords = await openWordbooks(flags.wordbook ?? [], script.language)
  const style = await openHouseStyle(flags.houseStyle, manuscript)
  const passages = passagesById(script.parts)
  const engines = openVoices(1)
  try {
    const casting = await openCasting(engines, script, flags)
    const known = await knownWords(engines, casting, script.language, comparedWords(script.parts, script.language))
    if (!known.hasDictionary) note(`There is no dictionary of “${script.language}” here: words that none has are not listed. Debian has one as hunspell-${primaryLanguage(script.language)} for many languages.`)
    const found = census(script.parts, { language: script.language, dictionary: primaryLanguage(script.language) === 'en' ? english : null, findWords, known, rules: prepareRules(style.rules) })
    const spoken = found.filter(entry => entry.reason !== 'long-sentence')
    const ipa = new Map((await engines.inIpa(casting, spoken.map(toBeRead))).map((read, index) => [spoken[index], readingIn(spoken[index]!, read)]))
    const entries = found.map(entry => ({
      text: entry.text, reason: entry.reason, ...(entry.partOfSpeech === null ? {} : { partOfSpeech: entry.partOfSpeech }), count: entry.places.length,
      contexts: entry.places.slice(0, mostContexts).map(place => Object.values(contextOf(writtenText(passages.get(place.passageId)!.content), place)).join('')),
      spokenAs: entry.spokenAs, ipa: ipa.get(entry) ?? null, proposal: entry.proposal,
    }))
    if (flags.json === true) return printJson({ entries })
    printTable(['Places', 'Reason', 'Written', 'Said now', 'Proposal'], entries.map(entry => [entry.count, entry.reason, `${short(entry.text)}${entry.partOfSpeech === undefined ? '' : ` (${entry.partOfSpeech})`}`, entry.ipa === null ? '' : `/${short(entry.ipa)}/`, entry.proposal ?? '']))
    process.stdout.write(`${counted(entries.length, 'entry', 'entries')}\n`)
  } finally {
    await engines.close()
  }
}

function short(text: string): string {
  return text.length > 40 ? `${text.slice(0, 39)}…` : text
}

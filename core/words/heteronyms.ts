import { primaryLanguage } from '../language/abbreviations'
import type { PartOfSpeech } from './part-of-speech'

/** One of the ways in which a word that is written so is said: what it means then, and what part of speech it is. */
export interface Reading {
  readonly of: readonly PartOfSpeech[]
  readonly meaning: string
  /** Almost every place has this one: there the word is in no doubt. */
  readonly usual?: true
}

/**
 * English words that are written alike and said differently: this product's own list of what matters in narration. Each reading has its parts of speech and its meaning. Noun and verb
 * that differ in stress alone are among them: voices mostly, and not always, tell them apart by the sentence. With a star: the reading that is usual by far. With a capital: words that are also names, in doubt where they have one.
 */
const table: Readonly<Record<string, string>> = {
  Job: 'name of the Bible; noun* a task', Nice: 'name a city; adjective* pleasant', Reading: 'name a town; noun/verb* of to read',
  abuse: 'noun bad use; verb to use badly', address: 'noun where one lives; verb to speak to', aged: 'adjective old; past grew old', alternate: 'adjective every other; verb to change in turn',
  appropriate: 'adjective fitting; verb to take', attribute: 'noun a quality; verb to ascribe', axes: 'noun of an axe; noun of an axis', bases: 'noun of a base; noun of a basis', bass: 'noun a low voice; noun a fish',
  blessed: 'adjective holy; past did bless', bow: 'noun a weapon, a knot; verb/noun to bend, a ship’s front', bowed: 'adjective/past bent like a bow; past bent the head', buffet: 'noun a meal; verb to strike',
  close: 'adjective near; verb to shut', closer: 'adjective nearer; noun who shuts', compound: 'noun/adjective of several parts; verb to make worse', conduct: 'noun behaviour; verb to lead', conflict: 'noun a fight; verb to clash', console: 'verb to comfort; noun a desk',
  content: 'noun what is in it; adjective satisfied', contest: 'noun a match; verb to dispute', contract: 'noun a paper; verb to shrink', converse: 'verb to talk; noun/adjective the opposite', convict: 'noun a prisoner; verb to find guilty',
  crooked: 'adjective bent; past did crook', cursed: 'adjective hateful; past did curse', deliberate: 'adjective on purpose; verb to consider', desert: 'noun a dry land; verb to leave', dogged: 'adjective stubborn; past did dog', dove: 'noun a bird; past did dive', duplicate: 'noun/adjective a copy; verb to copy',
  entrance: 'noun* a door; verb to enchant', estimate: 'noun a guess; verb to guess', excuse: 'noun a reason; verb to forgive', extract: 'noun a piece; verb to draw out', graduate: 'noun a person; verb to finish', incense: 'noun smoke; verb to anger', increase: 'noun a rise; verb to rise',
  insert: 'noun a thing put in; verb to put in', insult: 'noun an offence; verb to offend', intimate: 'adjective close; verb to hint', invalid: 'adjective not valid; noun a sick person', lead: 'verb to guide; noun a metal', learned: 'adjective wise; past did learn',
  live: 'verb to be alive; adjective alive', lives: 'verb of to live; noun of life', minute: 'noun of an hour; adjective very small', moderate: 'adjective medium; verb to make milder', moped: 'noun a vehicle; past was sad',
  number: 'noun/verb* how many; adjective more numb', object: 'noun a thing; verb to be against', perfect: 'adjective without fault; verb to make so', permit: 'noun a paper; verb to allow', Polish: 'adjective of Poland; verb/noun to make shine', polish: 'verb/noun to make shine; adjective of Poland',
  present: 'adjective/noun here, a gift; verb to show', produce: 'verb to make; noun what is grown', project: 'noun a plan; verb to throw forward', read: 'verb reads now; past did read', rebel: 'noun a person; verb to rise', record: 'noun what is kept; verb to keep it', recreation: 'noun play; noun making anew',
  refuse: 'verb to say no; noun rubbish', resign: 'verb to give up; verb to sign again', resume: 'verb to go on; noun a life in short', row: 'noun/verb a line, to pull oars; noun a quarrel', separate: 'adjective apart; verb to part', sewer: 'noun a drain; noun who sews', slough: 'noun a swamp; verb to shed',
  sow: 'verb to plant; noun a pig', subject: 'noun/adjective a matter; verb to make undergo', supply: 'verb/noun to give; adjective in a supple way', suspect: 'noun/adjective a person; verb to believe guilty', tear: 'noun from the eye; verb to rip', tears: 'noun from the eye; verb rips',
  tier: 'noun a level; noun who ties', use: 'noun a purpose; verb to employ', uses: 'noun purposes; verb employs', wind: 'noun moving air; verb to turn', winds: 'noun moving air; verb turns', wound: 'noun/verb a hurt; past did wind', wounds: 'noun hurts; verb of to wound',
}

const readings = new Map(Object.entries(table).map(([word, all]) => [word, all.split('; ').map((each): Reading => {
  const [of = '', ...meaning] = each.split(' ')
  return { of: of.replace('*', '').split('/') as PartOfSpeech[], meaning: meaning.join(' '), ...(of.endsWith('*') ? { usual: true } : {}) }
})] as const))

/** The readings of an English word as it is written; null for one that has only one. */
export function readingsOf(word: string, language: string): readonly Reading[] | null {
  return primaryLanguage(language) === 'en' ? readings.get(word) ?? readings.get(word.toLowerCase()) ?? null : null
}

/** Readings in a few words: “to guide (verb); a metal (noun)”. */
export function readingsText(all: readonly Reading[]): string {
  return all.map(({ of, meaning }) => `${meaning} (${of.join(', ')})`).join('; ')
}

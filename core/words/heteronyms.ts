/**
 * English words that are written alike and said differently, each with what tells its readings apart: this product's own list of what
 * matters in narration. Noun and verb that differ in stress alone are among them: voices mostly, and not always, tell them apart by the sentence.
 */
const readings: Readonly<Record<string, string>> = {
  axes: 'of an axe; of an axis', bass: 'a low voice; a fish', bow: 'a weapon, a knot; to bend, a ship’s front', bowed: 'bent like a bow; bent the head', buffet: 'a meal; to strike', close: 'near; to shut',
  content: 'what is in it; satisfied', desert: 'a dry land; to leave', dove: 'a bird; did dive',
  excuse: 'a reason; to forgive', intimate: 'close; to hint', invalid: 'not valid; a sick person', lead: 'to guide; a metal', lives: 'of to live; of life',
  live: 'to be alive; alive', minute: 'of an hour; very small', moped: 'a vehicle; was sad', object: 'a thing; to be against', perfect: 'without fault; to make so', present: 'here, a gift; to show',
  project: 'a plan; to throw forward', polish: 'to make shine; of Poland', read: 'reads now; did read', rebel: 'a person; to rise', record: 'what is kept; to keep it', recreation: 'play; making anew', refuse: 'to say no; rubbish',
  resign: 'to give up; to sign again', resume: 'to go on; a life in short', row: 'a line, to pull oars; a quarrel', sewer: 'a drain; who sews', slough: 'a swamp; to shed', sow: 'to plant; a pig', subject: 'a matter; to make undergo',
  tear: 'from the eye; to rip', tears: 'from the eye; rips', tier: 'a level; who ties', use: 'a purpose; to employ', wind: 'moving air; to turn', winds: 'moving air; turns', wound: 'a hurt; did wind',
  wounds: 'hurts; of to wound', conduct: 'behaviour; to lead', permit: 'a paper; to allow',
  separate: 'apart; to part', deliberate: 'on purpose; to consider', estimate: 'a guess; to guess', graduate: 'a person; to finish', alternate: 'every other; to change in turn', duplicate: 'a copy; to copy', moderate: 'medium; to make milder',
  supply: 'to give; in a supple way', abuse: 'bad use; to use badly', console: 'to comfort; a desk', incense: 'smoke; to anger', converse: 'to talk; the opposite', produce: 'to make; what is grown', address: 'where one lives; to speak to', conflict: 'a fight; to clash',
  contract: 'a paper; to shrink', contest: 'a match; to dispute', insert: 'a thing put in; to put in', increase: 'a rise; to rise', insult: 'an offence; to offend',
}

/** What the readings of a word (lower case) are, parted by semicolons; null for one that has only one. */
export function readingsOf(word: string, language: string): string | null {
  return /^en\b/iu.test(language) && Object.hasOwn(readings, word) ? readings[word]! : null
}

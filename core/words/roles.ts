import { partsOfSpeech, type PartOfSpeech } from './part-of-speech'

// Roles of a lexeme (PLS 1.0, 4.4) are names of somebody's own. Those of the common sets of tags are known: CLAWS 7, Penn Treebank, Universal Dependencies, and plain words; all from memory.
const tags: readonly (readonly [pattern: RegExp, parts: readonly PartOfSpeech[]])[] = [
  [/^(?:NP[12]?|NNP[S12]?|NNL[12]?|PROPN|proper-?noun|name)$/iu, ['name']],
  [/^(?:NN[12SOTUJ]?[12]?|N|noun|common-?noun)$/iu, ['noun']],
  [/^(?:V[VBDHM]?[DN]K?|VBDR|VBDZ|past|past-?tense|past-?participle|participle)$/iu, ['past']],
  [/^(?:V[VBDHM]?[0GIZPB]K?|VM|VBP|VBZ|VBG|VB|present|infinitive)$/iu, ['verb']],
  [/^(?:V|VERB)$/iu, ['verb', 'past']],
  [/^(?:JJ[RSTK]?|ADJ|adjective|R[RBGLPT][RSTA]?|RB[RS]?|ADV|adverb)$/iu, ['adjective']],
]

/** The parts of speech that roles mean, parted by white space: of each the name behind the colon counts. Empty where none is known. */
export function partsOfRoles(roles: string): readonly PartOfSpeech[] {
  const found = new Set(roles.split(/\s+/u).flatMap(role => tags.find(([pattern]) => pattern.test(role.replace(/^[^:]*:/u, '')))?.[1] ?? []))
  return partsOfSpeech.filter(part => found.has(part))
}

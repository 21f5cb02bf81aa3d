/** Words after which a German day or ordinal ends in -n, and in nothing. */
const oblique = /(?:^|[^\p{L}])(?:am|vom|zum|beim|im|den|dem|des|der ersten|seit|ab|bis|bis zum|nach dem|einem|einen|jeden|diesem|jedem|bis)\s$/iu
const direct = /(?:^|[^\p{L}])(?:der|die|das|dieser|jeder|jede|jedes)\s$/iu

/** German ordinals with the ending that the words before them ask for. */
export function germanEnding(words: string, before: string): string {
  const bare = words.replace(/(?<=t)er?(?= |$)/u, 'e')
  if (oblique.test(before)) return bare.replace(/te(?= |$)/u, 'ten')
  return direct.test(before) ? bare : words
}

/** Ordinals in a row, before the last of them: 1., 2. und. */
export const germanRowOf = (figures: string): string => `(?:${figures}\\., ){0,8}${figures}\\. (?:und|oder|sowie) `

/** Such a row with each of its ordinals in words. */
export const rowSaid = (row: string, say: (figures: string) => string): string => row.replace(/(\d{1,3})\./gu, (_, figures: string) => say(figures))

/** Words after which a German day or ordinal ends in -n, and in nothing. */
const oblique = /(?:^|[^\p{L}])(?:am|vom|zum|beim|im|den|dem|des|der ersten|seit|ab|bis|bis zum|nach dem|einem|einen|jeden|diesem|jedem|bis)\s$/iu
const direct = /(?:^|[^\p{L}])(?:der|die|das|dieser|jeder|jede|jedes)\s$/iu

/** German ordinals with the ending that the words before them ask for. */
export function germanEnding(words: string, before: string): string {
  const bare = words.replace(/(?<=t)er?(?= |$)/u, 'e')
  if (oblique.test(before)) return bare.replace(/te(?= |$)/u, 'ten')
  return direct.test(before) ? bare : words
}

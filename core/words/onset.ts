/** Consonants (IPA) that can begin an English syllable together; one alone can, but for ŋ (common practice). */
const onsets = new Set('pl pɹ pj bl bɹ bj tɹ tw dɹ dw kl kɹ kw kj ɡl ɡɹ ɡw fl fɹ fj θɹ θw ʃɹ sp st sk sm sn sf sw sl hj mj nj vj spl spɹ spj stɹ skɹ skw skj skl'.split(' '))

/** How many of the consonants (IPA) between two vowels begin the second syllable: as many as can. */
export function onsetLength(consonants: readonly string[]): number {
  let length = 0
  while (length < consonants.length && canBegin(consonants.slice(consonants.length - length - 1))) length += 1
  return length
}

function canBegin(cluster: readonly string[]): boolean {
  return cluster.length === 1 ? cluster[0] !== 'ŋ' : onsets.has(cluster.join(''))
}

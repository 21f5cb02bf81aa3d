import type { Found } from './form'

// Where English words stand, as far as it tells what a number beside them is (grammar as in usage guides: common practice).

/** Words that are no noun, or none that a number before them goes with. */
const noNoun = /^(?:of|in|on|at|to|for|from|by|with|and|or|but|nor|than|as|per|off|over|under|up|down|out|into|through|after|before|is|are|was|were|be|been|has|have|had|will|would|can|could|may|might|must|should|shall|he|she|it|they|we|you|i|that|which|who|whose|whom|if|when|while|because|more|less|each|apiece|away|ago|later|earlier|an?|the|today|tomorrow|yesterday|now|only|not|so|worth|every|this|these|those|his|her|their|our|my|your|its|there|here|below|above|across|around|about|within|without|until|since|between|against|during|onto|upon|then|thus|too|also|just|still|yet|back|apart|together|again|instead|came|went|did|does|do|made|took|paid|got|saw|said|seems|became|long|wide|high|deep|tall|thick|old|extra|total)$/u

/** Nouns that a measure before them belongs to, without an article too: 60W bulb. */
const measured = /^(?:dash|race|bulb|run|sprint|walk|hurdles|relay|swim|freestyle|backstroke|breaststroke|butterfly|radius|lens|pipe|board|bag|sack|bottle|jar|tin|pack|tank|engine|motor|battery|cable|pole|ladder|fence|screen|monitor|camera|sensor|disk|card|connection|signal|resistor|fuse|socket|charger|dose|tablet|pill|steak|mug|weight|hive|frame|drive|ruler|pan|record|disc|vinyl|display|blade|laptop|gun|pistol|rifle|film|bullet|nail|screw|bolt|wire|hole|gap|slice|strip|tape|loan)s?$/u

/** How many lines a screen has, as it is written before *p*: 1080p. */
export const screenLines = '(?:144|240|360|480|540|576|720|1080|1440|2160|4320)'

/** Words of measure that stand behind a number: a six foot tall man. */
const dimension = /^(?:long|wide|high|deep|tall|thick|old)$/u

/** So many of them, before the measure: two 5 kg bags. */
const severalBefore = /(?:^|[^\p{L}\p{N}])(?:two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|several|many|few|both|some|\d+)\s(?:[x×]\s)?$/iu

/** Whether a quantity is an attribute of the noun behind it, and so stays singular: a $5 bill, two 5 kg bags, the 100m dash. */
export function isAttribute({ before, after }: Pick<Found, 'before' | 'after'>): boolean {
  const next = /^[ \u00a0](\p{L}+)(?: (\p{Ll}+))?/u.exec(after)
  if (next === null) return false
  const follows = next[1]!
  const isMeasure = dimension.test(follows) && next[2] !== undefined && !noNoun.test(next[2])
  if (!/^\p{Ll}/u.test(follows) || noNoun.test(follows) && !isMeasure) return false
  if (/(?:^|[^\p{L}])(?:an|a|another|each|every|one|the|this|that|his|her|its|their|our|my|your)\s(?:(?!(?:of|in|on|at|to|for|from|by|with|and|or|than|about|over|under)\s)\p{Ll}[\p{L}-]*\s){0,2}$/iu.test(before)) return true
  if (measured.test(follows)) return true
  return /s$/u.test(follows) && severalBefore.test(before)
}

const irregular = /^(?:people|men|women|children|sheep|fish|mice|geese|feet|teeth|cattle|deer|bacteria|data|larvae|pupae|species|copies)$/u
const sibilant = /(?:ss|us|is)$/u

/** Whether a word is a plural noun, as far as its form tells. */
export function isPlural(noun: string): boolean {
  return irregular.test(noun) || /s$/u.test(noun) && !sibilant.test(noun) && !noNoun.test(noun) && !/^(?:was|has|does|is|this|his|its|as|us|thus|plus|perhaps|always|sometimes|afterwards|towards|besides|years?)$/u.test(noun)
}

const monthOrSeason = 'January|February|March|April|May|June|July|August|September|October|November|December|spring|summer|autumn|fall|winter|Easter|Christmas'
const yearCues = new RegExp(`(?:^|[^\\p{L}])(?:in|since|by|from|until|till|to|during|before|after|the|late|early|mid|year|years|circa|${monthOrSeason}),?\\s$`, 'iu')

/** Whether a number before a noun counts it: about 1984 gulls; not in a year that is named first: in 1984 gulls came. */
export function isCount({ before, after }: Pick<Found, 'before' | 'after'>): boolean {
  const noun = /^[ \u00a0](?:(?:new|old|more|other|young|large|small|different|such|live|dead|wild|metric|square|cubic|full|working|worker|honey)\s)?(\p{Ll}+)/u.exec(after)?.[1]
  return noun !== undefined && isPlural(noun) && !yearCues.test(before)
}

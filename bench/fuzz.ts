import { sentenceSpans } from '#core/language/sentences'
import { compilePassage } from '#core/score/compile'
import { spokenForm } from '#core/score/spoken'
import { plainContent } from '#core/script/content'
import { finder } from '#core/script/find'
import type { Part } from '#core/script/script'
import { defaultHouseStyle } from '#core/style/house-style'
import { checkNarration } from '#core/style/narrator-check'
import { presetNames, presetRules } from '#core/style/presets'
import { newRule, prepareRules, ruleNames } from '#core/style/rule'
import { census } from '#core/words/census'
import { wordFinder } from '#core/words/find-words'
import { engineCapabilities } from '#voices/registry'
import { casting } from './score'
import type { Note } from './note'

/** What rules, finders and the census look for, and what stands beside it: each is repeated, alone and in pairs. */
const signs = ['a', 'A', '1', '.', ',', '-', '–', '—', '/', '(', ')', '[', ']', '"', '“', '’', '#', '*', '_', '=', '+', '@', '%', '&', '…', ':', ';', '!', '?', ' ', '\n', '€', '°', '²', '🐝', 'é', 'IV', 'kg', 'No.', 'p.m.', 'http://']
const languages = ['en-GB', 'de', 'fr', 'es']
/** Characters for what finds one thing, and for what does all at once, which takes a hundred times as long. */
const alone = 20_000
const together = 2_500
/** What takes less for the longer text is quick enough, however it grows. */
const quickMs = 50
/** Twice the length may take twice the time, and somewhat more on a busy machine. */
const mostGrowth = 3
const mostTries = 10

interface Look {
  readonly name: string
  readonly length: number
  readonly at: (text: string) => unknown
}

const entry = (id: string, written: string) => ({ id, graphemes: [written], language: 'en', said: [{ by: 'alias' as const, text: 'x' }] })

/** Everything that looks for something in a text that somebody brings. */
function looks(): Look[] {
  const words = wordFinder([{ version: 1, entries: ['a', 'A', 'aa', '1', 'a-a', 'a.a', 'a a a a', '@'].map((written, index) => entry(String(index), written)) }])
  const passage = (text: string) => ({ id: 'p', kind: 'paragraph' as const, content: plainContent(text) })
  const part = (text: string): Part => ({ id: 'a', kind: 'chapter', label: 'A', included: true, passages: [passage(text)] })
  const book = prepareRules(presetRules('book'))
  const query = { what: 'a', place: 'text', matchCase: false, wholeWord: true, isPattern: false } as const
  return [
    ...languages.flatMap(language => ruleNames.map((does): Look => {
      const { rules } = prepareRules([newRule('r', does)])
      return { name: `rule ${does}, ${language}`, length: alone, at: text => rules[0]!.find({ text, language, kind: 'paragraph' }, { kind: 'paragraph' }) }
    })),
    ...presetNames.flatMap(preset => languages.map((language): Look => {
      const rules = prepareRules(presetRules(preset))
      return { name: `spoken form, ${preset}, ${language}`, length: together, at: text => spokenForm(plainContent(text), language, { rules }) }
    })),
    ...languages.map((language): Look => ({ name: `sentences, ${language}`, length: alone, at: text => sentenceSpans(text, language) })),
    { name: 'census', length: together, at: text => census([part(text)], { language: 'en', dictionary: { has: () => false, language: 'en' }, findWords: words, rules: book }) },
    ...languages.map((language): Look => ({ name: `narrator check, ${language}`, length: alone, at: text => checkNarration([passage(text)], language) })),
    { name: 'wordbook', length: alone, at: text => words(text, 0, text.length, 'en') },
    { name: 'find', length: alone, at: text => finder(query)(plainContent(text), 'en') },
    { name: 'find by pattern', length: alone, at: text => finder({ ...query, what: '(a|aa)+[.,]?a', isPattern: true, wholeWord: false })(plainContent(text), 'en') },
    { name: 'compiled passage', length: together, at: text => compilePassage(passage(text), { previousKind: null, language: 'en-GB', style: defaultHouseStyle, casting, engines: engineCapabilities(), rules: book, findWords: words }) },
  ]
}

function timeOf({ at }: Look, unit: string, length: number): number {
  const text = unit.repeat(Math.ceil(length / unit.length)).slice(0, length)
  const began = performance.now()
  at(text)
  return performance.now() - began
}

/** Short strings, repeated, against everything that looks for something: the time must grow with the length only. */
export function benchFuzz(note: Note): void {
  const units = [...signs, ...signs.flatMap(first => signs.map(second => first + second))]
  console.log(`\nFuzz: ${units.length} short strings repeated to ${together} or ${alone} characters`)
  let [slowest, slowestName, most] = [0, '', 0]
  const over: string[] = []
  for (const look of looks()) {
    const began = performance.now()
    for (const unit of units) {
      const long = timeOf(look, unit, look.length)
      if (long > slowest) [slowest, slowestName] = [long, `${look.name} on ${JSON.stringify(unit)}`]
      if (long < quickMs) continue
      // Others use the machine too: what grows too fast is looked at again.
      let growth = Infinity
      for (let tries = 0; growth > mostGrowth && tries < mostTries; tries += 1) growth = Math.min(growth, timeOf(look, unit, look.length) / timeOf(look, unit, look.length / 2))
      most = Math.max(most, growth)
      if (growth > mostGrowth) over.push(`${look.name} on ${JSON.stringify(unit)}: ${growth.toFixed(1)} times as long, ${Math.round(long)} ms`)
    }
    console.log(`  ${look.name}: ${((performance.now() - began) / 1000).toFixed(1)} s`)
  }
  for (const line of over) console.log(`  ${line}`)
  note(`slowest, ${slowestName}`, slowest, 'ms')
  note(`most growth of the time when the length doubles, where it takes ${quickMs} ms and more`, most, '×', mostGrowth)
  note('looks and strings whose time grows faster than their length', over.length, '', 0)
}

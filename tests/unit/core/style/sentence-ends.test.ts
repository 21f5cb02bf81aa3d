import fc from 'fast-check'
import { sentenceSpans } from '#core/language/sentences'
import { spokenForm } from '#core/score/spoken'
import { plainContent } from '#core/script/content'
import { presetNames, presetRules } from '#core/style/presets'
import { prepareRules } from '#core/style/rule'

const presets = Object.fromEntries(presetNames.map(name => [name, prepareRules(presetRules(name))]))

function sentences(text: string, language: string, preset: string): string[] {
  const form = spokenForm(plainContent(text), language, { rules: presets[preset]! })
  return form.sentences.map(({ start, end }) => form.text.slice(start, end))
}

test.each([
  ['en-GB', 'It began on 5 November. It was cold.', ['It began on the fifth of November.', 'It was cold.']],
  ['en-GB', 'We met at 5 p.m. Then we left.', ['We met at five PM.', 'Then we left.']],
  ['en-GB', 'We left at 5 p.m. and slept.', ['We left at five PM and slept.']],
  ['en-GB', 'He said “at 5 p.m.” Then he left (on 5 Nov.). Next.', ['He said “at five PM.”', 'Then he left (on the fifth of November).', 'Next.']],
  ['en-GB', 'Wax, honey, etc. Then 5 kg. It lies in Mill St. Then go.', ['Wax, honey, et cetera.', 'Then five kilograms.', 'It lies in Mill Street.', 'Then go.']],
  ['en-GB', 'Bees make wax.² A hive is full.[12] Then they swarm.', ['Bees make wax.', 'A hive is full.', 'Then they swarm.']],
  ['de', 'Heute ist der 5. Er ging.', ['Heute ist der fünfte.', 'Er ging.']],
  ['de', 'Er lebte im 16. Jahrhundert. Am 3. Mai ging er.', ['Er lebte im sechzehnten Jahrhundert.', 'Am dritten Mai ging er.']],
  ['fr', 'Cela dura jusqu’au XXe siècle. Le roi Louis XIV. Il partit.', ['Cela dura jusqu’au vingtième siècle.', 'Le roi Louis quatorze.', 'Il partit.']],
  ['es', 'Fue en el siglo XIX. Pesaba 5 kg. Eran cajas, marcos, etc. Luego salió.', ['Fue en el siglo diecinueve.', 'Pesaba cinco kilogramos.', 'Eran cajas, marcos, etcétera.', 'Luego salió.']],
] as const)('%s: %s', (language, text, expected) => {
  expect(sentences(text, language, 'book')).toEqual(expected)
})

/** Ends of sentences that rules write out, and openings, by language. */
const material = {
  'en-GB': [['on 5 Nov.', 'at 5 p.m.', 'in 1987.', 'for £4.50.', 'of 3 kg.', 'at −5 °C.', 'by Henry V.', 'on 12/05/2024.', 'with wax, etc.', 'in the 1990s.', 'for 3/4.', 'at 7:30.', 'of 12%.', 'as No. 7.', 'on the 3rd.', 'in Mill St.', 'by Smith Jr.', 'in AB-210.', '(see p. 4).', 'at example.org/x.', '“at 5 p.m.”', 'of H₂O.', 'in bees.¹', '🐝.', 'for 3h 20m.', 'for 1 hr 20 min.', 'of 10×15.', 'at 40° 26′ N.', 'in 2008/09.', 'and won 3–2.', 'for $5–$10.', 'for $1.2M.', 'of 10⁶.', 'at 5′10″.', 'in the ’90s.', 'in §§ 3.', 'in Elm Dr.', 'by Acme Inc.', 'a 5 kg bag.', 'in World War II.', 'for ½ km.', 'of 5 µm.', 'as #1.', 'on 3–5 May.', 'from 9am–5pm.', 'in FY2021.', 'of COVID-19.', 'a ratio of 3:1.', 'from 44 B.C.', 'as in John 3:16.', 'in 10 oz.'], ['Then', 'It', 'They', 'The']],
  'de': [['am 5. Nov.', 'der 5.', 'um 7:30 Uhr.', 'mit 5 kg.', 'für 5 €.', 'bei −5 °C.', 'usw.', 'von Heinrich VIII.', 'in 3/4.', '1990.', 'im 3. Jh.', 'um 300 v. Chr.', 'für 2,5 Mrd. €.', 'im Verhältnis 3:1.', 'vom 3.–5. Mai.', 'in den 90ern.', 'nach 2 Std.', 'in der Hauptstr.', 'mit 10⁶.', 'für 5–10 €.', 'am 24.12.'], ['Er', 'Es', 'Die', 'Dann']],
  'fr': [['le 1er mars.', 'à 7h30.', 'de 5 kg.', 'à 5 €.', 'à −5 °C.', 'etc.', 'de Louis XIV.', 'en 1990.', 'au XXe.', 'n° 5.', 'pour 3 M€.', 'ouvert 24h/24.', 'en 3 h 20 min.', 'de 10⁶.', 'pour 5–10 €.', 'au XXe s.', 'de 2½ km.', 'la 2nde.'], ['Il', 'Elle', 'Le', 'Ce']],
  'es': [['el 5 de mayo.', 'a las 7:30.', 'de 5 kg.', 'por 5 €.', 'a −5 °C.', 'etc.', 'de Felipe II.', 'en 1990.', 'en el siglo XX.', 'el 3.º.', 'por 3 M€.', 'en 3 h 20 min.', 'de 10⁶.', 'por 5–10 €.', 'en EE. UU.', 'de 2½ km.', 'en 2008/09.'], ['El', 'Ella', 'No', 'Este']],
} as const

test('whatever rules make of a text, it keeps its sentences, each with the mark at its end', () => {
  const text = fc.constantFrom(...(Object.keys(material) as (keyof typeof material)[])).chain(language => {
    const [ends, openings] = material[language]
    const sentence = fc.tuple(fc.constantFrom(...openings), fc.constantFrom(...ends)).map(([opening, end]) => `${opening} kam ${end}`)
    return fc.tuple(fc.constant(language), fc.array(sentence, { minLength: 1, maxLength: 5 }).map(list => list.join(' ')))
  })
  fc.assert(fc.property(text, fc.constantFrom(...presetNames), ([language, written], preset) => {
    const spoken = sentences(written, language, preset)
    expect([written, spoken.length]).toEqual([written, sentenceSpans(written, language).length])
    for (const sentence of spoken) expect(sentence).toMatch(/[.!?…][”)]*[¹²³]?$|º$/u)
  }), { numRuns: 2000, seed: 11 })
})

test('one sentence of a text is never two', () => {
  const words = fc.constantFrom('Dr. Marrow', 'St. Ann', 'No. 7', 'e.g. wax', 'i.e. two', 'p. 4', '3.5 kg', 'v1.2.3', 'a.m.', 'on 5 Nov. at noon', 'vs. all', 'c. 1900')
  fc.assert(fc.property(fc.array(words, { minLength: 1, maxLength: 6 }), list => {
    const written = `He saw ${list.join(', ')} there.`
    expect([written, sentences(written, 'en-GB', 'articles').length]).toEqual([written, sentenceSpans(written, 'en-GB').length])
  }), { numRuns: 500, seed: 3 })
})

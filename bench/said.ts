import { join } from 'node:path'
import { defaultChoices } from '#core/manuscript/choices'
import { propose } from '#core/manuscript/structure'
import { toScript } from '#core/manuscript/to-script'
import type { Script } from '#core/script/script'
import { defaultHouseStyle } from '#core/style/house-style'
import { presetNames, presetRules, type PresetName } from '#core/style/presets'
import { prepareRules } from '#core/style/rule'
import { takeIn } from '#intake/take-in'
import { addedSounds } from '../tests/support/added-sounds'
import type { TestLanguage } from '../tests/support/own-phonemes'
import type { Note } from './note'
import { scoreOf } from './score'

/** Documents in several languages: the demo, and manuals that Debian has (live-manual-epub). */
const documentsOf = (root: string): readonly (readonly [name: string, path: string, language: TestLanguage])[] => [
  ['the demo', join(root, 'demo/files/the-marrow-lane-year.md'), 'en-GB'],
  ['a manual in German', '/usr/share/doc/live-manual/epub/live-manual.de.epub', 'de'],
  ['a manual in French', '/usr/share/doc/live-manual/epub/live-manual.fr.epub', 'fr'],
  ['a manual in Spanish', '/usr/share/doc/live-manual/epub/live-manual.es.epub', 'es'],
]

/** Sentences shown of each document and preset that have a sound too many. */
const shown = 12

/** The engine's own sounds of every sentence as it is sent, against those of its words without any mark. `root` is the folder of the project, `programs` that of its built programs. */
export async function benchSaid(book: Script, { root, programs }: { readonly root: string, readonly programs: string }, note: Note): Promise<void> {
  console.log('\nSounds that no written word explains')
  reportSaid('the whole book', book, 'en-GB', note)
  for (const [name, path, language] of documentsOf(root)) {
    const manuscript = await takeIn(join(programs, 'reader-child.mjs'), path, path.split('/').at(-1)!, { language })
    reportSaid(name, toScript(manuscript, propose(manuscript, defaultChoices(manuscript)).parts), language, note)
  }
}

function reportSaid(name: string, script: Script, language: TestLanguage, note: Note): void {
  for (const preset of presetNames) {
    const { sentences, unexplained } = unexplainedIn(script, language, preset)
    note(`${name}, ${preset}: of ${sentences} sentences`, unexplained.length, '', 0)
    for (const each of unexplained.slice(0, shown)) console.log(`  ${each}`)
  }
}

function unexplainedIn(script: Script, language: TestLanguage, preset: PresetName): { readonly sentences: number, readonly unexplained: readonly string[] } {
  const context = { language, style: { ...defaultHouseStyle, rules: presetRules(preset) }, rules: prepareRules(presetRules(preset)) }
  const unexplained: string[] = []
  let sentences = 0
  for (const part of script.parts) {
    for (const { text, request } of scoreOf(part, context).utterances) {
      sentences += 1
      const added = addedSounds(text, request, language)
      if (added !== null) unexplained.push(`${text}\n    /${added}/`)
    }
  }
  return { sentences, unexplained }
}

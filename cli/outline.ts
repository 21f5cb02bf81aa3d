import { countWords } from '#core/manuscript/manuscript'
import { writtenText } from '#core/script/content'
import { openDocument, type IntakeFlags } from './environment'
import { note, printJson, printTable } from './print'

export async function outline(file: string, flags: IntakeFlags & { json?: boolean }): Promise<void> {
  const { manuscript, script } = await openDocument(file, flags)
  const parts = script.parts.map((part, index) => {
    const texts = part.passages.map(passage => writtenText(passage.content))
    const sum = (measure: (text: string) => number): number => texts.reduce((total, text) => total + measure(text), 0)
    return {
      number: index + 1, kind: part.kind, label: part.label,
      words: sum(countWords), characters: sum(text => text.length), passages: texts.length,
    }
  })
  if (flags.json === true) {
    printJson({ title: script.title, language: script.language, parts })
    return
  }
  if (manuscript.languageSource === 'assumed') {
    note(`There is too little text to tell the language; ${script.language} is assumed. Set it with --language.`)
  }
  process.stdout.write(`${script.title} (${script.language})\n`)
  printTable(['No', 'Part', 'Words', 'Characters', 'Passages'], parts.map(part => [part.number, part.label, part.words, part.characters, part.passages]))
}

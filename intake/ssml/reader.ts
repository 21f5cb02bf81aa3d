import { isSpeakable, type Block } from '#core/manuscript/manuscript'
import { ProblemError, type Problem } from '#core/problem'
import { writtenText } from '#core/script/content'
import { checkSsml, placed, type PlacedProblem } from '#core/script/ssml/check'
import { readSsml, type SsmlPassage } from '#core/script/ssml/read'
import { rootOf, type Reader } from '../reader'
import { withoutControls } from '../text-builder'
import { openText } from '../text/decode'

const speakRoot = /^<speak[\s>]/iu

/** What makes a document no SSML at all. */
const fatal = new Set(['ssml-syntax', 'ssml-root', 'ssml-subset', 'ssml-depth'])

/** Speech Synthesis Markup Language 1.1 (W3C, 2010): its passages with their directions. */
export const ssmlReader: Reader = {
  format: 'ssml',
  label: 'SSML',
  extensions: ['.ssml'],
  version: 2,
  accepts: file => speakRoot.test(rootOf(file)) || /\.ssml$/iu.test(file.name),
  read: async (file, { encoding }) => {
    const { text, problems: undecoded } = await openText(file, encoding)
    const xml = withoutControls(text)
    const { root, source, problems } = checkSsml(xml)
    const found = placed(xml, problems).map(problem => asProblem(problem, file.name))
    const refusal = found.find(problem => fatal.has(problem.code))
    if (root === null || refusal !== undefined) throw new ProblemError(refusal ?? found[0]!)
    const { language, passages, lost } = readSsml(root, source)
    const blocks = passages.filter(passage => isSpeakable(writtenText(passage.content))).map(toBlock)
    return { title: null, author: null, language, blocks, problems: [...undecoded, ...found, ...placed(source, lost).map(problem => asProblem(problem, file.name))] }
  },
}

function asProblem({ line, column, code, message }: PlacedProblem, name: string): Problem {
  return { code, message, place: `${name}, line ${line}, column ${column}` }
}

function toBlock({ kind, content, language, role, part }: SsmlPassage): Block {
  return {
    kind: kind === 'title' ? 'heading' : kind, text: writtenText(content), content,
    ...(kind === 'title' ? { level: 1 } : {}),
    ...(language === undefined ? {} : { language }), ...(role === undefined ? {} : { role }),
    ...(part === undefined ? {} : { entry: { label: part.label, level: 1 } }),
  }
}

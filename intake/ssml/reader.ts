import { isOrnament, isSpeakable, type Block } from '#core/manuscript/manuscript'
import { ProblemError, type Problem } from '#core/problem'
import { canonicalContent, writtenText, type Content } from '#core/script/content'
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
  version: 3,
  accepts: file => speakRoot.test(rootOf(file)) || /\.ssml$/iu.test(file.name),
  read: async (file, { encoding }) => {
    const { text, problems: undecoded, encoding: decoded } = await openText(file, encoding)
    const xml = withoutControls(text)
    const { root, source, problems } = checkSsml(xml)
    const found = placed(xml, problems).map(problem => asProblem(problem, file.name))
    const refusal = found.find(problem => fatal.has(problem.code))
    if (root === null || refusal !== undefined) throw new ProblemError(refusal ?? found[0]!)
    const { language, passages, lost } = readSsml(root, source)
    const blocks = withWords(passages).map(toBlock)
    return { title: null, author: null, language, blocks, problems: [...undecoded, ...found, ...placed(source, lost).map(problem => asProblem(problem, file.name))], encoding: decoded }
  },
}

/** The passages that say something. What stands in those without a word (sounds, rests, marks) belongs to the end of the one before, or to the beginning of the first one and of a part. */
function withWords(passages: readonly SsmlPassage[]): SsmlPassage[] {
  const spoken: SsmlPassage[] = []
  let waiting = null as SsmlPassage | null
  const addToLast = (content: Content): void => {
    const last = spoken.pop()
    if (last !== undefined) spoken.push({ ...last, content: joined(last.content, content) })
  }
  for (const passage of passages) {
    if (isSpeakable(writtenText(passage.content)) || partsScenes(passage)) {
      const part = passage.part ?? waiting?.part
      spoken.push({ ...passage, content: joined(waiting?.content ?? noContent, passage.content), ...(part === undefined ? {} : { part }) })
      waiting = null
    } else if (spoken.length === 0 || waiting !== null || passage.part !== undefined) {
      waiting = { ...passage, ...(waiting?.part === undefined ? {} : { part: waiting.part }), content: joined(waiting?.content ?? noContent, pointsOf(passage.content)) }
    } else {
      addToLast(pointsOf(passage.content))
    }
  }
  if (waiting !== null) addToLast(waiting.content)
  return spoken
}

/** A passage that says so, or is an ornament by itself. */
function partsScenes({ kind, content, part }: SsmlPassage): boolean {
  return kind === 'sceneBreak' || part === undefined && content.directions.length === 0 && isOrnament(writtenText(content))
}

const noContent: Content = { version: 2, runs: [], directions: [] }

function pointsOf({ runs, directions }: Content): Content {
  const points = runs.filter(run => run.point !== undefined).map(run => ({ ...run, text: '', on: [] }))
  const ids = new Set(points.map(run => run.point))
  return { version: 2, runs: points, directions: directions.filter(({ id }) => ids.has(id)) }
}

const joined = (a: Content, b: Content): Content => canonicalContent({ version: 2, runs: [...a.runs, ...b.runs], directions: [...a.directions, ...b.directions] })

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

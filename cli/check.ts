import { readFile } from 'node:fs/promises'
import { fail } from '#core/problem'
import type { EngineId } from '#core/score/cast'
import { examinedValueOf } from '#core/score/shortcomings'
import type { Direction } from '#core/script/directions'
import { checkSsml, placed, type SsmlProblem } from '#core/script/ssml/check'
import { directionsIn, unsupported } from '#core/script/ssml/unsupported'
import { openText } from '#intake/text/decode'
import { requestUnder } from '#voices/cast-score'
import { castingFor } from '#voices/choose'
import { engineKind } from '#voices/registry'
import { voicesFor } from '#voices/voices-for'
import { openVoices } from './environment'
import { note, printJson } from './print'

export interface CheckFlags {
  readonly engine?: EngineId
  readonly fragment?: boolean
  readonly language: string
  readonly encoding?: string
  readonly json?: boolean
}

/** Prints what is wrong with an SSML file, a problem a line: `line:column code message`. Ends with 1 when there is an error. */
export async function check(file: string, flags: CheckFlags): Promise<void> {
  const bytes = await readFile(file).catch((error: NodeJS.ErrnoException) => error.code === 'ENOENT' ? fail('file-missing', `There is no file ${file}. Check the name and the folder.`) : Promise.reject(error))
  const { text, problems: undecoded } = await openText({ bytes, name: file }, flags.encoding)
  for (const { message, place } of undecoded) note(`${place}: ${message}`)
  const checked = checkSsml(text, flags.fragment === true ? { fragmentLanguage: flags.language } : {})
  const cannot = await cannotDo(checked, flags.engine, flags.language, text.length)
  const problems = placed(text, [...checked.problems, ...cannot].sort((a, b) => a.offset - b.offset))
  if (flags.json === true) printJson({ problems })
  else for (const { line, column, code, message } of problems) process.stdout.write(`${line}:${column} ${code} ${message}\n`)
  if (problems.some(problem => problem.severity === 'error')) process.exitCode = 1
}

/** What the voices cannot do, as `read` tells it: by the voice of the document's language, or of the engine that is named. */
async function cannotDo({ root, source }: ReturnType<typeof checkSsml>, engineId: EngineId | undefined, otherwise: string, length: number): Promise<SsmlProblem[]> {
  if (root === null) return []
  const language = root.attributes.find(attribute => attribute.name === 'xml:lang')?.value || otherwise
  const asked = directionsIn(root, source, language).flatMap(({ value, language: own, element }) => {
    const examined = examinedValueOf({ id: '', ...value } as Direction)
    return examined === null ? [] : [{ value: examined, language: own, start: element.start }]
  })
  const engines = openVoices(1)
  try {
    const list = await engines.list()
    const voices = list.voices.filter(voice => engineId === undefined || voice.engine === engineId)
    const isSpoken = voicesFor(voices, language).length > 0
    const casting = castingFor(list, isSpoken ? language : 'en', engineId === undefined ? {} : { engine: engineId })
    const shift = source.length > length ? source.length - length - '</speak>'.length : 0
    const warn = (message: string, start: number): SsmlProblem => ({ severity: 'warning', code: 'voice-cannot', message, offset: Math.max(0, start - shift) })
    const examined = await engines.examine(asked.map(({ value, language: own }) => requestUnder(value, casting, own)))
    return [
      ...isSpoken ? [] : [warn(`No voice speaks “${language}”. Choose a voice when it is read, or correct the language.`, root.start)],
      ...asked.flatMap(({ start }, index) => examined[index] === null || examined[index] === undefined ? [] : [warn(examined[index].message, start)]),
      ...unsupported(root, source, { casting, engine: engineKind(casting.engine).capabilities, language }, shift),
    ]
  } finally {
    await engines.close()
  }
}

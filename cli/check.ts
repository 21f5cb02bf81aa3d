import { readFile } from 'node:fs/promises'
import { fail } from '#core/problem'
import type { EngineId } from '#core/score/cast'
import { isExamined, type ExaminedValue } from '#core/score/examined'
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

/** Voices and sounds that do not exist, which `read` would leave out; with the name of an engine, all that it cannot do. */
async function cannotDo({ root, source }: ReturnType<typeof checkSsml>, engineId: EngineId | undefined, otherwise: string, length: number): Promise<SsmlProblem[]> {
  if (root === null) return []
  const language = root.attributes.find(attribute => attribute.name === 'xml:lang')?.value || otherwise
  const asked = directionsIn(root, source, language).filter((each): each is typeof each & { value: ExaminedValue } => isExamined(each.value) && each.value.kind !== 'language')
  if (engineId === undefined && asked.length === 0) return []
  const engines = openVoices(1)
  try {
    const list = await engines.list()
    const voices = list.voices.filter(voice => engineId === undefined || voice.engine === engineId)
    const casting = castingFor(list, voicesFor(voices, language).length > 0 ? language : 'en', engineId === undefined ? {} : { engine: engineId })
    const shift = source.length > length ? source.length - length - '</speak>'.length : 0
    const examined = await engines.examine(asked.map(({ value, language: own }) => requestUnder(value, casting, own)))
    const missing = asked.flatMap(({ start }, index): SsmlProblem[] => examined[index] === null ? [] : [{ severity: 'warning', code: 'voice-cannot', message: examined[index]!.message, offset: Math.max(0, start - shift) }])
    return engineId === undefined ? missing : missing.concat(unsupported(root, source, { casting, engine: engineKind(engineId).capabilities, language, languages: voices.map(voice => voice.language) }, shift))
  } finally {
    await engines.close()
  }
}

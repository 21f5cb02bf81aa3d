import { readFile } from 'node:fs/promises'
import { homedir } from 'node:os'
import { basename, dirname, join, resolve } from 'node:path'
import { Ajv } from 'ajv'
import type { Manuscript } from '#core/manuscript/manuscript'
import { defaultChoices } from '#core/manuscript/choices'
import { propose, type Proposal } from '#core/manuscript/structure'
import { toScript } from '#core/manuscript/to-script'
import { fail, ProblemError } from '#core/problem'
import { compilePart } from '#core/score/compile'
import type { CastScore } from '#core/score/request'
import type { Cast, Casting, EngineId } from '#core/score/cast'
import { withRoomTone, type Sounds } from '#core/score/sounds'
import type { Script } from '#core/script/script'
import { defaultHouseStyle, houseStyleFileSchema, houseStyleOfFile, presetStyle, type HouseStyle, type HouseStyleFile } from '#core/style/house-style'
import { presetFor, presetNames } from '#core/style/presets'
import { checkRule, prepareRules } from '#core/style/rule'
import { takeIn } from '#intake/take-in'
import { choicesOf, type IntakeFlags } from './choices'
import { noteOnce } from './print'
import { sayShortcomings } from './sayable'
import { openWordbooks } from './wordbook'
import { FileTakeIndex } from '#takes/file-index'
import type { TakeLibrary } from '#takes/library'
import type { FileStorage } from '#takes/storage'
import { FolderStorage } from '#takes/folder-storage'
import { Packs } from '#takes/packs'
import { castScore } from '#voices/cast-score'
import { castingFor } from '#voices/choose'
import { openEngines, type SpeechEngines } from '#voices/engines'
import { engineCapabilities } from '#voices/registry'

/** The guarded children are bundled beside this program. */
const programs = dirname(process.argv[1]!)

export interface VoiceFlags {
  readonly engine?: EngineId
  readonly voice?: string
  readonly wpm?: number
  readonly pitch?: number
  readonly volume?: number
  readonly houseStyle?: string
  readonly cache?: string
  readonly sounds?: string
  readonly wordbook?: readonly string[]
}

export interface OpenedDocument {
  readonly manuscript: Manuscript
  readonly proposal: Proposal
  readonly script: Script
}

/** Takes a file in and divides it into parts. */
export async function openDocument(path: string, flags: IntakeFlags): Promise<OpenedDocument> {
  const { language, encoding, delimiter, columns } = flags
  const options = Object.fromEntries(Object.entries({ language, encoding, delimiter, columns }).filter(([, value]) => value !== undefined))
  const manuscript = await takeIn(join(programs, 'reader-child.mjs'), path, basename(resolve(path)), options).catch((error: unknown) => {
    const { code } = error as NodeJS.ErrnoException
    if (code === 'ENOENT') fail('file-missing', `There is no file ${path}. Check the name and the folder.`)
    throw error
  })
  const proposal = propose(manuscript, { ...defaultChoices(manuscript), ...choicesOf(flags) })
  return { manuscript, proposal, script: toScript(manuscript, proposal.parts) }
}

export function openVoices(parallel = 2): SpeechEngines {
  return openEngines({ programs, parallel })
}

export async function openCasting(engines: SpeechEngines, script: Script, flags: VoiceFlags): Promise<Casting> {
  return castingFor(await engines.list(), script.language, {
    ...(flags.engine === undefined ? {} : { engine: flags.engine }),
    ...(flags.voice === undefined ? {} : { voice: flags.voice }),
    ...(flags.wpm === undefined ? {} : { wordsPerMinute: flags.wpm }),
    ...(flags.pitch === undefined ? {} : { pitchSemitones: flags.pitch }),
    ...(flags.volume === undefined ? {} : { gainDb: flags.volume }),
  })
}

/** The scores of all parts. With engines, what they cannot do is said on standard error, or stops it when that is asked for. */
export async function compileScript({ script, manuscript }: OpenedDocument, cast: Cast, sounds: Sounds, roomTone: string | null, flags: VoiceFlags & { readonly strict?: boolean }, engines?: SpeechEngines): Promise<CastScore[]> {
  const style = await openHouseStyle(flags.houseStyle, manuscript)
  const findWords = await openWordbooks(flags.wordbook ?? [], script.language)
  if (engines !== undefined) await sayShortcomings({ script, findWords }, cast, engines, flags.strict === true)
  const context = { language: script.language, style, ...cast, engines: engineCapabilities(), sounds, findWords, rules: prepareRules(style.rules) }
  return script.parts.map(part => withRoomTone(castScore(compilePart(part, context), context), roomTone, sounds))
}

/** Reads a house style, or makes that of a preset: where none is given, that of the document's kind. What the file leaves out has its default. */
export async function openHouseStyle(path: string | undefined, manuscript: Manuscript): Promise<HouseStyle> {
  if (path === undefined) {
    const own = presetFor(manuscript)
    noteOnce(`House style: ${own}, as for other documents of this kind. --house-style plain switches every rule off.`)
    return presetStyle(own)
  }
  const preset = presetNames.find(name => name === path)
  if (preset !== undefined) return presetStyle(preset)
  const text = await readFile(path, 'utf8').catch(() => fail('house-style-missing', `The house style ${path} cannot be read. Check the name and the folder.`))
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch (error) {
    fail('house-style-broken', `The house style is not valid JSON: ${(error as Error).message}.`, path)
  }
  const validate = new Ajv({ allErrors: true, discriminator: true }).compile<HouseStyleFile>(houseStyleFileSchema)
  if (!validate(value)) {
    const [error] = validate.errors ?? []
    fail('house-style-wrong', `${error?.instancePath === '' ? 'The house style' : error?.instancePath.slice(1).replace(/\//gu, '.')} ${error?.message}`
      + `${error?.keyword === 'additionalProperties' ? `: “${(error.params as { additionalProperty: string }).additionalProperty}”` : ''}. See docs/formats.md.`, path)
  }
  for (const rule of value.rules ?? []) {
    try {
      checkRule(rule)
    } catch (error) {
      if (error instanceof ProblemError) fail('house-style-wrong', `Rule “${rule.id}”: ${error.problem.message}`, path)
      throw error
    }
  }
  return houseStyleOfFile(defaultHouseStyle, value)
}

export interface Cache {
  readonly folder: string
  readonly storage: FileStorage
  readonly library: TakeLibrary
  readonly close: () => Promise<void>
}

/** Where finished audio is kept: the given folder, or the user's own. */
export function cacheFolder(given: string | undefined): string {
  return given ?? join(process.env['XDG_CACHE_HOME'] ?? join(homedir(), '.cache'), 'orator-quill')
}

export async function openCache(folder: string | undefined): Promise<Cache> {
  const path = cacheFolder(folder)
  const storage = new FolderStorage(path)
  const packs = new Packs(storage)
  return {
    folder: path, storage, library: { index: await FileTakeIndex.open(join(path, 'takes.jsonl')), packs },
    close: async () => {
      await packs.close()
      await storage.close()
    },
  }
}

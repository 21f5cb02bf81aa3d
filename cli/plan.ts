import { samplesToMs } from '#core/audio/pcm'
import { layTrack } from '#core/audio/track'
import { workNames } from '#core/delivery/naming'
import type { DeliveryProfile } from '#core/delivery/profile'
import { clock } from '#core/estimate/clock'
import { emptyLinesOf } from '#core/manuscript/to-script'
import { levelSample, type LevelSample } from '#core/runsheet/level-sample'
import { heardFile, runSheet, type HeardPart, type RunSheetFile } from '#core/runsheet/run-sheet'
import { divided } from '#core/runsheet/units'
import { narratorName, trackRateOf, type Cast } from '#core/score/cast'
import type { CastScore } from '#core/score/request'
import { unreadIn, warningsOf } from '#core/score/warnings'
import { choose, withKnown } from '#core/takes/choose'
import { deliveredSamples, gridOf } from '#press/press-track'
import type { TakeLibrary } from '#takes/library'
import { engineCapabilities, readsLetters } from '#voices/registry'
import { announcedDocument, openCastings, type AnnouncerFlags } from './announce'
import { compileScript, openCache, openCasting, openDocument, openVoices, type OpenedDocument, type VoiceFlags } from './environment'
import type { IntakeFlags } from './choices'
import { eachProfile, type SeveralProfiles } from './profile'
import { openSounds } from './sounds'
import { openWork, type WorkFlags } from './work'
import { counted, noteOnce, printJson, printTable } from './print'

type PlanFlags = IntakeFlags & VoiceFlags & SeveralProfiles & AnnouncerFlags & WorkFlags

export async function plan(file: string, flags: PlanFlags & { json?: boolean }): Promise<void> {
  const chosen = await eachProfile(flags)
  const opened = await openDocument(file, flags)
  const plans: { readonly name: string | null, readonly files: readonly PlannedFile[] }[] = []
  for (const { profile, folder } of chosen) plans.push({ name: folder, files: await plannedFiles(file, opened, profile, flags) })
  if (flags.json === true) {
    const [only, ...others] = plans.map(({ name, files }) => ({ ...(name === null ? {} : { profile: name }), files: files.map(({ read: _, ...each }) => each), totals: totalsOf(files) }))
    printJson(others.length === 0 ? only : { profiles: [only, ...others] })
    return
  }
  for (const { name, files } of plans) {
    if (name !== null) process.stdout.write(`${name}\n`)
    print(files)
  }
}

/** The files that would be made for a profile. */
async function plannedFiles(file: string, opened: OpenedDocument, profile: DeliveryProfile, flags: PlanFlags): Promise<PlannedFile[]> {
  const document = announcedDocument(opened, profile, await openWork(opened.script, flags), flags)
  const { script } = document
  const roomTone = profile.announcements?.roomTone ?? null
  const cache = await openCache(flags.cache)
  const { library } = cache
  const engines = openVoices(1)
  try {
    const casting = await openCasting(engines, script, flags)
    const cast = { casting, castings: await openCastings(engines, script, flags) }
    const rate = trackRateOf(cast, engineCapabilities())
    const scores = await compileScript(document, cast, await openSounds(script, roomTone, file, flags.sounds, library, rate), roomTone, flags)
    const { sheet } = await sheetFor(document, scores, cast, profile, library, rate)
    warn(sheet)
    const files: PlannedFile[] = []
    for (const { number, name, parts, score, references } of sheet) {
      const takes = await library.index.find(score.utterances.map(utterance => utterance.key))
      const grid = gridOf(layTrack(score, withKnown(references, takes), rate, profile), profile)
      files.push({
        number, name, parts,
        durationMs: Math.round(samplesToMs(deliveredSamples(grid, profile), profile.sampleRate)),
        characters: score.utterances.reduce((sum, utterance) => sum + utterance.text.length, 0),
        utterances: score.utterances.length,
        read: takes.size > 0 && score.utterances.every(utterance => takes.has(utterance.key)),
      })
    }
    return files
  } finally {
    await cache.close()
    await engines.close()
  }
}

/** The run sheet of a document on the command line, and what its level is found by. What is not read yet has an estimated length, by which files can be divided in other places than later. */
export async function sheetFor({ script, manuscript, proposal }: OpenedDocument, scores: readonly CastScore[], { casting, castings }: Cast, profile: DeliveryProfile, { index }: TakeLibrary, trackRate: number, coverBytes = 0): Promise<{ readonly sheet: readonly RunSheetFile[], readonly sample: LevelSample }> {
  const takes = await index.find(scores.flatMap(score => score.utterances.map(utterance => utterance.key)))
  const parts = script.parts.flatMap((part, place): HeardPart[] => {
    const score = scores[place]!
    const references = choose(score, takes)
    return part.included ? [{ ...part, number: place + 1, about: proposal.parts[place]?.about ?? null, ...divided(score, references, part.passages, trackRate), score, references }] : []
  })
  const work = workNames(script, casting.voice, narratorName, new Date())
  const speakers = new Map(Object.entries(castings ?? {}).map(([role, { voice }]) => [role, { role, voice }]))
  const files = runSheet(parts, profile, { work, speakers, coverBytes, emptyLines: emptyLinesOf(manuscript, proposal.parts) })
  return { sheet: files.map(file => heardFile(file, profile)), sample: levelSample(files) }
}

/** Says on standard error what would probably be read wrong as a whole. */
export function warn(sheet: readonly RunSheetFile[]): void {
  for (const { message, place } of warningsOf(sheet.map(({ title, score }) => ({ label: title, unread: unreadIn(score, readsLetters) })))) noteOnce(`${place}: ${message}`)
}

interface PlannedFile {
  readonly number: number
  readonly name: string
  readonly parts: readonly number[]
  readonly durationMs: number
  readonly characters: number
  readonly utterances: number
  /** Whether its length is exact, because everything in it has been read before. */
  readonly read: boolean
}

function totalsOf(files: readonly PlannedFile[]): { readonly files: number } & Pick<PlannedFile, 'durationMs' | 'characters' | 'utterances'> {
  const total = (measure: (file: PlannedFile) => number): number => files.reduce((sum, file) => sum + measure(file), 0)
  return { files: files.length, durationMs: total(file => file.durationMs), characters: total(file => file.characters), utterances: total(file => file.utterances) }
}

function print(files: readonly PlannedFile[]): void {
  const totals = totalsOf(files)
  printTable(['No', 'File', 'Minutes', 'Characters', 'Utterances'], files.map(file =>
    [file.number, file.name, `${file.read ? '' : '~'}${clock(file.durationMs)}`, file.characters, file.utterances]))
  process.stdout.write(`${counted(totals.files, 'file')}, ${clock(totals.durationMs)}, ${totals.characters} characters\n`)
}

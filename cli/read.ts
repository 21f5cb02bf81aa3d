import { resolve } from 'node:path'
import { reportFileOf, reportOf } from '#core/delivery/report'
import { verdictOf } from '#core/delivery/verdict'
import { clock } from '#core/estimate/clock'
import { fail, ProblemError, type Problem } from '#core/problem'
import { trackRateOf } from '#core/score/cast'
import type { DeliveryProfile } from '#core/delivery/profile'
import type { CastUtterance } from '#core/score/request'
import { deliver } from '#press/deliver'
import { makeTakes } from '#reading/make-takes'
import { withMending } from '#reading/mend'
import { engineCapabilities } from '#voices/registry'
import { announcedDocument, openCastings, type AnnouncerFlags } from './announce'
import type { IntakeFlags } from './choices'
import { compileScript, openCache, openCasting, openDocument, openVoices, type OpenedDocument, type VoiceFlags } from './environment'
import { FinishedFiles } from './finished-files'
import { prepareFolder } from './out-folder'
import { sheetFor, warn } from './plan'
import { eachProfile, type SeveralProfiles } from './profile'
import { refuseReportName, sayVerdict, writeReport } from './report'
import { openSounds } from './sounds'
import { openWork, type WorkFlags } from './work'
import { counted, endProgress, note, printJson, printTable, progress } from './print'

type ReadFlags = IntakeFlags & VoiceFlags & SeveralProfiles & AnnouncerFlags & WorkFlags & { out: string, report?: string, anyway?: string, strict?: boolean, json?: boolean }

export async function read(file: string, flags: ReadFlags): Promise<void> {
  refuseReportName(flags.report)
  const chosen = await eachProfile(flags)
  const opened = await openDocument(file, flags)
  const runs: object[] = []
  let last: Problem | null = null
  for (const { profile, folder } of chosen) {
    const { summary, waiting } = await readFor(file, opened, profile, folder, flags)
    runs.push(summary)
    last = waiting ?? last
  }
  if (flags.json === true) printJson(runs.length === 1 ? runs[0] : { profiles: runs })
  if (last !== null) throw new ProblemError(last)
}

/** Makes the files of a profile, in a folder of its own where there are several. Gives what is said of them as JSON, and the problem of those that have to wait. */
async function readFor(file: string, opened: OpenedDocument, profile: DeliveryProfile, ownFolder: string | null, flags: ReadFlags): Promise<{ readonly summary: object, readonly waiting: Problem | null }> {
  const work = await openWork(opened.script, flags)
  const document = announcedDocument(opened, profile, work, flags)
  const { script } = document
  const roomTone = profile.announcements?.roomTone ?? null
  const cache = await openCache(flags.cache)
  const engines = openVoices()
  try {
    const casting = await openCasting(engines, script, flags)
    const cast = { casting, castings: await openCastings(engines, script, flags) }
    const trackRate = trackRateOf(cast, engineCapabilities())
    const sounds = await openSounds(script, roomTone, file, flags.sounds, cache.library, trackRate)
    const scores = await compileScript(document, cast, sounds, roomTone, flags, engines)
    const files = (): ReturnType<typeof sheetFor> => sheetFor(document, scores, cast, profile, cache.library, trackRate, work.cover?.bytes)
    const { sheet: estimated } = await files()
    if (estimated.length === 0) fail('nothing-to-speak', `Nothing in ${file} can be spoken.`)
    warn(estimated)
    const folder = resolve(flags.out, ownFolder ?? '')
    const cover = profile.extras.includes('cover') ? work.cover : null
    // Refused before anything is made, as far as names are known then.
    await prepareFolder(folder, estimated.map(planned => planned.name), cover)

    const utterances = estimated.flatMap(planned => planned.score.utterances)
    const { made, faults } = await readAll(utterances, cache.library, engines)
    // By lengths that are exact now files may be divided in other places.
    const { sheet, sample } = await files()
    const tidy = await prepareFolder(folder, sheet.map(planned => planned.name), cover)
    // One sentence that cannot be read keeps back its own file only.
    const ready = sheet.filter(planned => !planned.score.utterances.some(utterance => faults.has(utterance.key)))
    const waiting = sheet.filter(planned => !ready.includes(planned))
    if (ready.length === 0) fail('reading-faults', `${counted(faults.size, 'utterance')} could not be read, in every file, so no file was made; the others are kept. Run the command again to try once more, or change these texts.`)

    const finished = await FinishedFiles.open(cache.folder)
    const spoken = ready.flatMap(planned => planned.score.utterances)
    const delivered = await withMending(spoken, cache.library, engines, () => deliver(ready, work, profile, cache.library, { storage: cache.storage, folder }, {
      of: sheet.length, trackRate, production: { sample, beforeDb: null },
      pieces: cache.storage, cover: work.picture,
      earlier: fingerprint => finished.find(fingerprint),
      onFile: async made => {
        await finished.add(made.fingerprint, resolve(folder, made.name), made)
        progress(`Made ${made.name}`)
      },
    }))
    await tidy()
    endProgress()

    const concession = flags.anyway === undefined ? null : { reason: flags.anyway, at: new Date().toISOString() }
    const report = reportOf(work.title, profile, delivered.map(reportFileOf), null, concession)
    await writeReport(flags.report, ownFolder, report)
    const summary = {
      ...(ownFolder === null ? {} : { profile: ownFolder }),
      files: delivered.map(({ number, name, title, durationMs, bytes, sha256, findings }) => ({ number, name, title, durationMs, bytes, sha256, findings })),
      utterances: { made, reused: utterances.length - made - faults.size },
      ...(waiting.length === 0 ? {} : { waiting: waiting.map(({ number, name, title }) => ({ number, name, title })) }),
    }
    if (flags.json !== true) {
      printTable(['No', 'File', 'Minutes', 'Bytes', 'Verdict'], delivered.map(each => [each.number, each.name, clock(each.durationMs), each.bytes, verdictOf(each.findings)]))
      process.stdout.write(`${counted(delivered.length, 'file')} in ${folder}; ${counted(made, 'utterance')} made, ${utterances.length - made - faults.size} re-used\n`)
    }
    sayVerdict(report, note)
    return { summary, waiting: waiting.length === 0 ? null : { code: 'reading-faults', message: `${counted(faults.size, 'utterance')} could not be read, so ${waiting.length === 1 ? 'this file was' : 'these files were'} not made: ${waiting.map(planned => planned.name).join(', ')}. The others are there. Run the command again to try once more, or change these texts.` } }
  } finally {
    await cache.close()
    await engines.close()
  }
}

/** Makes what is missing; gives how many were made, and the keys of those that could not be. */
async function readAll(wanted: readonly CastUtterance[], library: Parameters<typeof makeTakes>[1], engines: Parameters<typeof makeTakes>[2]): Promise<{ made: number, faults: ReadonlySet<string> }> {
  const faults: { utterance: CastUtterance, problem: Problem }[] = []
  const byKey = new Map(wanted.map(utterance => [utterance.key, utterance]))
  let stored = 0
  const made = await makeTakes(wanted, library, engines, {
    onStored: takes => {
      stored += takes.length
      progress(`Read ${stored} of at most ${byKey.size} utterances`)
    },
    onFault: ({ key }, problem) => { faults.push({ utterance: byKey.get(key)!, problem }) },
  })
  for (const { utterance, problem } of faults) {
    const [part, passage] = utterance.passageId.split('.')
    note(`part ${part}, passage ${passage}, “${utterance.text.slice(0, 80)}”: ${problem.message}`)
  }
  return { made: made.length, faults: new Set(faults.map(({ utterance }) => utterance.key)) }
}

import { resolve } from 'node:path'
import { defaultProfile } from '#core/delivery/profile'
import { clock } from '#core/estimate/clock'
import { fail, type Problem } from '#core/problem'
import { deliver } from '#press/deliver'
import { makeTakes, type Wanted } from '#reading/make-takes'
import { withMending } from '#reading/mend'
import { compileScript, openCache, openCasting, openDocument, openEngine, openHouseStyle, type IntakeFlags, type VoiceFlags } from './environment'
import { FinishedFiles } from './finished-files'
import { prepareFolder } from './out-folder'
import { sheetFor } from './plan'
import { endProgress, note, printJson, printTable, progress } from './print'

export async function read(file: string, flags: IntakeFlags & VoiceFlags & { out: string, json?: boolean }): Promise<void> {
  const style = await openHouseStyle(flags.houseStyle)
  const { script } = await openDocument(file, flags)
  const engine = openEngine()
  try {
    const casting = await openCasting(engine, script, flags)
    const sheet = sheetFor(script, compileScript(script, style, casting))
    if (sheet.length === 0) fail('nothing-to-speak', `Nothing in ${file} can be spoken.`)
    const folder = resolve(flags.out)
    const tidy = await prepareFolder(folder, sheet.map(planned => planned.name))
    const cache = await openCache(flags.cache)

    const utterances = sheet.flatMap(planned => planned.part.score.utterances)
    const made = await readAll(utterances, cache.library, engine)

    const finished = await FinishedFiles.open(cache.folder)
    const files = await withMending(utterances, cache.library, engine, () => deliver(sheet, script, defaultProfile, cache.library, folder, {
      earlier: fingerprint => finished.find(fingerprint),
      onFile: async delivered => {
        await finished.add(delivered.fingerprint, resolve(folder, delivered.name), delivered.sha256)
        progress(`Made ${delivered.name}`)
      },
    }))
    await tidy()
    endProgress()
    await cache.library.packs.close()

    if (flags.json === true) {
      printJson({
        files: files.map(({ number, name, title, durationMs, bytes, sha256 }) => ({ number, name, title, durationMs, bytes, sha256 })),
        utterances: { made, reused: utterances.length - made },
      })
    } else {
      printTable(['No', 'File', 'Minutes', 'Bytes'], files.map(delivered => [delivered.number, delivered.name, clock(delivered.durationMs), delivered.bytes]))
      process.stdout.write(`${files.length} files in ${folder}; ${made} utterances made, ${utterances.length - made} re-used\n`)
    }
  } finally {
    await engine.close()
  }
}

async function readAll(wanted: readonly (Wanted & { text: string })[], library: Parameters<typeof makeTakes>[1], engine: Parameters<typeof makeTakes>[2]): Promise<number> {
  const faults: { text: string, problem: Problem }[] = []
  const texts = new Map(wanted.map(want => [want.key, want.text]))
  let stored = 0
  const made = await makeTakes(wanted, library, engine, {
    onStored: takes => {
      stored += takes.length
      progress(`Read ${stored} of at most ${texts.size} utterances`)
    },
    onFault: (want, problem) => { faults.push({ text: texts.get(want.key) ?? '', problem }) },
  })
  if (faults.length > 0) {
    for (const fault of faults.slice(0, 20)) note(`“${fault.text.slice(0, 80)}”: ${fault.problem.message}`)
    fail('reading-faults', `${faults.length} utterances could not be read; no file was made. Change these texts and run the command again.`)
  }
  return made.length
}

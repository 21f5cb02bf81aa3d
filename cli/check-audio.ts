import { readdir, stat } from 'node:fs/promises'
import { basename, extname, join, resolve } from 'node:path'
import { figuresOf, judgeFile, judgeTogether, soundOfHead, type ExaminedFile } from '#core/delivery/conformance'
import { reportOf, type ReportFile } from '#core/delivery/report'
import { secondsOf, verdictOf } from '#core/delivery/verdict'
import { clock } from '#core/estimate/clock'
import { fail, ProblemError } from '#core/problem'
import { silenceDb } from '#core/mastering/measure'
import { examineFile } from '#press/examine'
import { endProgress, printJson, printTable, progress } from './print'
import { openProfile } from './profile'
import { refuseReportName, sayVerdict, writeReport } from './report'

/** What is taken for audio in a folder, by its ending. */
const audio: ReadonlySet<string> = new Set(['.mp3', '.m4b', '.m4a', '.aac', '.flac', '.wav', '.w64', '.ogg', '.opus', '.aiff', '.aif', '.caf', '.mka'])

/** Measures the audio files of a folder, whoever made them, against a profile. Ends with 1 when one does not pass. */
export async function checkAudio(folder: string, flags: { readonly profile?: string, readonly report?: string, readonly json?: boolean }): Promise<void> {
  refuseReportName(flags.report)
  const profile = await openProfile(flags)
  const names = await audioIn(folder)
  const files: ExaminedFile[] = []
  const unreadable: ReportFile[] = []
  for (const name of names) {
    progress(`Measures ${name} (${files.length + 1} of ${names.length})`)
    const examined = await examineFile(join(folder, name), name).catch(unreadableFile)
    if ('measures' in examined) files.push(examined)
    else unreadable.push({ name, title: null, bytes: (await stat(join(folder, name))).size, durationMs: 0, levels: null, sound: null, findings: [{ code: 'unreadable', file: name, atMs: null, message: examined.message, remedy: 'Make it again, or take it out of the folder.' }] })
  }
  endProgress()
  const together = judgeTogether(files)
  const measured = files.map(file => {
    const figures = figuresOf(file, profile)
    return { file, figures, findings: [...judgeFile(file, profile, figures), ...together.filter(finding => finding.file === file.name)] }
  })
  const report = reportOf(basename(resolve(folder)), profile, [...measured.map(({ file, figures, findings }) => ({
    name: file.name, title: file.title, bytes: file.bytes, durationMs: figures.durationMs, levels: figures, sound: soundOfHead(file), findings,
  })), ...unreadable].sort((a, b) => a.name < b.name ? -1 : 1))
  await writeReport(flags.report, null, report)
  if (flags.json === true) {
    const rows = measured.map(({ file: { name, bytes, codec, sampleRate, channels, bitRateKbps }, figures, findings }) => ({ name, bytes, codec, sampleRate, channels, bitRateKbps, ...figures, passes: findings.length === 0 }))
    printJson({ profile: profile.name, files: [...rows, ...unreadable.map(({ name, bytes }) => ({ name, bytes, passes: false }))], findings: report.files.flatMap(({ findings }) => findings ?? []) })
    if (!report.passes) process.exitCode = 1
    return
  }
  const db = (value: number): string => value <= silenceDb ? 'none' : value.toFixed(1)
  printTable(['File', 'Minutes', 'RMS dB', 'LUFS', 'Peak dB', 'Floor dB', 'Head s', 'Tail s', 'Verdict'], report.files.map(({ name, durationMs, levels, findings }) =>
    [name, ...(levels === null ? ['', '', '', '', '', '', ''] : [clock(durationMs), db(levels.rmsDb), db(levels.integratedDb), db(levels.truePeakDb), db(levels.noiseFloorDb), secondsOf(levels.headMs), secondsOf(levels.tailMs)]), verdictOf(findings)]))
  sayVerdict(report, line => process.stdout.write(`${line}\n`))
}

/** The names of the audio files of a folder, in the order in which players play them. A single file is a folder of one. */
async function audioIn(folder: string): Promise<string[]> {
  const found = await stat(folder).catch(() => fail('folder-missing', `There is no folder ${folder}. Check the name.`))
  if (!found.isDirectory()) fail('folder-missing', `${folder} is no folder. Name the folder in which the audio files lie.`)
  const names = (await readdir(folder, { withFileTypes: true })).filter(entry => entry.isFile() && audio.has(extname(entry.name).toLowerCase()) && !entry.name.startsWith('.')).map(({ name }) => name)
  if (names.length === 0) fail('no-audio', `There are no audio files in ${folder}.`)
  return names.sort()
}

/** What cannot be read is a fault of its own, and keeps no other file from being measured. */
function unreadableFile(error: unknown): { readonly message: string } {
  if (error instanceof ProblemError && error.problem.code === 'audio-unreadable') return { message: error.problem.message }
  throw error
}

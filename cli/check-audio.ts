import { readdir, stat } from 'node:fs/promises'
import { extname, join } from 'node:path'
import { figuresOf, judgeFile, judgeTogether, type ExaminedFile, type Finding } from '#core/delivery/conformance'
import { clock } from '#core/estimate/clock'
import { fail } from '#core/problem'
import { silenceDb } from '#core/mastering/measure'
import { examineFile } from '#press/examine'
import { counted, endProgress, printJson, printTable, progress } from './print'
import { openProfile } from './profile'

/** What is taken for audio in a folder, by its ending. */
const audio: ReadonlySet<string> = new Set(['.mp3', '.m4b', '.m4a', '.aac', '.flac', '.wav', '.w64', '.ogg', '.opus', '.aiff', '.aif', '.caf', '.mka'])

/** Measures the audio files of a folder, whoever made them, against a profile. Ends with 1 when one does not pass. */
export async function checkAudio(folder: string, flags: { readonly profile?: string, readonly json?: boolean }): Promise<void> {
  const profile = await openProfile(flags)
  const names = await audioIn(folder)
  const files: ExaminedFile[] = []
  for (const name of names) {
    progress(`Measures ${name} (${files.length + 1} of ${names.length})`)
    files.push(await examineFile(join(folder, name), name))
  }
  endProgress()
  const measured = files.map(file => ({ file, figures: figuresOf(file, profile) }))
  const findings = [...measured.flatMap(({ file, figures }) => judgeFile(file, profile, figures)), ...judgeTogether(files)]
  if (findings.length > 0) process.exitCode = 1
  const rows = measured.map(({ file: { name, bytes, codec, sampleRate, channels, bitRateKbps }, figures }) => ({ name, bytes, codec, sampleRate, channels, bitRateKbps, ...figures, passes: !findings.some(finding => finding.file === name) }))
  if (flags.json === true) {
    printJson({ profile: profile.name, files: rows, findings })
    return
  }
  const db = (value: number): string => value <= silenceDb ? 'none' : value.toFixed(1)
  const seconds = (value: number | null): string => value === null ? '' : (value / 1000).toFixed(2)
  printTable(['File', 'Minutes', 'RMS dB', 'LUFS', 'Peak dB', 'Floor dB', 'Head s', 'Tail s', 'Verdict'], rows.map(row =>
    [row.name, clock(row.durationMs), db(row.rmsDb), db(row.integratedDb), db(row.truePeakDb), db(row.noiseFloorDb), seconds(row.headMs), seconds(row.tailMs), row.passes ? 'passes' : 'fails']))
  for (const finding of findings) process.stdout.write(`${placeOf(finding)}: ${finding.message} ${finding.remedy}\n`)
  const failing = rows.filter(row => !row.passes).length
  process.stdout.write(failing === 0 ? `${counted(rows.length, 'file')}: all pass “${profile.name}”\n` : `${failing} of ${counted(rows.length, 'file')} ${failing === 1 ? 'does' : 'do'} not pass “${profile.name}”\n`)
}

const placeOf = ({ file, atMs }: Finding): string => atMs === null ? file : `${file} at ${clock(atMs)}`

/** The names of the audio files of a folder, in the order in which players play them. A single file is a folder of one. */
async function audioIn(folder: string): Promise<string[]> {
  const found = await stat(folder).catch(() => fail('folder-missing', `There is no folder ${folder}. Check the name.`))
  if (!found.isDirectory()) fail('folder-missing', `${folder} is no folder. Name the folder in which the audio files lie.`)
  const names = (await readdir(folder, { withFileTypes: true })).filter(entry => entry.isFile() && audio.has(extname(entry.name).toLowerCase()) && !entry.name.startsWith('.')).map(({ name }) => name)
  if (names.length === 0) fail('no-audio', `There are no audio files in ${folder}.`)
  return names.sort()
}

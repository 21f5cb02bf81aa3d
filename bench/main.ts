import { execFile, spawnSync } from 'node:child_process'
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { cpus, tmpdir, totalmem } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { defaultSplit, type FileSplit } from '#core/delivery/file-split'
import { defaultChoices } from '#core/manuscript/choices'
import { compareVersions } from '#core/manuscript/compare'
import { propose } from '#core/manuscript/structure'
import { toScript } from '#core/manuscript/to-script'
import { plainContent, writtenText } from '#core/script/content'
import { scriptAsSsml } from '#core/script/export'
import type { Script } from '#core/script/script'
import { checkSsml } from '#core/script/ssml/check'
import { readSsml } from '#core/script/ssml/read'
import { parseXmlTree } from '#core/script/ssml/tree'
import { writeSsml } from '#core/script/ssml/write'
import type { Unit } from '#core/score/compile'
import { defaultHouseStyle } from '#core/style/house-style'
import { takeIn } from '#intake/take-in'
import type { Desk, Page as ScriptPage } from '#shared/api'
import { programs, root, variable } from '../scripts/paths.mjs'
import { Application, mostInFlight } from './application'
import { chaptersOfTheBook, markdownOf, tenChapters, wordsOf, type Chapter } from './book'
import { clickToSound, inBrowser, keyToPaint } from './browser'
import { damage, intakeOfEveryFormat } from './intake'
import { cpuOfTimes, encoding, plainPipeline, type Cost } from './plain'
import { peakMemoryMb, since } from './processes'
import { benchFuzz } from './fuzz'
import { benchHuge } from './huge'
import { benchLoad } from './load'
import { benchWords } from './words'
import { scoreOf } from './score'

// npm run bench            ten chapters against the plain pipeline, one edit, the whole book's intake and score, memory, the page, kills
// npm run bench -- speed   without the kills
// npm run bench -- script  intake and score of the whole book, its SSML, and the page with a long part
// npm run bench -- words   census, rules and wordbook over the whole book
// npm run bench -- said    sounds that no written word explains, with every preset, over the demo, the whole book and manuals in other languages
// npm run bench -- huge    what others wait while one line of five million characters is worked on
// npm run bench -- kills   only those
// npm run bench -- book    the whole book, read and delivered, and by the plain pipeline
// npm run bench -- intake  the whole book in every format, and damaged files

interface Figure {
  readonly what: string
  readonly value: number
  readonly unit: string
  /** Most that is allowed, where there is a bound. */
  readonly bound?: number
}

const figures: Figure[] = []

function note(what: string, value: number, unit: string, bound?: number): void {
  figures.push({ what, value, unit, ...(bound === undefined ? {} : { bound }) })
  const verdict = bound === undefined ? '' : value <= bound ? `   ≤ ${bound}` : `   MORE THAN ${bound}`
  console.log(`${what.padEnd(64)} ${value.toFixed(value < 10 ? 2 : 0).padStart(8)} ${unit}${verdict}`)
}

const mean = (costs: readonly Cost[], of: keyof Cost): number => costs.reduce((sum, cost) => sum + cost[of], 0) / costs.length

async function seconds(action: () => Promise<unknown>): Promise<number> {
  const began = performance.now()
  await action()
  return (performance.now() - began) / 1000
}

type Used = ReturnType<Application['cpu']>

/** The most that ours may cost, to the plain pipeline. */
const mostToPlain = 1.35

function noteRatios(ours: Cost, plain: Cost): void {
  note('wall, ours to plain', ours.wall / plain.wall, '×', mostToPlain)
  note('CPU, ours to plain', ours.cpu / plain.cpu, '×', mostToPlain)
}

/** Ten chapters by both ways in turn, and what each stage of ours takes. */
async function compareWithPlain(application: Application, folder: string): Promise<string> {
  const chapters = tenChapters()
  console.log(`\nTen chapters, ${wordsOf(chapters)} words, MP3 at 192 kbit/s; plain: espeak-ng | ffmpeg, two at a time`)
  const editionId = await application.produce('Ten chapters', markdownOf('Ten chapters', chapters), 2)
  const { casting } = await application.desk(editionId)
  const plain = [await plainPipeline(chapters, casting.voice, folder)]

  const began = application.cpu()
  const readingWall = await application.read(editionId)
  const read = application.cpu()
  const deliveringWall = await application.deliver(editionId)
  const delivered = application.cpu()
  plain.push(await plainPipeline(chapters, casting.voice, folder))

  const between = (now: Used, before: Used): Used => ({ server: since(now.server, before.server), worker: since(now.worker, before.worker), database: since(now.database, before.database) })
  const reading = between(read, began)
  const delivering = between(delivered, read)
  const reloads = await engineReload(application)
  const stages = {
    'engine reload': reloads,
    'synthesis': reading.worker.ended + reading.worker.running - reloads,
    'store': reading.worker.own + reading.database.total,
    'assemble, encode, measure': delivering.worker.total + delivering.database.total,
    'web server': reading.server.total + delivering.server.total,
  }
  const cpu = Object.values(stages).reduce((sum, stage) => sum + stage, 0)
  const wall = readingWall + deliveringWall
  note('plain, wall', mean(plain, 'wall'), 's')
  note('plain, CPU', mean(plain, 'cpu'), 's')
  note('ours, wall', wall, 's')
  note('ours, CPU', cpu, 's')
  note('  of it reading', readingWall, 's')
  noteRatios({ wall, cpu }, { wall: mean(plain, 'wall'), cpu: mean(plain, 'cpu') })
  for (const [stage, used] of Object.entries(stages)) note(`  ${stage}, share of our CPU`, used / cpu * 100, '%')
  return editionId
}

/** Utterances of the shortest kind that a child speaks to measure what each costs besides its sound. */
const probes = 100

/** CPU that the engine's library took to be loaded anew for each utterance of all productions, s. */
async function engineReload(application: Application): Promise<number> {
  const order = JSON.stringify({ identifier: 'gmw/en', rate: 130, pitch: 50, markup: '<speak>a</speak>' })
  const probe = `let left=${probes};const c=require("node:child_process").fork(process.argv[1],{serialization:"advanced"});`
    + `c.on("message",()=>{left-=1;if(left===0)c.disconnect()});for(let i=0;i<left;i+=1)c.send({speak:${order}})`
  const { stdout } = await promisify(execFile)('bash', ['-c', `'${process.execPath}' -e '${probe}' '${join(programs, 'espeak-child.mjs')}'; times`])
  const bare = await promisify(execFile)('bash', ['-c', `'${process.execPath}' -e '${probe.replace(`left=${probes}`, 'left=1')}' '${join(programs, 'espeak-child.mjs')}'; times`])
  const entries = await application.ask<{ parts: { utterances: number }[] }[]>('editions')
  const utterances = entries.flatMap(entry => entry.parts).reduce((sum, part) => sum + part.utterances, 0)
  return (cpuOfTimes(stdout) - cpuOfTimes(bare.stdout)) / (probes - 1) * utterances
}

/** One sentence of a chapter changed, read and delivered again, against encoding that chapter. */
async function editOneSentence(application: Application, editionId: string, folder: string): Promise<void> {
  const { parts } = await application.desk(editionId)
  const part = parts.find(each => each.label.startsWith('Chapter 1.'))!
  const { passages } = await application.ask<ScriptPage>(`parts/${part.id}`)
  const passage = passages[3]!
  const began = performance.now()
  await changeText(application, editionId, passage, 'So it was.')
  await application.read(editionId)
  await application.deliver(editionId)
  const edited = (performance.now() - began) / 1000
  const wav = join(folder, 'chapter.wav')
  await writeFile(wav, Buffer.from(await (await fetch(`${application.address}/api/parts/${part.id}/track`)).arrayBuffer()))
  const encode = await seconds(() => promisify(execFile)('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-i', wav, ...encoding, `${wav}.mp3`]))
  console.log(`\nOne sentence of a chapter of ${(part.durationMs / 60_000).toFixed(0)} minutes edited`)
  note('edit, read and deliver again', edited, 's')
  note('encoding the chapter', encode, 's')
  note('edit to encoding its chapter', edited / encode, '×', 1.5)
}

/** The same chapters in other files, against encoding all of them in one go. */
async function divisions(application: Application, editionId: string, folder: string): Promise<void> {
  const divide = (split: Partial<FileSplit>): Promise<unknown> => application.ask(`editions/${editionId}/split`, 'PUT', { split: { ...defaultSplit, ...split } })
  const { parts } = await application.desk(editionId)
  const wavs: string[] = []
  for (const part of parts) {
    const wav = join(folder, `${part.id}.wav`)
    await writeFile(wav, Buffer.from(await (await fetch(`${application.address}/api/parts/${part.id}/track`)).arrayBuffer()))
    wavs.push(wav)
  }
  const inputs = wavs.flatMap(wav => ['-i', wav])
  const joined = `${wavs.map((_, index) => `[${index}:a]`).join('')}concat=n=${wavs.length}:v=0:a=1`
  const encode = await seconds(() => promisify(execFile)('ffmpeg', ['-hide_banner', '-loglevel', 'error', ...inputs, '-filter_complex', joined, ...encoding, join(folder, 'whole.mp3')]))
  console.log(`\nThe same chapters in other files, to encoding all ${(parts.reduce((sum, part) => sum + part.durationMs, 0) / 60_000).toFixed(0)} minutes in one go: ${encode.toFixed(0)} s`)
  await divide({ where: { by: 'whole' }, aboutMs: 20 * 60_000 })
  note('files of about 20 minutes', await application.deliver(editionId) / encode, '×', 0.05)
  await application.ask('storage/free', 'POST', { kind: 'pieces' })
  await divide({ where: { by: 'whole' } })
  note('one file, nothing kept', await application.deliver(editionId) / encode, '×', 0.6)
  const { passages: [, , , passage] } = await application.ask<ScriptPage>(`parts/${parts[1]!.id}`)
  await changeText(application, editionId, passage!, 'And so it was.')
  note('one sentence of the one file: read', await application.read(editionId), 's')
  note('one sentence of the one file: made', await application.deliver(editionId) / encode, '×', 0.03)
}

/** Adds a sentence to a passage. */
async function changeText(application: Application, editionId: string, passage: ScriptPage['passages'][number], sentence: string): Promise<void> {
  await application.ask(`editions/${editionId}/operations`, 'POST', {
    window: 'benchmark', operations: [{ op: 'setContent', passageId: passage.id, revision: passage.revision, content: plainContent(`${writtenText(passage.content)} ${sentence}`) }],
  })
}

/** Intake and score of the whole book, by the core alone. Gives its script. */
async function intakeAndScore(folder: string): Promise<Script> {
  const chapters = chaptersOfTheBook()
  const path = join(folder, 'book.md')
  await writeFile(path, markdownOf('The whole book', chapters))
  console.log(`\nThe whole book, ${chapters.length} chapters, ${wordsOf(chapters)} words`)
  let script = toScript(await takeIn(join(programs, 'reader-child.mjs'), path, 'book.md', { language: 'en' }), [])
  note('intake', await seconds(async () => {
    const manuscript = await takeIn(join(programs, 'reader-child.mjs'), path, 'book.md', { language: 'en' })
    script = toScript(manuscript, propose(manuscript, defaultChoices(manuscript)).parts)
  }), 's', 3)
  const context = { language: 'en', style: defaultHouseStyle }
  const units = new Map<string, Unit>()
  const cache = { get: (input: string) => units.get(input), set: (input: string, unit: Unit) => { units.set(input, unit) } }
  const compileAll = (): void => { for (const part of script.parts) scoreOf(part, context, cache) }
  note('score', await seconds(() => Promise.resolve(compileAll())), 's', 2)
  const longest = script.parts.reduce((found, part) => part.passages.length > found.passages.length ? part : found)
  const edited = { ...longest, passages: longest.passages.map((passage, index) => index === 5 ? { ...passage, content: plainContent('A new sentence. And another one.') } : passage) }
  const passages = script.parts.flatMap(part => part.passages.map(passage => ({ id: passage.id, part: part.id, imported: writtenText(passage.content), written: writtenText(passage.content) })))
  const changed = passages.map(({ written }, index) => ({ text: index % 50 === 7 ? `${written} And more.` : written }))
  note('a new version compared', await seconds(() => Promise.resolve(compareVersions(passages, changed))), 's', 2)
  note('recompile after one edit', await seconds(() => Promise.resolve(scoreOf(edited, context, cache))) * 1000, 'ms', 50)
  return script
}

/** The book as SSML: written, checked and read back. */
async function ssml(script: Script): Promise<void> {
  const whole = scriptAsSsml(script)
  const passages = script.parts.flatMap(part => part.passages)
  let size = 0
  const megabyte = writeSsml({ language: 'en', parts: [{ kind: 'chapter', label: '', passages: passages.filter(passage => (size += writtenText(passage.content).length + 10) < 1e6) }] })
  console.log(`\nSSML: ${(megabyte.length / 1e6).toFixed(2)} MB of the book, which has ${(whole.length / 1e6).toFixed(2)} MB`)
  const perMegabyte = 1e6 / megabyte.length
  let checked = checkSsml(megabyte)
  note('parse XML alone, 1 MB', await seconds(() => Promise.resolve(parseXmlTree(megabyte))) * 1000 * perMegabyte, 'ms')
  note('validate 1 MB', await seconds(() => Promise.resolve(checked = checkSsml(megabyte))) * 1000 * perMegabyte, 'ms', 1000)
  note('make a script of it', await seconds(() => Promise.resolve(readSsml(checked.root!, checked.source))) * 1000 * perMegabyte, 'ms', 1000)
}

/** A part of more than 20,000 words: typing in it, its first sound, and seeking in its two hours. */
async function longPart(application: Application): Promise<void> {
  const chapters: Chapter[] = []
  for (const chapter of chaptersOfTheBook().slice(2)) {
    chapters.push(chapter)
    if (wordsOf(chapters) > 20_000) break
  }
  const whole = { title: 'One long part', paragraphs: chapters.flatMap(chapter => chapter.paragraphs) }
  const editionId = await application.produce('One long part', markdownOf('One long part', [whole]), 2)
  const part = (await application.desk(editionId)).parts.reduce((found, each) => each.words > found.words ? each : found)
  const address = `${application.address}/productions/${editionId}/script?part=${part.id}`
  console.log(`\nA part of ${part.words} words`)
  note('click to first sound, not read before', await inBrowser(page => clickToSound(page, address)), 'ms', 300)
  note('key to paint, 95 of 100', await inBrowser(page => keyToPaint(page, address)), 'ms', 50)
  await application.read(editionId)
  const read = (await application.desk(editionId)).parts.find(each => each.id === part.id)!
  const { headers } = await fetch(`${application.address}/api/parts/${part.id}/track`, { headers: { range: 'bytes=0-0' } })
  const size = Number(headers.get('content-range')!.split('/')[1])
  let slowest = 0
  for (let seek = 1; seek <= 20; seek += 1) {
    const began = performance.now()
    const response = await fetch(`${application.address}/api/parts/${part.id}/track`, { headers: { range: `bytes=${Math.floor(size * (seek * 7 % 20) / 20)}-` } })
    const reader = response.body!.getReader()
    await reader.read()
    slowest = Math.max(slowest, performance.now() - began)
    await reader.cancel()
  }
  note(`seeking in ${(read.durationMs / 60_000).toFixed(0)} minutes, to first bytes, slowest of 20`, slowest, 'ms', 200)
}

function memory(application: Application): void {
  console.log('')
  note('most memory, web server', peakMemoryMb(application.pid('server')), 'MB')
  note('most memory, worker', peakMemoryMb(application.pid('worker')), 'MB', 400)
}

const killsEach = Number(process.env['QUILL_KILLS'] ?? 10)

/** Ten kills at seeded moments for each pair of process and stage, by the tests that do one. */
async function kills(): Promise<void> {
  console.log(`\nKills, ${killsEach} for each pair of process and stage`)
  const report = join(variable, 'bench/each-kill.jsonl')
  await rm(report, { force: true })
  spawnSync(process.execPath, [join(root, 'node_modules/@playwright/test/cli.js'), 'test', 'kill'], {
    cwd: root, stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, QUILL_KILLS: String(killsEach), QUILL_KILL_REPORT: report },
  })
  const lines = (await readFile(report, 'utf8')).trim().split('\n').map(line => JSON.parse(line) as { pair: string, survived: boolean, lost: number })
  for (const pair of [...new Set(lines.map(line => line.pair))].sort()) {
    const own = lines.filter(line => line.pair === pair)
    note(`${pair}: not survived, of ${own.length}`, own.filter(line => !line.survived).length, '', 0)
    note(`${pair}: takes lost in flight, most in one kill`, Math.max(...own.map(line => line.lost)), '', mostInFlight)
  }
}

/** The whole book read and delivered, and by the plain pipeline. */
async function wholeBook(application: Application, folder: string): Promise<void> {
  const chapters = chaptersOfTheBook()
  let editionId = ''
  console.log(`\nThe whole book through the application: ${chapters.length} chapters, ${wordsOf(chapters)} words`)
  note('brought in and accepted', await seconds(async () => { editionId = await application.produce('The whole book', markdownOf('The whole book', chapters), 2) }), 's')
  let desk!: Desk
  const looked = async (): Promise<number> => seconds(async () => { desk = await application.desk(editionId) })
  note('desk, first', await looked(), 's')
  note('desk, again', await looked(), 's')
  for (const by of ['part', 'passage', 'sentence'] as const) {
    await application.ask(`editions/${editionId}/split`, 'PUT', { split: { ...defaultSplit, where: { by } } })
    let files = 0
    const wall = await seconds(async () => { files = (await application.runSheet(editionId)).rows.length })
    note(`run sheet by ${by}, ${files} files`, wall * 1000, 'ms', 300)
  }
  await application.ask(`editions/${editionId}/split`, 'PUT', { split: null })
  const before = application.cpu()
  const readingWall = await application.read(editionId)
  note('read', readingWall, 's')
  const deliveringWall = await application.deliver(editionId)
  note('delivered', deliveringWall, 's')
  const after = application.cpu()
  await looked()
  const hours = desk.parts.reduce((sum, part) => sum + part.durationMs, 0) / 3_600_000
  const sheet = await application.runSheet(editionId)
  const used = (['server', 'worker', 'database'] as const).reduce((sum, name) => sum + since(after[name], before[name]).total, 0)
  note('audio', hours, 'h')
  note('files', sheet.deliveries[0]!.files.length, '')
  note('size of the files', sheet.deliveries[0]!.files.reduce((sum, file) => sum + file.bytes, 0) / 1e6, 'MB')
  note('utterances', desk.parts.reduce((sum, part) => sum + part.utterances, 0), '')
  note('CPU', used, 's')
  note('CPU for an hour of audio', used / hours, 's')
  const plain = await plainPipeline(chapters, desk.casting.voice, folder)
  note('plain, wall', plain.wall, 's')
  note('plain, CPU', plain.cpu, 's')
  noteRatios({ wall: readingWall + deliveringWall, cpu: used }, plain)
}

/** The whole book in every format beside an independent reader, and 500 damaged files of each. */
async function intake(folder: string): Promise<void> {
  console.log('\nThe whole book in every format')
  for (const { format, seconds: own, otherSeconds, other, memoryMb } of await intakeOfEveryFormat(folder)) {
    note(`${format}: taken in`, own, 's')
    note(`${format}: ours to ${other}`, own / otherSeconds, '×')
    note(`${format}: most memory of the reader`, memoryMb, 'MB')
  }
  note('formats in which a damaged file did harm', damage() ? 0 : 1, '', 0)
}

const what = process.argv[2] ?? 'all'
if (!['all', 'speed', 'script', 'words', 'kills', 'book', 'intake', 'load', 'huge', 'fuzz', 'said'].includes(what)) throw new Error('npm run bench [-- speed | script | words | said | kills | book | intake | load | huge | fuzz]')
await mkdir(join(variable, 'bench'), { recursive: true })
console.log(`${cpus().length} processors (${cpus()[0]!.model.trim()}), ${(totalmem() / 1e9).toFixed(0)} GB, Node.js ${process.version}`)
const folder = await mkdtemp(join(tmpdir(), 'quill-bench-'))
const application = ['kills', 'intake', 'fuzz', 'said'].includes(what) ? null : await Application.start('bench/log')
try {
  if (application !== null && what === 'words') {
    await benchWords(application, await intakeAndScore(folder), note)
  } else if (application !== null && what === 'load') {
    await benchLoad(application, note)
  } else if (application !== null && what === 'huge') {
    await benchHuge(application, note)
  } else if (application !== null && what !== 'book') {
    if (what !== 'script') {
      const editionId = await compareWithPlain(application, folder)
      await editOneSentence(application, editionId, folder)
      await divisions(application, editionId, folder)
    }
    const script = await intakeAndScore(folder)
    await ssml(script)
    await longPart(application)
    if (what !== 'script') await benchWords(application, script, note)
  }
  if (application !== null && what === 'book') await wholeBook(application, folder)
  if (application !== null) memory(application)
  if (what === 'all' || what === 'kills') await kills()
  if (what === 'all' || what === 'intake') await intake(folder)
  if (what === 'fuzz') benchFuzz(note)
  // Only then: it loads the library of the engine into this process.
  if (what === 'said') await (await import('./said')).benchSaid(await intakeAndScore(folder), { root, programs }, note)
} finally {
  await application?.stop()
  await rm(folder, { recursive: true, force: true })
}
const over = figures.filter(figure => figure.bound !== undefined && figure.value > figure.bound)
await writeFile(join(variable, 'bench', `${what}.json`), `${JSON.stringify({ date: new Date().toISOString(), node: process.version, processors: cpus().map(cpu => cpu.model), figures }, null, 2)}\n`)
console.log(`\n${over.length === 0 ? 'All within their bounds.' : `${over.length} over their bounds.`} As JSON: var/bench/${what}.json`)
process.exitCode = over.length === 0 ? 0 : 1

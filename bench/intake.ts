import { execFile, spawnSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { promisify } from 'node:util'
import { takeIn } from '#intake/take-in'
import { programs, root } from '../scripts/paths.mjs'
import { chaptersOfTheBook, markdownOf } from './book'
import { peakMemoryMb } from './processes'

const run = promisify(execFile)
const lookMs = 10

export interface IntakeFigure {
  readonly format: string
  readonly seconds: number
  /** Of the independent reader, and which it was. */
  readonly otherSeconds: number
  readonly other: string
  readonly memoryMb: number
}

/** The long book in every format, made by other programs, taken in by ours and by an independent reader in the same run. */
export async function intakeOfEveryFormat(folder: string): Promise<IntakeFigure[]> {
  const path = (ending: string): string => join(folder, `book.${ending}`)
  await writeFile(path('md'), markdownOf('The Long Book', chaptersOfTheBook()))
  for (const ending of ['docx', 'odt', 'epub', 'html']) await run('pandoc', ['-f', 'markdown-smart', '--standalone', '--metadata', 'title=The Long Book', path('md'), '-o', path(ending)])
  await run('soffice', ['--headless', `-env:UserInstallation=${pathToFileURL(join(folder, 'office')).href}`, '--convert-to', 'pdf', '--outdir', folder, path('odt')])
  const figures: IntakeFigure[] = []
  for (const format of ['md', 'html', 'docx', 'odt', 'epub', 'pdf']) {
    const other = format === 'pdf' ? 'pdftotext' : 'pandoc'
    const before = await seconds(() => readByOther(other, path(format)))
    let memoryMb = 0
    const watch = setInterval(() => { memoryMb = Math.max(memoryMb, readerMemoryMb()) }, lookMs)
    const own = await seconds(() => takeIn(join(programs, 'reader-child.mjs'), path(format), `book.${format}`, {}))
    clearInterval(watch)
    const after = await seconds(() => readByOther(other, path(format)))
    figures.push({ format, seconds: own, otherSeconds: (before + after) / 2, other, memoryMb })
  }
  return figures
}

/** Damages each sample file 500 times (`tests/unit/intake/fuzz.test.ts`). Gives whether all held. */
export function damage(): boolean {
  const { status } = spawnSync(process.execPath, [join(root, 'node_modules/jest/bin/jest.js'), '--selectProjects', 'unit', '--testPathPatterns', 'intake/fuzz', '--verbose'], {
    cwd: root, stdio: 'inherit', env: { ...process.env, QUILL_FUZZ: '500', NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning' },
  })
  return status === 0
}

async function readByOther(program: string, path: string): Promise<void> {
  await run(program, program === 'pandoc' ? ['-t', 'plain', path, '-o', `${path}.other.txt`] : [path, `${path}.other.txt`])
}

async function seconds(action: () => Promise<unknown>): Promise<number> {
  const began = performance.now()
  await action()
  return (performance.now() - began) / 1000
}

/** The most memory that the guarded reader has held so far, MB; 0 when there is none. */
function readerMemoryMb(): number {
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/u.test(name)) continue
    try {
      if (readFileSync(`/proc/${name}/cmdline`, 'utf8').includes('reader-child.mjs')) return peakMemoryMb(Number(name))
    } catch {
      // It has ended meanwhile.
    }
  }
  return 0
}

import { mkdir, readdir, stat, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { fail } from '#core/problem'
import { defaultNamePattern, defaultNameRules } from '#core/delivery/naming'
import { fileName, numberLabel } from '#core/runsheet/file-name'
import { includedParts, scriptAsMarkdown, scriptAsSsml, scriptAsText, type ScriptFormat } from '#core/script/export'
import type { Script } from '#core/script/script'
import { writeSsml } from '#core/script/ssml/write'
import type { IntakeFlags } from './choices'
import { openDocument } from './environment'
import { noteProblems } from './outline'
import { counted, note } from './print'

export interface ScriptFlags extends IntakeFlags {
  readonly to: ScriptFormat
  readonly out?: string
}

/** Writes the script of a document as SSML, text, Markdown or a Word document. */
export async function script(file: string, flags: ScriptFlags): Promise<void> {
  const { manuscript, script: made } = await openDocument(file, flags)
  noteProblems(manuscript)
  if (includedParts(made).length === 0) fail('nothing-to-read', 'By these choices nothing is left to be read. Change them.')
  if (flags.to === 'ssml' && flags.out !== undefined && await isFolder(flags.out)) return writeParts(made, flags.out)
  const content = await contentOf(made, flags.to)
  if (flags.out === undefined) {
    if (flags.to === 'docx' && process.stdout.isTTY) fail('out-needed', 'A Word document is not for the screen. Say where it goes with --out.')
    process.stdout.write(content)
    return
  }
  await mkdir(dirname(flags.out), { recursive: true })
  // What is there already is never overwritten without a word.
  await writeFile(flags.out, content, { flag: 'wx' }).catch((error: NodeJS.ErrnoException) =>
    error.code === 'EEXIST' ? fail('out-exists', `${flags.out} exists. Move it, or choose another name with --out.`) : Promise.reject(error))
}

async function contentOf(script: Script, format: ScriptFormat): Promise<string | Buffer> {
  switch (format) {
    case 'ssml': return scriptAsSsml(script)
    case 'txt': return scriptAsText(script)
    case 'md': return scriptAsMarkdown(script)
    case 'docx': return (await import('#press/script-document')).scriptDocument(script)
  }
}

async function isFolder(path: string): Promise<boolean> {
  return /[\\/]$/u.test(path) || await stat(path).then(found => found.isDirectory(), () => false)
}

/** A file for each part, numbered in their order. */
async function writeParts(script: Script, folder: string): Promise<void> {
  const parts = includedParts(script)
  const files = parts.map((part, index) => ({
    name: `${fileName(defaultNamePattern, { number: numberLabel(index + 1, parts.length), title: part.label }, defaultNameRules)}.ssml`, content: writeSsml({ language: script.language, parts: [part] }),
  }))
  await mkdir(folder, { recursive: true })
  const there = new Set(await readdir(folder))
  const taken = files.find(({ name }) => there.has(name))
  if (taken !== undefined) fail('out-exists', `${join(folder, taken.name)} exists. Move it, or choose another folder with --out.`)
  for (const { name, content } of files) await writeFile(join(folder, name), content)
  note(`${counted(files.length, 'file')} in ${folder}`)
}

import { ordersOf, type Finding, type FindingCode } from './conformance'
import type { ManifestSentence } from './manifest'

/** A file that was made, as far as it is compared with the others. */
interface MadeFile {
  readonly name: string
  readonly number: number
  readonly sentences: readonly ManifestSentence[]
  readonly findings: readonly Finding[]
}

/** Faults of a file among others. */
const togetherCodes: readonly FindingCode[] = ['order', 'missing', 'doubled']

/** The faults that a file has by itself. */
export const byItself = (findings: readonly Finding[]): Finding[] => findings.filter(({ code }) => !togetherCodes.includes(code))

/** Files of a delivery, with what they do not keep together: the order of their names, and what is in two of them. `of`: files of the whole run sheet. */
export function judgedTogether<F extends MadeFile>(files: readonly F[], of: number): F[] {
  const together = [...orderFindings(files, of), ...doubleFindings(files)]
  return files.map(file => ({ ...file, findings: [...byItself(file.findings), ...together.filter(({ file: name }) => name === file.name)] }))
}

function orderFindings(files: readonly MadeFile[], of: number): Finding[] {
  const byName = [...files].sort((a, b) => a.name < b.name ? -1 : 1).map(({ name, number }) => ({ name, track: { number, of } }))
  // Which are missing was chosen by whoever made some of the files only.
  return ordersOf(byName).filter(({ code }) => code === 'order')
}

function doubleFindings(files: readonly MadeFile[]): Finding[] {
  const seen = new Map<string, MadeFile>()
  return files.flatMap((file): Finding[] => {
    if (file.sentences.length === 0) return []
    const said = JSON.stringify(file.sentences)
    const before = seen.get(said)
    seen.set(said, file)
    if (before === undefined) return []
    return [{ code: 'doubled', file: file.name, atMs: null, message: `It says what ${before.name} says, from beginning to end.`, remedy: 'Leave one of the two out on the Script page.' }]
  })
}

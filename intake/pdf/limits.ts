import { inflateSync } from 'node:zlib'
import { fail, ProblemError } from '#core/problem'

// A PDF can grow without end while it is read: by compressed streams, by numbers of pages and objects, by pages that draw one thing a million times.
// What is announced is measured before anything is read; the rest while it is.

/** Most pages of one file. */
const mostPages = 5_000
/** How often each can be stored, in a file that was changed and saved again. */
const storedPages = 4
/** Most indirect objects: the limit that ISO 32000-1 gives for readers in Annex C. */
const mostObjects = 8_388_607
/** A page's drawing, or a table of objects, inflated. */
const mostStreamBytes = 48 * 1024 * 1024
/** All of them together, pictures not counted: a basis, and so many times the file. */
const allStreamBytes = { least: 96 * 1024 * 1024, perByte: 40 }
/** Pieces of text on one page. */
const mostPieces = 400_000
/** Memory that may be taken while pages are read, in bytes: a basis, and so many times the file. */
const memory = { least: 300 * 1024 * 1024, perByte: 3 }
/** To ask for it takes time. */
const betweenMemoryMs = 20
const longestPageMs = 5_000
/** Time spent on pages that gave nothing. */
const longestIdleMs = 8_000

const remedy = 'Print it to a new PDF, or save the text in another format.'

/** Throws a problem for a file whose streams or objects grow beyond any document. */
export function checkGrowth(bytes: Buffer, name: string): void {
  const tooLarge = (what: string): never => fail('pdf-grows', `${name} ${what} when it is read. ${remedy}`)
  let total = 0
  let pages = pageObjects(bytes)
  const checkPageObjects = (): void => { if (pages > mostPages * storedPages) checkPages(pages, name) }
  checkPageObjects()
  for (let at = bytes.indexOf('stream'); at >= 0; at = bytes.indexOf('stream', at + 6)) {
    if (bytes.toString('latin1', at - 3, at) === 'end') continue
    const dictionary = bytes.toString('latin1', Math.max(0, at - 1000), at)
    const own = dictionary.slice(dictionary.lastIndexOf(' obj') + 1)
    const size = Number(/\/(?:Size|N) (\d{1,12})/u.exec(own)?.[1] ?? 0)
    if (size > mostObjects) tooLarge(`announces ${size.toLocaleString('en')} objects`)
    const filters = own.match(/\/FlateDecode|\/Fl\b/gu)?.length ?? 0
    if (filters === 0 || /\/Subtype\s*\/Image/u.test(own)) continue
    const end = bytes.indexOf('endstream', at)
    const start = at + 6 + (bytes[at + 6] === 13 ? 2 : 1)
    const stream = bytes.subarray(start, end < 0 ? bytes.length : end)
    const { length, last } = inflated(stream, filters, () => tooLarge('grows to more than 48 MB in one place'))
    total += length
    if (/\/Type\s*\/ObjStm/u.test(own)) pages += pageObjects(last)
    if (total > allStreamBytes.least + bytes.length * allStreamBytes.perByte) tooLarge(`grows to more than ${Math.round(total / 1024 / 1024)} MB`)
  }
  checkPageObjects()
  const announced = Math.max(0, ...[...bytes.toString('latin1', Math.max(0, bytes.length - 2048)).matchAll(/\/Size (\d{1,12})/gu)].map(match => Number(match[1])))
  if (announced > mostObjects) tooLarge(`announces ${announced.toLocaleString('en')} objects`)
}

/** Objects that call themselves a page: a tree of pages can hide how many it has until it is walked. */
function pageObjects(bytes: Buffer): number {
  let count = 0
  for (let at = bytes.indexOf('/Page'); at >= 0; at = bytes.indexOf('/Page', at + 5)) {
    if (!/[A-Za-z]/u.test(String.fromCharCode(bytes[at + 5] ?? 0)) && /\/Type\s{0,9}$/u.test(bytes.toString('latin1', Math.max(0, at - 14), at))) count += 1
  }
  return count
}

/** All that comes of a stream, and its last form; nothing of one that cannot be inflated here: it is encrypted or damaged. */
function inflated(stream: Buffer, times: number, tooLarge: () => never): { readonly length: number, readonly last: Buffer } {
  let [last, length] = [stream, 0]
  try {
    for (let left = Math.min(times, 4); left > 0; left -= 1) {
      last = inflateSync(last, { maxOutputLength: mostStreamBytes })
      length += last.length
    }
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ERR_BUFFER_TOO_LARGE') tooLarge()
  }
  return { length, last }
}

export function checkPages(pages: number, name: string): void {
  if (pages > mostPages) fail('pdf-too-many-pages', `${name} has ${pages.toLocaleString('en')} pages; at most ${mostPages.toLocaleString('en')} are taken in. Divide it.`)
}

/** Watches over the reading of pages; its methods throw a problem when it goes too far. */
export class PageGuard {
  #idleMs = 0
  #began = 0
  #pieces = 0
  #page = 0
  #memoryAt = 0

  readonly #mostMemory: number

  /** `readers`: how many read in this process at the same time. */
  constructor(private readonly name: string, fileBytes: number, readers = 1) {
    this.#mostMemory = process.memoryUsage.rss() + memory.least + fileBytes * memory.perByte * readers
  }

  /** Runs what reads a page, numbered from 1; `found` tells whether it gave anything. */
  async during<T>(page: number, read: () => Promise<T>, found: (result: T) => boolean): Promise<T> {
    [this.#page, this.#began, this.#pieces] = [page, performance.now(), 0]
    let timer: NodeJS.Timeout | undefined
    const late = new Promise<never>((_, reject) => { timer = setTimeout(() => { reject(this.#tooLong()) }, longestPageMs) })
    try {
      const result = await Promise.race([read(), late])
      if (!found(result)) this.#idleMs += performance.now() - this.#began
      if (this.#idleMs > longestIdleMs) fail('pdf-no-text', `${this.name} has shown no text on its pages up to page ${page}. ${remedy}`)
      this.check(0)
      return result
    } finally {
      clearTimeout(timer)
    }
  }

  /** Counts pieces of text of the page that is read. */
  check(pieces: number): void {
    this.#pieces += pieces
    if (this.#pieces > mostPieces) fail('pdf-grows', `Page ${this.#page} of ${this.name} has more than ${mostPieces.toLocaleString('en')} pieces of text. ${remedy}`)
    const now = performance.now()
    if (now - this.#began > longestPageMs) throw this.#tooLong()
    if (now - this.#memoryAt < betweenMemoryMs) return
    this.#memoryAt = now
    if (process.memoryUsage.rss() > this.#mostMemory) fail('pdf-grows', `${this.name} needs too much memory at page ${this.#page}. ${remedy}`)
  }

  #tooLong(): ProblemError {
    return new ProblemError({ code: 'pdf-grows', message: `Page ${this.#page} of ${this.name} takes more than ${longestPageMs / 1000} seconds to read. ${remedy}` })
  }
}

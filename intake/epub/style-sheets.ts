import { textOf, type Archive } from '../archive'
import { joined } from '../html/paths'

/** The style sheets of a book, each read once. */
export class StyleSheetFiles {
  readonly #known = new Map<string, Promise<string | null>>()

  constructor(private readonly archive: Archive) {}

  /** Those that a document is linked to, in its order. */
  async of(html: string, path: string): Promise<string[]> {
    const hrefs = [...html.matchAll(/<link\b[^>]{0,1000}>/giu)].filter(([link]) => /\brel\s*=\s*["']?stylesheet/iu.test(link)).flatMap(([link]) => /\bhref\s*=\s*["']([^"']{1,500})["']/iu.exec(link)?.[1] ?? [])
    const sheets = await Promise.all(hrefs.map(href => {
      const file = joined(path, href.split(/[?#]/u)[0]!)
      const known = this.#known.get(file) ?? textOf(this.archive, file)
      this.#known.set(file, known)
      return known
    }))
    return sheets.filter(sheet => sheet !== null)
  }
}

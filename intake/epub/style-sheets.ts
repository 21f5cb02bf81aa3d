import { textOf, type Archive } from '../archive'
import { joined } from '../html/paths'
import { readStyleSheet, type StyleSheet } from '../html/style-sheets'

/** The style sheets of a book, each read once. */
export class StyleSheetFiles {
  readonly #known = new Map<string, Promise<StyleSheet>>()

  constructor(private readonly archive: Archive) {}

  /** Those that a document is linked to, in its order. */
  async of(html: string, path: string): Promise<StyleSheet[]> {
    const hrefs = [...html.matchAll(/<link\b[^>]{0,1000}>/giu)].filter(([link]) => /\brel\s*=\s*["']?stylesheet/iu.test(link)).flatMap(([link]) => /\bhref\s*=\s*["']([^"']{1,500})["']/iu.exec(link)?.[1] ?? [])
    return Promise.all(hrefs.map(href => {
      const file = joined(path, href.split(/[?#]/u)[0]!)
      const known = this.#known.get(file) ?? textOf(this.archive, file).then(sheet => readStyleSheet(sheet ?? ''))
      this.#known.set(file, known)
      return known
    }))
  }
}

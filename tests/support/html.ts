import { zipOf } from './docx'

/** A web page with this body. */
export const pageOf = (body: string, head = ''): string => `<!doctype html><html lang="en"><head><title>A Page</title>${head}</head><body>${body}</body></html>`

/** An e-book of these documents, in order; `spine` and `extra` go into its package document and container. */
export function epubOf(documents: Readonly<Record<string, string>>, { nav, metadata = '', itemref = {}, extra = {} }: {
  readonly nav?: string, readonly metadata?: string, readonly itemref?: Readonly<Record<string, string>>, readonly extra?: Readonly<Record<string, string>>,
} = {}): Promise<Buffer> {
  const names = Object.keys(documents)
  const xhtml = (body: string): string => `<?xml version="1.0"?><html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"><head><title/></head><body>${body}</body></html>`
  return zipOf({
    'mimetype': 'application/epub+zip',
    'META-INF/container.xml': '<container xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="OEBPS/book.opf"/></rootfiles></container>',
    'OEBPS/book.opf': `<package xmlns="http://www.idpf.org/2007/opf" version="3.0"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>The Year</dc:title>`
      + `<dc:creator>T. Orrery</dc:creator><dc:language>en-GB</dc:language>${metadata}</metadata><manifest>`
      + `${names.map((name, index) => `<item id="d${index}" href="${name}" media-type="application/xhtml+xml"/>`).join('')}`
      + `${nav === undefined ? '' : '<item id="nav" href="nav.xhtml" properties="nav" media-type="application/xhtml+xml"/>'}</manifest><spine>`
      + `${names.map((name, index) => `<itemref idref="d${index}"${itemref[name] ?? ''}/>`).join('')}</spine></package>`,
    ...(nav === undefined ? {} : { 'OEBPS/nav.xhtml': xhtml(`<nav epub:type="toc"><ol>${nav}</ol></nav>`) }),
    ...Object.fromEntries(names.map(name => [`OEBPS/${name}`, xhtml(documents[name]!)])),
    ...extra,
  })
}

import { fail } from '#core/problem'
import { textOf, type Archive } from '../archive'
import { joined } from '../html/paths'
import { parseXml } from '../xml'

/** One document of the spine. */
export interface SpineItem {
  readonly path: string
  /** It is the book's own list of contents. */
  readonly contents: boolean
  /** Not part of the reading order itself: it is reached from it only (`linear="no"`). */
  readonly aside: boolean
}

/** What a package document says (EPUB 3.3, 5; OPF 2.0.1). */
export interface Package {
  readonly title: string | null
  readonly author: string | null
  readonly language: string | null
  readonly spine: readonly SpineItem[]
  /** The navigation document (EPUB 3) and the NCX (EPUB 2). */
  readonly nav: string | null
  readonly ncx: string | null
  /** Types that the guide of an EPUB 2 gives to documents. */
  readonly guide: ReadonlyMap<string, string>
}

export async function readPackage(archive: Archive, name: string): Promise<Package> {
  const path = await rootFile(archive) ?? archive.names.find(each => each.endsWith('.opf')) ?? null
  const xml = path === null ? null : await textOf(archive, path)
  if (path === null || xml === null) return fail('epub-no-package', `${name} is damaged: it has no package document. Make the EPUB again.`)
  const items = new Map<string, { path: string, type: string, properties: string }>()
  const order: { readonly id: string, readonly aside: boolean }[] = []
  const guide = new Map<string, string>()
  const texts: Record<string, string[]> = { title: [], creator: [], language: [] }
  let ncx: string | null = null
  let open: string | null = null
  let text = ''
  parseXml(xml, path, {
    open: tag => {
      const value = (attribute: string): string => tag.attributes[attribute]?.value ?? ''
      if (tag.local === 'item') items.set(value('id'), { path: joined(path, value('href').split('#')[0]!), type: value('media-type'), properties: value('properties') })
      else if (tag.local === 'itemref') order.push({ id: value('idref'), aside: value('linear').trim().toLowerCase() === 'no' })
      else if (tag.local === 'spine') ncx = value('toc') || null
      else if (tag.local === 'reference') guide.set(joined(path, value('href').split('#')[0]!), value('type').toLowerCase())
      else if (tag.local in texts && tag.uri.includes('purl.org/dc')) {
        open = tag.local
        text = ''
      }
    },
    text: piece => { text += piece },
    close: tag => {
      if (open === tag.local) {
        if (text.trim() !== '') texts[open]!.push(text.replace(/\s+/gu, ' ').trim())
        open = null
      }
    },
  }, { doctype: true })
  const all = [...items.values()]
  const seen = new Set<string>()
  const nav = all.find(item => /\bnav\b/u.test(item.properties))?.path ?? null
  const ncxItem = ncx === null ? undefined : items.get(ncx)
  return {
    title: texts['title']![0] ?? null,
    author: texts['creator']!.length === 0 ? null : texts['creator']!.join(', '),
    language: texts['language']![0] ?? null,
    spine: order.flatMap(({ id, aside }) => {
      const item = items.get(id)
      if (item === undefined || !/html/iu.test(item.type) || seen.has(item.path)) return []
      seen.add(item.path)
      return [{ path: item.path, contents: item.path === nav || guide.get(item.path) === 'toc', aside }]
    }),
    nav,
    ncx: (ncxItem ?? all.find(item => item.type === 'application/x-dtbncx+xml'))?.path ?? null,
    guide,
  }
}

async function rootFile(archive: Archive): Promise<string | null> {
  const xml = await textOf(archive, 'META-INF/container.xml')
  let path: string | null = null
  if (xml !== null) {
    parseXml(xml, 'META-INF/container.xml', {
      open: tag => { if (tag.local === 'rootfile') path ??= tag.attributes['full-path']?.value ?? null },
    }, { doctype: true })
  }
  return path
}

/** Whether documents of the book are encrypted; fonts may be, without harm. */
export async function isEncrypted(archive: Archive): Promise<boolean> {
  const xml = await textOf(archive, 'META-INF/encryption.xml')
  return xml !== null && [...xml.matchAll(/URI\s*=\s*["']([^"']+)["']/gu)].some(match => /\.x?html?$|\.xml$/iu.test(match[1]!))
}

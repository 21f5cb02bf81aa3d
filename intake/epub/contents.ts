import { Parser } from 'htmlparser2'
import { textOf, type Archive } from '../archive'
import { targetPath } from '../html/paths'
import { typeOf } from '../html/semantics'
import { parseXml } from '../xml'
import type { Package } from './package'

/** One entry of a book's list of contents. */
export interface Entry {
  readonly label: string
  /** From 1. */
  readonly level: number
  /** `path` or `path#id`. */
  readonly target: string
}

/** The list of contents that the book's navigation gives, in order. */
export async function readContents(archive: Archive, { nav, ncx }: Package): Promise<Entry[]> {
  if (nav !== null) {
    const html = await textOf(archive, nav)
    const entries = html === null ? [] : fromNav(html, nav)
    if (entries.length > 0) return entries
  }
  const xml = ncx === null ? null : await textOf(archive, ncx)
  return xml === null ? [] : fromNcx(xml, ncx!)
}

function fromNav(html: string, path: string): Entry[] {
  const entries: Entry[] = []
  let inside = 0
  let lists = 0
  let link: { href: string, label: string } | null = null
  const parser = new Parser({
    onopentag: (name, attributes) => {
      if (name === 'nav' && (inside > 0 || /\btoc\b/u.test(typeOf(attributes)))) inside += 1
      if (inside === 0) return
      if (name === 'ol') lists += 1
      if (name === 'a' && attributes['href'] !== undefined) link = { href: attributes['href'], label: '' }
    },
    ontext: text => { if (link !== null) link.label += text },
    onclosetag: name => {
      if (inside === 0) return
      if (name === 'nav') inside -= 1
      if (name === 'ol') lists -= 1
      if (name === 'a' && link !== null) {
        push(entries, link.label, lists, targetPath(path, link.href))
        link = null
      }
    },
  }, { recognizeSelfClosing: true, lowerCaseTags: true })
  parser.write(html)
  parser.end()
  return entries
}

/** What the landmarks of the navigation document call the documents they lead to, by `path`. */
export async function readLandmarks(archive: Archive, { nav }: Package): Promise<ReadonlyMap<string, string>> {
  const types = new Map<string, string>()
  const html = nav === null ? null : await textOf(archive, nav)
  if (html === null) return types
  let inside = 0
  const parser = new Parser({
    onopentag: (name, attributes) => {
      if (name === 'nav' && (inside > 0 || /\blandmarks\b/u.test(typeOf(attributes)))) inside += 1
      if (inside > 0 && name === 'a' && attributes['href'] !== undefined) types.set(targetPath(nav!, attributes['href']).split('#')[0]!, typeOf(attributes))
    },
    onclosetag: name => { if (name === 'nav' && inside > 0) inside -= 1 },
  }, { recognizeSelfClosing: true, lowerCaseTags: true })
  parser.write(html)
  parser.end()
  return types
}

function fromNcx(xml: string, path: string): Entry[] {
  const entries: Entry[] = []
  let depth = 0
  let label = ''
  let inText = false
  parseXml(xml, path, {
    open: tag => {
      if (tag.local === 'navPoint') {
        depth += 1
        label = ''
      } else if (tag.local === 'text') {
        inText = depth > 0
      } else if (tag.local === 'content' && depth > 0) {
        push(entries, label, depth, targetPath(path, tag.attributes['src']?.value ?? ''))
      }
    },
    text: text => { if (inText) label += text },
    close: tag => {
      if (tag.local === 'navPoint') depth -= 1
      if (tag.local === 'text') inText = false
    },
  }, { doctype: true })
  return entries
}

function push(entries: Entry[], label: string, level: number, target: string): void {
  const text = label.replace(/\s+/gu, ' ').trim()
  if (text !== '') entries.push({ label: text, level: Math.min(9, Math.max(1, level)), target })
}

import { chapterLine } from '#core/manuscript/chapter-lines'
import { countWords, type Block, type Matter } from '#core/manuscript/manuscript'
import { matterOf } from '#core/manuscript/matter'
import { fail, type Problem } from '#core/problem'
import { declaredEncoding } from '../html/encoding'
import { htmlDrafts } from '../html/blocks'
import { isTitlePage, matterOfType } from '../html/semantics'
import { StyleSheetFiles } from './style-sheets'
import { resolveNotes, type Draft } from '../html/notes'
import type { Reader } from '../reader'
import { decodeText } from '../text/decode'
import { bare } from '../text-builder'
import { lookup } from '#core/lookup'
import { readContents, readLandmarks, type Entry } from './contents'
import { isEncrypted, readPackage } from './package'

/** EPUB 2 and 3. */
export const epubReader: Reader = {
  format: 'epub',
  label: 'an e-book (EPUB)',
  extensions: ['.epub'],
  version: 3,
  accepts: async ({ archive }) => archive !== null
    && ((await archive.bytes('mimetype'))?.toString('latin1').trim() === 'application/epub+zip' || archive.names.includes('META-INF/container.xml')),
  read: async (file, { onProgress }) => {
    const archive = file.archive!
    if (await isEncrypted(archive)) fail('file-encrypted', `${file.name} is protected: its text is encrypted. Bring a copy without protection.`)
    const book = await readPackage(archive, file.name)
    if (book.spine.length === 0) fail('epub-empty', `${file.name} has no documents in its reading order. Make the EPUB again.`)
    const drafts: Draft[] = []
    const anchors = new Map<string, number>()
    const problems: Problem[] = []
    const landmarks = await readLandmarks(archive, book)
    const entries = await readContents(archive, book)
    const named = matterByName(entries)
    const sheets = new StyleSheetFiles(archive)
    for (const [index, { path, contents, aside }] of book.spine.entries()) {
      const bytes = await archive.bytes(path)
      if (bytes === null) {
        problems.push({ code: 'epub-document-missing', message: 'A document of the reading order is not in the file; its text is missing here. Make the EPUB again.', place: `${file.name}, ${path}` })
        continue
      }
      const { text: html, problems: undecoded } = await decodeText(bytes, path, undefined, declaredEncoding(bytes.subarray(0, 1024).toString('latin1')))
      problems.push(...undecoded)
      const type = book.guide.get(path)
      const landmark = landmarks.get(path) ?? ''
      const matter = (type === undefined ? undefined : lookup(guideMatter, type)) ?? matterOfType(landmark) ?? named.get(path) ?? (aside ? 'notes' : undefined)
      const document = htmlDrafts(html, {
        xhtml: true, place: path, path, styleSheets: await sheets.of(html, path),
        ...(contents || matter === 'contents' ? { dropped: 'contents' } : matter === undefined ? {} : { matter }),
        ...(type === 'title-page' || type === 'titlepage' || isTitlePage(landmark) ? { titlePage: true } : {}),
      })
      anchors.set(path, drafts.length)
      for (const [id, at] of document.anchors) anchors.set(id, drafts.length + at)
      drafts.push(...index < frontDocuments && isCopyrightPage(document.drafts) ? document.drafts.map(asCopyright) : document.drafts)
      problems.push(...document.problems)
      onProgress?.((index + 1) / book.spine.length)
    }
    return { title: book.title, author: book.author, language: book.language, blocks: resolveNotes(withEntries(drafts, anchors, entries)), problems }
  },
}

/** Documents that are front or back matter by the names of their only entries in the list of contents. */
function matterByName(entries: readonly Entry[]): ReadonlyMap<string, Matter> {
  const found = new Map<string, Matter | null>()
  for (const { label, target } of entries) {
    const path = target.split('#')[0]!
    found.set(path, found.has(path) ? null : matterOf(label))
  }
  return new Map([...found].filter((each): each is [string, Matter] => each[1] !== null))
}

/** Where a copyright page stands that nothing says to be one: among the first documents. */
const frontDocuments = 8
const copyrightWords = 600
/** What such a page says (*common practice*); one of these alone is no proof. */
const copyrightSigns = [/©|\bcopyright\b|\(c\) ?\d{4}/iu, /all rights reserved|alle rechte vorbehalten|tous droits réservés|todos los derechos reservados|tutti i diritti riservati/iu, /\bisbn\b/iu, /first published|published by|first edition|erste auflage|verlag|éditions? |primera edición/iu, /no part of this|may not be reproduced|library of congress|catalogue record|printed in/iu]

function isCopyrightPage(drafts: readonly Draft[]): boolean {
  const text = drafts.map(({ block }) => block.text).join('\n')
  return countWords(text) <= copyrightWords && copyrightSigns.filter(sign => sign.test(text)).length >= 2
}

function asCopyright(draft: Draft): Draft {
  return { ...draft, block: { ...draft.block, matter: draft.block.matter ?? 'copyright' } }
}

const guideMatter: Readonly<Record<string, Matter>> = { 'copyright-page': 'copyright', 'index': 'index', 'notes': 'notes', 'bibliography': 'notes', 'toc': 'contents', 'loi': 'contents', 'lot': 'contents', 'dedication': 'dedication' }

/** A heading this near to the place that the contents lead to is the one they mean. */
const nearBlocks = 4

/** Marks the places that the list of contents leads to where no heading stands, and gives headings the names and levels that they have there. */
function withEntries(drafts: readonly Draft[], anchors: ReadonlyMap<string, number>, entries: readonly Entry[]): Draft[] {
  const result = [...drafts]
  const places = entries.map(({ target }) => anchors.get(target) ?? anchors.get(target.split('#')[0]!))
  /** The entry of each heading that one leads to. */
  const named = new Map<number, Entry>()
  entries.forEach((entry, number) => {
    const at = places[number]
    if (at === undefined) return
    const { label, level } = entry
    const next = places.slice(number + 1).find(place => place !== undefined && place > at) ?? result.length
    const until = Math.min(at + nearBlocks, next, result.length)
    const near = result.slice(at, until)
    const heading = near.findIndex(({ block }) => block.level !== undefined)
    if (heading >= 0) {
      if (!named.has(at + heading)) named.set(at + heading, entry)
      return
    }
    if (near.length === 0 || near[0]!.block.dropped !== undefined) return
    const { block } = near[0]!
    result[at] = { ...near[0]!, block: same(block.text, label) ? asHeading(block, level) : { ...block, entry: { label, level } } }
  })
  const levels = levelsOf(result, named)
  return result.map((draft, index) => {
    const { block } = draft
    const level = levels.get(index)
    const entry = named.get(index)
    const isShort = entry !== undefined && chapterLine(block.text) !== null && bare(entry.label).length > bare(block.text).length && !same(entry.label, block.text)
    return level === undefined && !isShort ? draft : { ...draft, block: { ...block, ...(level === undefined ? {} : { level }), ...(isShort ? { entry: { label: entry.label, level: level ?? block.level! } } : {}) } }
  })
}

/**
 * The levels of headings by the list of contents, where that is nested and the headings are not: where headings of one level are entries of
 * several. A heading that has no entry stands below the one before that has.
 */
function levelsOf(drafts: readonly Draft[], named: ReadonlyMap<number, Entry>): ReadonlyMap<number, number> {
  const byHeading = new Map<number, Set<number>>()
  for (const [index, { level }] of named) {
    const own = drafts[index]!.block.level!
    byHeading.set(own, (byHeading.get(own) ?? new Set()).add(level))
  }
  const levels = new Map<number, number>()
  if (![...byHeading.values()].some(all => all.size > 1)) return levels
  let last: number | null = null
  drafts.forEach(({ block }, index) => {
    if (block.level === undefined || block.level === 0) return
    const entry = named.get(index)
    if (entry !== undefined) last = entry.level
    if (last !== null) levels.set(index, entry?.level ?? Math.min(9, Math.max(block.level, last + 1)))
  })
  return levels
}

function same(a: string, b: string): boolean {
  return bare(a) === bare(b)
}

function asHeading(block: Block, level: number): Block {
  return { ...block, kind: 'heading', level }
}

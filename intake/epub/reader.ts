import { countWords, type Block, type Matter } from '#core/manuscript/manuscript'
import { fail, type Problem } from '#core/problem'
import { declaredEncoding } from '../html/encoding'
import { htmlDrafts } from '../html/blocks'
import { resolveNotes, type Draft } from '../html/notes'
import type { Reader } from '../reader'
import { decodeText } from '../text/decode'
import { bare } from '../text-builder'
import { lookup } from '#core/lookup'
import { readContents, type Entry } from './contents'
import { isEncrypted, readPackage } from './package'

/** EPUB 2 and 3. */
export const epubReader: Reader = {
  format: 'epub',
  label: 'an e-book (EPUB)',
  extensions: ['.epub'],
  version: 2,
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
    for (const [index, { path, contents, aside }] of book.spine.entries()) {
      const bytes = await archive.bytes(path)
      if (bytes === null) {
        problems.push({ code: 'epub-document-missing', message: 'A document of the reading order is not in the file; its text is missing here. Make the EPUB again.', place: `${file.name}, ${path}` })
        continue
      }
      const { text: html, problems: undecoded } = await decodeText(bytes, path, undefined, declaredEncoding(bytes.subarray(0, 1024).toString('latin1')))
      problems.push(...undecoded)
      const type = book.guide.get(path)
      const matter = (type === undefined ? undefined : lookup(guideMatter, type)) ?? (aside ? 'notes' : undefined)
      const document = htmlDrafts(html, {
        xhtml: true, place: path, path,
        ...(contents ? { dropped: 'contents' } : {}),
        ...(matter === undefined ? {} : { matter }),
        ...(type === 'title-page' || type === 'titlepage' ? { titlePage: true } : {}),
      })
      anchors.set(path, drafts.length)
      for (const [id, at] of document.anchors) anchors.set(id, drafts.length + at)
      drafts.push(...index < frontDocuments && isCopyrightPage(document.drafts) ? document.drafts.map(asCopyright) : document.drafts)
      problems.push(...document.problems)
      onProgress?.((index + 1) / book.spine.length)
    }
    return { title: book.title, author: book.author, language: book.language, blocks: resolveNotes(withEntries(drafts, anchors, await readContents(archive, book))), problems }
  },
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

const guideMatter: Readonly<Record<string, Matter>> = { 'copyright-page': 'copyright', 'index': 'index', 'notes': 'notes', 'bibliography': 'notes', 'toc': 'contents', 'loi': 'contents', 'lot': 'contents' }

/** A heading this near to the place that the contents lead to is the one they mean. */
const nearBlocks = 4

/** Marks the places that the list of contents leads to where no heading stands. */
function withEntries(drafts: readonly Draft[], anchors: ReadonlyMap<string, number>, entries: readonly Entry[]): Draft[] {
  const result = [...drafts]
  const places = entries.map(({ target }) => anchors.get(target) ?? anchors.get(target.split('#')[0]!))
  entries.forEach(({ label, level }, number) => {
    const at = places[number]
    if (at === undefined) return
    const next = places.slice(number + 1).find(place => place !== undefined && place > at) ?? result.length
    const until = Math.min(at + nearBlocks, next, result.length)
    const near = result.slice(at, until)
    if (near.length === 0 || near.some(({ block }) => block.level !== undefined) || near[0]!.block.dropped !== undefined) return
    const { block } = near[0]!
    result[at] = { ...near[0]!, block: same(block.text, label) ? asHeading(block, level) : { ...block, entry: { label, level } } }
  })
  return result
}

function same(a: string, b: string): boolean {
  return bare(a) === bare(b)
}

function asHeading(block: Block, level: number): Block {
  return { ...block, kind: 'heading', level }
}

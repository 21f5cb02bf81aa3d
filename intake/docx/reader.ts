import type { Block } from '#core/manuscript/manuscript'
import { fail } from '#core/problem'
import { addTo, most } from '#core/tally'
import { textOf, type Archive } from '../archive'
import { unsafeLinks } from '../links'
import { placeNotes } from '../notes'
import { isCompound, mainPart, readProperties, refuseCompound, relationsOf } from '../ooxml/package'
import type { Reader } from '../reader'
import { documentBlocks, type DocumentContext } from './document'
import { readNumbering } from './numbering'
import { readStyles } from './styles'

/** WordprocessingML (ECMA-376, transitional and strict). */
export const docxReader: Reader = {
  format: 'docx',
  label: 'a document (DOCX)',
  extensions: ['.docx', '.docm'],
  version: 3,
  accepts: ({ bytes, name, archive }) => isCompound(bytes) || (archive !== null && (archive.names.some(entry => /^word\/[^/]+\.xml$/u.test(entry)) || /\.doc[xm]$/iu.test(name))),
  read: async file => {
    if (isCompound(file.bytes)) refuseCompound(file.name)
    const archive = file.archive!
    const path = await mainPart(archive, 'word/document.xml')
    const document = path === null ? null : await textOf(archive, path)
    if (path === null || document === null) return fail('docx-no-document', `${file.name} is a ZIP file, but not a DOCX document: it has no main document in it.`)
    const relations = await relationsOf(archive, path)
    const related = async (type: string): Promise<string | null> => {
      const target = relations.find(relation => relation.type === type)?.target
      return target === undefined ? null : textOf(archive, target)
    }
    const context: DocumentContext = {
      styles: readStyles(await related('styles') ?? await textOf(archive, path.replace(/[^/]+$/u, 'styles.xml'))),
      numbering: readNumbering(await related('numbering')),
      links: new Map(relations.filter(relation => relation.type === 'hyperlink').map(({ id, target }) => [id, target])),
      comments: await readComments(await related('comments')),
    }
    const content = documentBlocks(document, path, context)
    const notes = new Map<string, Block[]>()
    for (const type of ['footnote', 'endnote']) {
      const xml = await related(`${type}s`)
      if (xml === null) continue
      documentBlocks(xml, `${type}s.xml`, context, (id, block) => addTo(notes, `${type} ${id}`, block))
    }
    const properties = await readProperties(archive)
    const heads = await runningHeads(archive, relations.filter(({ type }) => type === 'header' || type === 'footer').map(({ target }) => target), context)
    return {
      title: content.title ?? properties.title, author: properties.author,
      language: properties.language ?? mostly(content.languages, content.blocks),
      languageHint: context.styles.language,
      blocks: [...heads, ...placeNotes(content.blocks, notes)], problems: unsafeLinks(content.unsafeLinks, file.name),
    }
  },
}

/** The language that most of the text says it is in. */
function mostly(languages: ReadonlyMap<string, number>, blocks: readonly Block[]): string | null {
  const all = blocks.reduce((sum, block) => sum + block.text.length, 0)
  const main = most(languages)
  return main !== undefined && main[1] > all * 0.6 ? main[0] : null
}

async function readComments(xml: string | null): Promise<ReadonlyMap<string, string>> {
  const comments = new Map<string, string>()
  if (xml === null) return comments
  for (const match of xml.matchAll(/<w:comment\b[^>]*w:id="([^"]+)"[^>]*>([\s\S]*?)<\/w:comment>/gu)) {
    comments.set(match[1]!, [...match[2]!.matchAll(/<w:t(?:\s[^>]*)?>([^<]*)<\/w:t>/gu)].map(piece => piece[1]).join(''))
  }
  return comments
}

/** Headers and footers, each text once. */
async function runningHeads(archive: Archive, paths: readonly string[], context: DocumentContext): Promise<Block[]> {
  const heads = new Map<string, Block>()
  for (const path of paths) {
    const xml = await textOf(archive, path)
    if (xml === null) continue
    for (const { text, cuts = [] } of documentBlocks(xml, path, context).blocks) {
      if (text !== '') heads.set(`running-head ${text}`, { kind: 'paragraph', text, dropped: 'running-head' })
      for (const cut of cuts) if (cut.kind === 'page-number') heads.set('page-number', { kind: 'paragraph', text: cut.text, dropped: 'page-number' })
    }
  }
  return [...heads.values()]
}

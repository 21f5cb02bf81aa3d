import { fail } from '#core/problem'
import { openArchive, type Archive } from '../archive'
import type { Reader, SourceFile } from '../reader'
import { parseXml } from '../xml'
import { documentBlocks } from './document'
import { readStyles } from './styles'

/** WordprocessingML (ECMA-376, transitional and strict). */
export const docxReader: Reader = {
  format: 'docx',
  label: 'a document (DOCX)',
  version: 1,
  accepts: file => isZip(file) || isCompoundFile(file),
  read: async file => {
    if (isCompoundFile(file)) {
      fail('docx-encrypted-or-old', `${file.name} is protected by a password or in the old DOC format. Save it without a password as DOCX.`)
    }
    const archive = await openArchive(file.bytes, file.name)
    const path = await mainDocument(archive)
    const document = path === null ? null : await archive.bytes(path)
    if (path === null || document === null) {
      fail('docx-no-document', `${file.name} is a ZIP file, but not a DOCX document: it has no main document in it.`)
    }
    const styles = readStyles(await text(archive, path.replace(/[^/]+$/u, 'styles.xml')))
    const { blocks, title } = documentBlocks(document.toString('utf8'), styles)
    const properties = readProperties(await text(archive, 'docProps/core.xml'))
    return { ...properties, title: title ?? properties.title, blocks }
  },
}

function isZip({ bytes }: SourceFile): boolean {
  return bytes.length > 3 && bytes.readUInt32LE(0) === 0x04034b50
}

/** The container of encrypted documents and of the older DOC format. */
function isCompoundFile({ bytes }: SourceFile): boolean {
  return bytes.length > 7 && bytes.readUInt32BE(0) === 0xd0cf11e0
}

async function text(archive: Archive, name: string): Promise<string | null> {
  return (await archive.bytes(name))?.toString('utf8') ?? null
}

/** The package relationship of type officeDocument, else the usual place. */
async function mainDocument(archive: Archive): Promise<string | null> {
  const relations = await text(archive, '_rels/.rels')
  let target: string | null = null
  if (relations !== null) {
    parseXml(relations, '_rels/.rels', {
      open: tag => {
        if (tag.local === 'Relationship' && /\/officeDocument$/u.test(tag.attributes.Type?.value ?? '')) {
          target ??= tag.attributes.Target?.value.replace(/^\//u, '') ?? null
        }
      },
    })
  }
  return [target, 'word/document.xml'].find(name => name !== null && archive.names.includes(name)) ?? null
}

function readProperties(xml: string | null): { title: string | null, author: string | null, language: string | null } {
  const found = new Map<string, string>()
  let current = ''
  if (xml !== null) {
    parseXml(xml, 'docProps/core.xml', {
      open: tag => { current = tag.local },
      close: () => { current = '' },
      text: value => { if (value.trim() !== '') found.set(current, value.trim()) },
    })
  }
  return { title: found.get('title') ?? null, author: found.get('creator') ?? null, language: found.get('language') ?? null }
}

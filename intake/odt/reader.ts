import type { Block } from '#core/manuscript/manuscript'
import { fail } from '#core/problem'
import { textOf } from '../archive'
import { unsafeLinks } from '../links'
import type { Reader } from '../reader'
import { collapse } from '../text-builder'
import { parseXml } from '../xml'
import { odtBlocks } from './content'
import { readStyles } from './styles'

/** OpenDocument text. */
export const odtReader: Reader = {
  format: 'odt',
  label: 'a document (ODT)',
  extensions: ['.odt', '.ott'],
  version: 2,
  accepts: async ({ archive }) => /^application\/vnd\.oasis\.opendocument\.text/u.test((await archive?.bytes('mimetype'))?.toString('latin1') ?? ''),
  read: async file => {
    const archive = file.archive!
    if (/manifest:encryption-data/u.test(await textOf(archive, 'META-INF/manifest.xml') ?? '')) {
      fail('file-encrypted', `${file.name} is protected by a password. Remove the password and bring it again.`)
    }
    const contentXml = await textOf(archive, 'content.xml')
    if (contentXml === null) return fail('odt-no-content', `${file.name} is damaged: it has no content in it. Save it again in the program it comes from.`)
    const stylesXml = await textOf(archive, 'styles.xml')
    const styles = readStyles(stylesXml, contentXml)
    const content = odtBlocks(contentXml, styles)
    const meta = readMeta(await textOf(archive, 'meta.xml'))
    return {
      title: content.title ?? meta.get('title') ?? null,
      author: meta.get('creator') ?? meta.get('initial-creator') ?? null,
      language: meta.get('language') ?? null,
      languageHint: styles.language,
      blocks: [...runningHeads(stylesXml), ...content.blocks],
      problems: unsafeLinks(content.unsafeLinks, file.name),
    }
  },
}

function readMeta(xml: string | null): ReadonlyMap<string, string> {
  const found = new Map<string, string>()
  let current = ''
  if (xml !== null) {
    parseXml(xml, 'meta.xml', {
      open: tag => { current = tag.local },
      text: value => { if (value.trim() !== '' && current !== '') found.set(current, (found.get(current) ?? '') + value.trim()) },
      close: () => { current = '' },
    })
  }
  return found
}

/** Headers and footers of the page styles, each text once. */
function runningHeads(xml: string | null): Block[] {
  const heads = new Map<string, Block>()
  if (xml === null) return []
  let inside = 0
  let text = ''
  let number = ''
  let inNumber = false
  parseXml(xml, 'styles.xml', {
    open: tag => {
      if (/^(?:header|footer)(?:-left|-first)?$/u.test(tag.local)) inside += 1
      if (tag.local === 'page-number' || tag.local === 'page-count') inNumber = true
    },
    text: value => {
      if (inside === 0) return
      if (inNumber) number += value
      else text += value
    },
    close: tag => {
      if (tag.local === 'page-number' || tag.local === 'page-count') {
        inNumber = false
        if (inside > 0) heads.set('page-number', { kind: 'paragraph', text: collapse(number) || '1', dropped: 'page-number' })
        number = ''
      }
      if ((tag.local === 'p' || tag.local === 'h') && inside > 0) {
        const head = collapse(text)
        if (/[\p{L}\p{N}]/u.test(head)) heads.set(`running-head ${head}`, { kind: 'paragraph', text: head, dropped: 'running-head' })
        text = ''
      }
      if (/^(?:header|footer)(?:-left|-first)?$/u.test(tag.local)) inside -= 1
    },
  })
  return [...heads.values()]
}

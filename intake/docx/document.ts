import type { SaxesTagNS } from 'saxes'
import { isSpeakable, type Block } from '#core/manuscript/manuscript'
import { collapse } from '../reader'
import { parseXml } from '../xml'
import { attribute, headingLevel, isOn, type Styles } from './styles'

interface Paragraph {
  text: string
  styleId: string | null
  level: number | null
  numbered: boolean | null
  bodyText: boolean
}

/** Elements whose text is not the document's: moved away, a second form of the same drawing, a reading aid. */
const skipped = new Set(['moveFrom', 'del', 'Fallback', 'rt', 'instrText', 'delText'])

/** The blocks of `document.xml` in reading order, with the text of its first paragraph in the title style. */
export function documentBlocks(xml: string, styles: Styles): { blocks: Block[], title: string | null } {
  const blocks: Block[] = []
  let title: string | null = null
  const paragraphs: Paragraph[] = []
  const rows: string[][] = []
  let skipping = 0
  let runHidden = false
  const path: string[] = []

  const finish = (paragraph: Paragraph): void => {
    const text = collapse(paragraph.text)
    const style = styles.of(paragraph.styleId)
    if (!isSpeakable(text) || style.contents) return
    const row = rows.at(-1)
    if (row !== undefined) {
      row.push(text)
      return
    }
    const block = toBlock(text, paragraph, styles)
    if (block.level === 0) title ??= text
    blocks.push(block)
  }

  const openInParagraph = (tag: SaxesTagNS, paragraph: Paragraph): void => {
    const inProperties = path.at(-2) === 'pPr'
    switch (tag.local) {
      case 'pStyle': paragraph.styleId = attribute(tag, 'val'); break
      case 'outlineLvl':
        paragraph.level = headingLevel(tag)
        paragraph.bodyText = paragraph.level === null
        break
      case 'numId': paragraph.numbered = attribute(tag, 'val') !== '0'; break
      case 'r': runHidden = styles.of(paragraph.styleId).hidden; break
      case 'rStyle': if (!inProperties) runHidden ||= styles.of(attribute(tag, 'val')).hidden; break
      case 'vanish': if (path.at(-3) === 'r') runHidden = isOn(tag); break
      case 'tab': case 'br': case 'cr': if (path.at(-2) === 'r') paragraph.text += ' '; break
      case 'noBreakHyphen': paragraph.text += '-'; break
    }
  }

  parseXml(xml, 'document.xml', {
    open: tag => {
      path.push(tag.local)
      if (skipping > 0 || skipped.has(tag.local)) {
        skipping += 1
        return
      }
      if (tag.local === 'p') paragraphs.push({ text: '', styleId: null, level: null, numbered: null, bodyText: false })
      else if (tag.local === 'tr') rows.push([])
      const paragraph = paragraphs.at(-1)
      if (paragraph !== undefined) openInParagraph(tag, paragraph)
    },
    text: value => {
      if (skipping === 0 && !runHidden && path.at(-1) === 't') {
        const paragraph = paragraphs.at(-1)
        if (paragraph !== undefined) paragraph.text += value
      }
    },
    close: tag => {
      path.pop()
      if (skipping > 0) {
        skipping -= 1
      } else if (tag.local === 'r') {
        runHidden = false
      } else if (tag.local === 'p') {
        const paragraph = paragraphs.pop()
        if (paragraph !== undefined) finish(paragraph)
      } else if (tag.local === 'tr') {
        const cells = rows.pop() ?? []
        const text = cells.join(', ')
        const outer = rows.at(-1)
        if (outer !== undefined) outer.push(...cells)
        else if (isSpeakable(text)) blocks.push({ kind: 'tableRow', text })
      }
    },
  })
  return { blocks, title }
}

function toBlock(text: string, paragraph: Paragraph, styles: Styles): Block {
  const style = styles.of(paragraph.styleId)
  const level = paragraph.level ?? (paragraph.bodyText ? null : style.level)
  if (level !== null) return { kind: 'heading', text, level }
  if (paragraph.numbered ?? style.numbered) return { kind: 'listItem', text }
  return { kind: style.quotation ? 'quotation' : 'paragraph', text }
}

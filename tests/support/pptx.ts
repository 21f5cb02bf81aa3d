import { zipOf } from './docx'

const drawing = 'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"'
const relationships = (entries: string): string => `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${entries}</Relationships>`
const relation = (id: string, type: string, target: string): string => `<Relationship Id="${id}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"/>`

export const shape = (text: string, placeholder?: string): string =>
  `<p:sp><p:nvSpPr><p:cNvPr id="2" name=""/><p:nvPr>${placeholder === undefined ? '' : `<p:ph type="${placeholder}"/>`}</p:nvPr></p:nvSpPr><p:txBody>`
  + `${text.split('\n').map(line => `<a:p><a:r><a:rPr lang="en-GB"/><a:t>${line}</a:t></a:r></a:p>`).join('')}</p:txBody></p:sp>`

export interface MadeSlide {
  readonly shapes: string
  readonly notes?: string
  readonly hidden?: boolean
}

/** A deck whose slides are shown in the order of `order`, by index, whatever their file names say. */
export function pptxOf(slides: readonly MadeSlide[], order: readonly number[] = slides.map((_, index) => index)): Promise<Buffer> {
  const entries: Record<string, string> = {
    '[Content_Types].xml': '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>',
    '_rels/.rels': relationships(relation('r1', 'officeDocument', 'ppt/presentation.xml')),
    'ppt/presentation.xml': `<p:presentation ${drawing}><p:sldIdLst>${order.map(index => `<p:sldId id="${256 + index}" r:id="s${index}"/>`).join('')}</p:sldIdLst></p:presentation>`,
    'ppt/_rels/presentation.xml.rels': relationships(slides.map((_, index) => relation(`s${index}`, 'slide', `slides/slide${index + 1}.xml`)).join('')),
  }
  slides.forEach(({ shapes, notes, hidden }, index) => {
    entries[`ppt/slides/slide${index + 1}.xml`] = `<p:sld ${drawing}${hidden === true ? ' show="0"' : ''}><p:cSld><p:spTree>${shapes}</p:spTree></p:cSld></p:sld>`
    if (notes === undefined) return
    entries[`ppt/slides/_rels/slide${index + 1}.xml.rels`] = relationships(relation('n', 'notesSlide', `../notesSlides/notesSlide${index + 1}.xml`))
    entries[`ppt/notesSlides/notesSlide${index + 1}.xml`] = `<p:notes ${drawing}><p:cSld><p:spTree>${shape('7', 'sldNum')}${shape(notes, 'body')}</p:spTree></p:cSld></p:notes>`
  })
  return zipOf(entries)
}

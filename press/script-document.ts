import { Document, HeadingLevel, Packer, Paragraph, Table, TableCell, TableRow, TextRun, WidthType } from 'docx'
import { directionSpans, writtenText } from '#core/script/content'
import { directionNames, valueText } from '#core/script/direction-text'
import { includedParts, repeatsLabel } from '#core/script/export'
import type { Passage, Script } from '#core/script/script'

/** What a voice is told about a passage, a line each, with the words it is about. */
function notesOf({ content, role, language }: Passage): string[] {
  const text = writtenText(content)
  return [
    ...(role === undefined ? [] : [`Role ${role}`]), ...(language === undefined ? [] : [`Language ${language}`]),
    ...directionSpans(content).flatMap(({ direction, start, end }) => {
      if (direction.kind === 'kept' || direction.kind === 'keptPoint') return []
      const place = start === end ? text.slice(0, start).trimEnd().split(/\s+/u).at(-1) : text.slice(start, end)
      return [`${`${directionNames[direction.kind]} ${valueText(direction)}`.trim()}: ${start === end ? `after “${place}”` : `“${place}”`}`]
    }),
  ]
}

const cell = (percent: number, children: Paragraph[]): TableCell => new TableCell({ width: { size: percent, type: WidthType.PERCENTAGE }, children })
const line = (text: string, options: { bold?: boolean, size?: number } = {}): Paragraph => new Paragraph({ children: [new TextRun({ text, ...options })] })

/** A script as a Word document to be checked: a table for each part, with the number, the text and the notes of each passage. */
export async function scriptDocument(script: Script): Promise<Buffer> {
  const children = includedParts(script).flatMap(part => [
    new Paragraph({ text: part.label, heading: HeadingLevel.HEADING_1 }),
    new Table({
      width: { size: 100, type: WidthType.PERCENTAGE },
      rows: [
        new TableRow({ tableHeader: true, children: [cell(8, [line('No', { bold: true })]), cell(62, [line('Text', { bold: true })]), cell(30, [line('Notes', { bold: true })])] }),
        ...part.passages.filter(passage => !repeatsLabel(part, passage)).map((passage, index) => new TableRow({
          children: [
            cell(8, [line(String(index + 1))]),
            cell(62, [line(writtenText(passage.content), passage.kind === 'heading' || passage.kind === 'title' ? { bold: true } : {})]),
            cell(30, notesOf(passage).length === 0 ? [line('')] : notesOf(passage).map(note => line(note, { size: 18 }))),
          ],
        })),
      ],
    }),
  ])
  return Packer.toBuffer(new Document({ title: script.title, ...(script.author === null ? {} : { creator: script.author }), sections: [{ children }] }))
}

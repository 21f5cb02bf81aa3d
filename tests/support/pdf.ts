import { deflateSync } from 'node:zlib'

export interface PdfPage {
  /** The page's drawing, in PDF operators; text is set in `/F`. */
  readonly draws: string
  /** Degrees clockwise. */
  readonly rotate?: number
}

/** Lines of text down a page of 600 × 800 points, 14 points apart. */
export function linesOfText(lines: readonly string[]): string {
  return `BT /F 11 Tf 14 TL 60 740 Td ${lines.map(line => `(${line.replace(/[\\()]/gu, '\\$&')}) Tj T*`).join(' ')} ET`
}

/** The same on a page that is stored turned to the left, so that it is upright when it is shown turned by 90 degrees. */
export function turnedLines(lines: readonly string[]): string {
  return `BT /F 11 Tf 14 TL 0 1 -1 0 60 60 Tm ${lines.map(line => `(${line.replace(/[\\()]/gu, '\\$&')}) Tj T*`).join(' ')} ET`
}

/** An entry of a file's outline. */
export interface OutlineItem {
  readonly title: string
  /** Index of its page. */
  readonly page: number
  /** 1, or 2 for what stands under the entry before. */
  readonly level: number
}

/** A PDF of these pages, made here (ISO 32000-1, 7.5). `deflated`: the drawings are compressed. */
export function pdfOf(pages: readonly PdfPage[], { deflated = false, outline = [] as readonly OutlineItem[] } = {}): Buffer {
  const objects: Buffer[] = []
  const add = (content: string | Buffer): number => objects.push(Buffer.isBuffer(content) ? content : Buffer.from(content, 'latin1'))
  add('')
  add('')
  add('<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>')
  const kids = pages.map(({ draws, rotate = 0 }) => {
    const bytes = deflated ? deflateSync(draws) : Buffer.from(draws, 'latin1')
    const stream = add(Buffer.concat([Buffer.from(`<< /Length ${bytes.length}${deflated ? ' /Filter /FlateDecode' : ''} >>\nstream\n`), bytes, Buffer.from('\nendstream')]))
    return add(`<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Rotate ${rotate} /Resources << /Font << /F 3 0 R >> >> /Contents ${stream} 0 R >>`)
  })
  objects[1] = Buffer.from(`<< /Type /Pages /Count ${kids.length} /Kids [${kids.map(kid => `${kid} 0 R`).join(' ')}] >>`)
  objects[0] = Buffer.from(`<< /Type /Catalog /Pages 2 0 R ${outline.length === 0 ? '' : `/Outlines ${outlineOf(outline, kids, add)} 0 R`} >>`)
  return assemble(objects)
}

/** Adds an outline of two levels (ISO 32000-1, 12.3.3), and gives its object's number. */
function outlineOf(items: readonly OutlineItem[], pages: readonly number[], add: (content: string) => number): number {
  const under = (at: number): number[] => {
    const end = items.findIndex((item, index) => index > at && item.level === 1)
    return items.flatMap((item, index) => item.level === 2 && index > at && (end < 0 || index < end) ? [index] : [])
  }
  const chain = (indexes: readonly number[]): readonly [first: number, last: number] => {
    const numbers: number[] = []
    for (const index of indexes.toReversed()) {
      const { title, page, level } = items[index]!
      const [first, last] = level === 1 && under(index).length > 0 ? chain(under(index)) : [0, 0]
      const next = numbers[0] === undefined ? '' : `/Next ${numbers[0]} 0 R`
      numbers.unshift(add(`<< /Title (${title}) /Dest [${pages[page]} 0 R /Fit] ${next} ${first === 0 ? '' : `/First ${first} 0 R /Last ${last} 0 R /Count ${under(index).length}`} >>`))
    }
    return [numbers[0]!, numbers.at(-1)!]
  }
  const [first, last] = chain(items.flatMap((item, index) => item.level === 1 ? [index] : []))
  return add(`<< /Type /Outlines /First ${first} 0 R /Last ${last} 0 R >>`)
}

/** A file of objects, the first of which is the catalog. */
export function assemble(objects: readonly Buffer[]): Buffer {
  const chunks = [Buffer.from('%PDF-1.7\n')]
  let at = chunks[0]!.length
  const places = objects.map((object, index) => {
    const place = at
    const whole = Buffer.concat([Buffer.from(`${index + 1} 0 obj\n`), object, Buffer.from('\nendobj\n')])
    chunks.push(whole)
    at += whole.length
    return place
  })
  chunks.push(Buffer.from(`xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${places.map(place => `${String(place).padStart(10, '0')} 00000 n \n`).join('')}`
    + `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${at}\n%%EOF\n`))
  return Buffer.concat(chunks)
}

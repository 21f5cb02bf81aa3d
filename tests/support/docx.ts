import { ZipFile } from 'yazl'

const namespaces = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'

/** A ZIP of texts, made here. */
export async function zipOf(entries: Readonly<Record<string, string | Buffer>>): Promise<Buffer> {
  const zip = new ZipFile()
  for (const [name, content] of Object.entries(entries)) zip.addBuffer(Buffer.from(content), name)
  zip.end()
  const chunks: Buffer[] = []
  for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer)
  return Buffer.concat(chunks)
}

export const styles = `<w:styles ${namespaces}>
  <w:style w:type="paragraph" w:default="1" w:styleId="Normal"><w:name w:val="Normal"/></w:style>
  <w:style w:type="paragraph" w:styleId="T"><w:name w:val="Title"/></w:style>
  <w:style w:type="paragraph" w:styleId="H1"><w:name w:val="heading 1"/></w:style>
  <w:style w:type="paragraph" w:styleId="H2"><w:name w:val="heading 2"/></w:style>
  <w:style w:type="paragraph" w:styleId="Own"><w:name w:val="Chapter Opening"/><w:basedOn w:val="H1"/></w:style>
  <w:style w:type="paragraph" w:styleId="Q"><w:name w:val="Quote"/></w:style>
  <w:style w:type="paragraph" w:styleId="L"><w:name w:val="List Bullet"/><w:pPr><w:numPr><w:numId w:val="1"/></w:numPr></w:pPr></w:style>
  <w:style w:type="character" w:styleId="Secret"><w:name w:val="Secret"/><w:rPr><w:vanish/></w:rPr></w:style>
</w:styles>`

/** A word-processing document with this body. */
export function docxOf(body: string, extra: Readonly<Record<string, string>> = {}): Promise<Buffer> {
  return zipOf({
    '[Content_Types].xml': '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>',
    '_rels/.rels': '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" '
      + 'Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
    'word/styles.xml': styles,
    'word/document.xml': `<w:document ${namespaces}><w:body>${body}</w:body></w:document>`,
    ...extra,
  })
}

/** A paragraph of one run. */
export function p(text: string, style?: string, properties = ''): string {
  return `<w:p><w:pPr>${style === undefined ? '' : `<w:pStyle w:val="${style}"/>`}${properties}</w:pPr><w:r><w:t xml:space="preserve">${text}</w:t></w:r></w:p>`
}

import { zipOf } from './docx'

const namespaces = 'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" '
  + 'xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0" '
  + 'xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:dc="http://purl.org/dc/elements/1.1/"'

/** A text document with this body and these automatic styles. */
export function odtOf(body: string, styles = '', extra: Readonly<Record<string, string>> = {}): Promise<Buffer> {
  return zipOf({
    'mimetype': 'application/vnd.oasis.opendocument.text',
    'content.xml': `<office:document-content ${namespaces}><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
    'styles.xml': `<office:document-styles ${namespaces}><office:master-styles><style:master-page style:name="M"><style:header><text:p>The Year</text:p></style:header>`
      + '<style:footer><text:p><text:page-number>7</text:page-number></text:p></style:footer></style:master-page></office:master-styles></office:document-styles>',
    ...extra,
  })
}

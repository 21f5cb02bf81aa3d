import { SaxesParser, type SaxesTagNS } from 'saxes'
import { fail, ProblemError } from '#core/problem'

const maximumDepth = 256

export interface XmlHandlers {
  readonly open?: (tag: SaxesTagNS) => void
  readonly close?: (tag: SaxesTagNS) => void
  readonly text?: (text: string) => void
}

/**
 * Parses namespaced XML. Refuses a document type (no entity is ever expanded) and nesting beyond 256
 * elements; throws a problem with line and column for XML that is not well formed.
 */
export function parseXml(xml: string, place: string, handlers: XmlHandlers): void {
  const parser = new SaxesParser({ xmlns: true, position: true })
  let depth = 0
  parser.on('doctype', () => fail('xml-doctype', 'A document type definition is not accepted in this kind of file. Save it again in a word processor.', place))
  parser.on('opentag', tag => {
    depth += 1
    if (depth > maximumDepth) fail('xml-too-deep', `Elements are nested more than ${maximumDepth} deep. Save it again in a word processor.`, place)
    handlers.open?.(tag)
  })
  parser.on('closetag', tag => {
    depth -= 1
    handlers.close?.(tag)
  })
  if (handlers.text !== undefined) {
    parser.on('text', handlers.text)
    parser.on('cdata', handlers.text)
  }
  parser.on('error', error => {
    fail('xml-broken', `The file is damaged: ${error.message.replace(/^\d+:\d+: /u, '').replace(/\.$/u, '')}. Save it again in the program it comes from.`, `${place}, line ${parser.line}, column ${parser.column}`)
  })
  try {
    parser.write(xml.replace(/^\ufeff/u, '')).close()
  } catch (error) {
    if (error instanceof ProblemError) throw error
    fail('xml-broken', 'The file is damaged: its XML cannot be read. Save it again in the program it comes from.', place)
  }
}

import { SaxesParser, type SaxesTagNS } from 'saxes'
import { fail, ProblemError } from '#core/problem'

const maximumDepth = 256

export interface XmlHandlers {
  readonly open?: (tag: SaxesTagNS) => void
  readonly close?: (tag: SaxesTagNS) => void
  readonly text?: (text: string) => void
  /** Elements that are passed over with all in them, by local name. */
  readonly skipped?: ReadonlySet<string>
}

/**
 * Parses namespaced XML. Refuses a document type, or passes over one without declarations of its own where that is
 * usual (no entity is ever expanded), and nesting beyond 256 elements; throws a problem with line and column for XML that is not well formed.
 */
export function parseXml(xml: string, place: string, handlers: XmlHandlers, allowed: { readonly doctype?: boolean } = {}): void {
  const parser = new SaxesParser({ xmlns: true, position: true })
  let depth = 0
  /** Depth within an element that is passed over; 0 outside. */
  let skipping = 0
  parser.on('doctype', doctype => allowed.doctype === true && !doctype.includes('[') || fail('xml-doctype', 'A document type definition is not accepted in this kind of file. Save it again in a word processor.', place))
  parser.on('opentag', tag => {
    depth += 1
    if (depth > maximumDepth) fail('xml-too-deep', `Elements are nested more than ${maximumDepth} deep. Save it again in a word processor.`, place)
    if (skipping > 0 || handlers.skipped?.has(tag.local) === true) skipping += 1
    else handlers.open?.(tag)
  })
  parser.on('closetag', tag => {
    depth -= 1
    if (skipping > 0) skipping -= 1
    else handlers.close?.(tag)
  })
  if (handlers.text !== undefined) {
    const take = (text: string): void => { if (skipping === 0) handlers.text!(text) }
    parser.on('text', take)
    parser.on('cdata', take)
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

import type { PartState } from '#shared/api'
import type { PassageKind } from '#core/script/script'

// The words the interface uses for the values of the core.

export const kindNames: Readonly<Record<PassageKind, string>> = {
  title: 'Title', heading: 'Heading', paragraph: 'Paragraph', listItem: 'List item', quotation: 'Quotation', tableRow: 'Table row',
}

export const stateNames: Readonly<Record<PartState, string>> = {
  unread: 'not read', beingRead: 'being read', partly: 'partly read', read: 'read', stale: 'stale', silent: 'nothing to read',
}

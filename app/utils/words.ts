import type { EditKind, PartState } from '#shared/api'
import type { PassageKind } from '#core/script/script'

// The words the interface uses for the values of the core.

export const kindNames: Readonly<Record<PassageKind, string>> = {
  title: 'Title', heading: 'Heading', paragraph: 'Paragraph', listItem: 'List item', quotation: 'Quotation', tableRow: 'Table row',
}

export const stateNames: Readonly<Record<PartState, string>> = {
  unread: 'not read', beingRead: 'being read', partly: 'partly read', read: 'read', stale: 'stale', silent: 'nothing to read',
}

export const editNames: Readonly<Record<EditKind, string>> = {
  text: 'the change of text', name: 'the new name', inclusion: 'leaving out', order: 'the new order', merge: 'the merge', split: 'the split',
}

import type { FileChange } from '#core/delivery/compare'
import type { DeliveryChangesView } from '#shared/delivery'
import { count } from './format'

/** What a delivery has otherwise than an earlier one, in figures. */
export function changesText({ files, same }: DeliveryChangesView): string {
  const number = (kind: FileChange['kind']): number => files.filter(file => file.kind === kind).length
  return files.length === 0 ? `All ${count(same, 'file')} the same, byte for byte.` : `${count(number('new'), 'file')} new, ${number('changed')} changed, ${number('renamed')} renamed, ${number('gone')} gone; ${same} the same, byte for byte.`
}

/** How many of its files the earlier one has not. */
export function changedCount({ files }: DeliveryChangesView): number {
  return files.filter(file => file.kind !== 'gone').length
}

import { filledTemplate } from '../template'
import type { SourceUnit } from './manuscript'

/** The first line of an article: a template's fields filled in. */
export function openingLine(template: string, { label, author, date, source }: SourceUnit): string {
  return filledTemplate(template, { title: label, author, date, source })
}

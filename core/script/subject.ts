import type { Rests, StyleFields } from '../style/house-style'
import type { ScriptChange, StyleChange } from './changes'
import { writtenText } from './content'
import { passageKinds, type PassageKind } from './script'

// What an edit was about, in few words, for the place where it can be undone.

/** Signs of a text that are shown. */
const shownSigns = 32

const manyOf: Readonly<Record<PassageKind, string>> = {
  title: 'titles', heading: 'headings', paragraph: 'paragraphs', listItem: 'list items', quotation: 'quotations', tableRow: 'table rows', note: 'notes', sceneBreak: 'scene breaks',
}

/** What a subject is named after: parts where some have changed, otherwise all that has. */
export function mainChanges(changes: readonly ScriptChange[]): readonly ScriptChange[] {
  const parts = changes.filter(change => change.of === 'part')
  return parts.length > 0 ? parts : changes
}

/** What changes are of, the first by its name: `Varroa and 2 more`. `nameNow` is that of the first where the change does not tell it. Null where it has none. */
export function subjectOf(changes: readonly ScriptChange[], nameNow: string | null = null): string | null {
  const main = mainChanges(changes)
  const [first] = main
  if (first === undefined) return null
  const names = first.of === 'style' ? styleNames(first) : [nameIn(first) ?? quoted(nameNow ?? undefined)]
  const [name] = names
  if (name === undefined || name === null) return null
  const more = names.length + new Set(main.map(change => change.id)).size - 2
  return more === 0 ? name : `${name} and ${more} more`
}

function nameIn(change: Exclude<ScriptChange, StyleChange>): string | null {
  switch (change.of) {
    case 'word': return (change.after?.entry ?? change.before?.entry)?.graphemes[0] ?? null
    case 'part': return quoted(change.after?.label ?? change.before?.label)
    case 'passage': {
      const content = change.after?.content ?? change.before?.content
      return content === undefined ? null : quoted(writtenText(content))
    }
    case 'decision': {
      const decision = change.after?.decision ?? change.before?.decision
      return quoted(decision?.at?.quote ?? (decision?.about === 'census' ? decision.key : undefined))
    }
    case 'choice': return quoted((change.after?.at ?? change.before?.at)?.quote)
    case 'edition': return null
  }
}

function quoted(text: string | undefined): string | null {
  const signs = [...(text ?? '').trim().replace(/\s+/gu, ' ')]
  if (signs.length === 0) return null
  return `“${signs.length > shownSigns ? `${signs.slice(0, shownSigns).join('').trimEnd()}…` : signs.join('')}”`
}

function styleNames({ before, after }: StyleChange): string[] {
  const fields = Object.keys({ ...before, ...after })
  const kindNames = passageKinds.filter(kind => fields.includes(kind)).map(kind => `${restName(before?.[kind], after?.[kind])} ${manyOf[kind]}`)
  const rules = fields.filter((field): field is `rule ${string}` => field.startsWith('rule ')).flatMap(field => ruleName(before, after, field))
  return [
    ...kindNames,
    ...fields.includes('headingRests') ? ['rests of headings by their levels'] : [],
    ...fields.includes('sentenceRestMs') ? ['rest between sentences'] : [],
    ...fields.includes('name') ? ['name of the house style'] : [],
    ...rules,
    ...rules.length === 0 && fields.includes('ruleOrder') ? ['order of the rules'] : [],
  ]
}

function restName(before: Rests | undefined, after: Rests | undefined): string {
  const [isBefore, isAfter] = [before?.beforeMs !== after?.beforeMs, before?.afterMs !== after?.afterMs]
  return isBefore && isAfter ? 'rests around' : isBefore ? 'rest before' : 'rest after'
}

function ruleName(before: Partial<StyleFields> | null, after: Partial<StyleFields> | null, field: `rule ${string}`): string[] {
  const rule = after?.[field] ?? before?.[field]
  return rule === undefined || rule === null ? [] : [`rule ${rule.note ?? rule.does.replace(/[A-Z]/gu, letter => ` ${letter.toLowerCase()}`)}`]
}

import { sayAsKind, sayAsWords } from '../language/say-as'
import { writtenText, type Content } from '../script/content'
import type { Direction, DirectionOf } from '../script/directions'
import type { WordFinder, WordHit } from '../words/find-words'

/**
 * One step of the map between what is written and what is spoken, in order. Together the groups cover
 * the spoken text; written text that is in no group is not spoken.
 */
export interface Group {
  readonly written: readonly [start: number, end: number]
  readonly spoken: readonly [start: number, end: number]
  /** Its spoken text is another than the written, or is said as a whole: the two go together as wholes only. */
  readonly replaced?: true
  /** What made it so: the direction, or the entry of a wordbook, by its id. */
  readonly by?: { readonly direction: string } | { readonly word: string }
}

export interface SpokenForm {
  readonly text: string
  readonly groups: readonly Group[]
  /** What is on the spoken text, outermost first. What is left out or replaced has done its work and is not among them. */
  readonly spans: readonly SpokenSpan[]
  /** Rests and sounds, as they stand. */
  readonly points: readonly { readonly direction: Direction, readonly at: number, readonly writtenAt: number }[]
}

export interface SpokenSpan {
  readonly direction: Direction
  readonly start: number
  end: number
}

/** Characters an engine must never see, or that carry no sound: controls, soft hyphens, joiners at word ends. */
const unspeakable = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u00ad\u200b\u2060\ufeff\ufff9-\uffff]/gu

/**
 * The spoken form of a passage: what is left out removed, what is substituted or said as something in its words,
 * unspeakable characters dropped; the written text untouched. Words of `sayAs` are those of the passage's language (BCP 47)
 * or of the language set around it; where there are none, the text is spoken as it is written. Text on which no direction says how
 * it is spoken is said as the wordbooks have it.
 */
export function spokenForm(content: Content, language: string, findWords: WordFinder = () => []): SpokenForm {
  const byId = new Map(content.directions.map(direction => [direction.id, direction]))
  const groups: Group[] = []
  const spans = new Map<string, SpokenSpan>()
  const points: { direction: Direction, at: number, writtenAt: number }[] = []
  let text = ''
  let written = 0
  /** The direction whose words have been spoken: all of its text is done with. */
  let replacing: string | null = null

  const add = (spoken: string, start: number, end: number, by?: Group['by']): void => {
    const replaced = by !== undefined
    const last = groups.at(-1)
    const from = text.length
    text += spoken
    if (!replaced && last !== undefined && last.replaced !== true && last.written[1] === start && last.spoken[1] === from) {
      groups[groups.length - 1] = { written: [last.written[0], end], spoken: [last.spoken[0], text.length] }
    } else {
      groups.push({ written: [start, end], spoken: [from, text.length], ...(replaced ? { replaced: true, by } : {}) })
    }
  }
  const whole = writtenText(content)
  /** Text without the characters that cannot be spoken. */
  const addPlain = (start: number, end: number): void => {
    let at = start
    for (const match of whole.slice(start, end).matchAll(unspeakable)) {
      if (start + match.index > at) add(whole.slice(at, start + match.index), at, start + match.index)
      at = start + match.index + match[0].length
    }
    if (at < end) add(whole.slice(at, end), at, end)
  }
  const addSaid = ({ start, end, entry, said }: WordHit): void => {
    const from = text.length
    add('words' in said ? said.words.replace(unspeakable, '') : whole.slice(start, end).replace(unspeakable, ''), start, end, { word: entry })
    if ('words' in said) return
    const id = `word ${entry} ${start}`
    const direction: Direction = 'ph' in said ? { id, kind: 'phoneme', ph: said.ph } : { id, kind: 'sayAs', interpretAs: 'characters' }
    spans.set(id, { direction, start: from, end: text.length })
  }

  for (const run of content.runs) {
    const on = run.on.map(id => byId.get(id)!)
    const start = written
    written += run.text.length
    if (run.point !== undefined) {
      points.push({ direction: byId.get(run.point)!, at: text.length, writtenAt: start })
      continue
    }
    if (on.some(direction => direction.kind === 'leftOut')) continue
    const wording = on.find(direction => direction.kind === 'substitute' || direction.kind === 'sayAs')
    if (wording === undefined || wording.id !== replacing) {
      replacing = null
      const from = text.length
      const words = wording === undefined ? null : wordsOf(wording, coveredBy(content, wording.id), languageAt(on, language))
      if (words !== null) {
        replacing = wording!.id
        add(words, start, start + coveredBy(content, wording!.id).length, { direction: wording!.id })
      } else {
        const isSaid = wording !== undefined || on.some(direction => direction.kind === 'phoneme')
        let at = start
        for (const hit of isSaid ? [] : findWords(whole, start, written, languageAt(on, language))) {
          addPlain(at, hit.start)
          addSaid(hit)
          at = hit.end
        }
        addPlain(at, written)
      }
      for (const direction of on) {
        if (words !== null && direction === wording) continue
        const span = spans.get(direction.id)
        if (span === undefined) spans.set(direction.id, { direction, start: from, end: text.length })
        else span.end = text.length
      }
    }
  }
  return { text, groups, spans: [...spans.values()].filter(span => span.end > span.start), points }
}

/** The written text that a direction covers. */
function coveredBy(content: Content, id: string): string {
  return content.runs.filter(run => run.on.includes(id)).map(run => run.text).join('')
}

function languageAt(on: readonly Direction[], language: string): string {
  return on.findLast((direction): direction is Direction & DirectionOf<'language'> => direction.kind === 'language' && direction.language !== '')?.language ?? language
}

/** The words that are spoken in place of a text; null when it is spoken as it stands. */
export function wordsOf(direction: Direction, text: string, language: string): string | null {
  if (direction.kind === 'substitute') return direction.alias.replace(unspeakable, '')
  if (direction.kind !== 'sayAs' || sayAsKind(direction.interpretAs) === 'characters') return null
  const said = sayAsWords(text, direction.interpretAs, direction.format, language)
  return 'words' in said ? said.words : null
}

/** The written span that a spoken span comes from. */
export function writtenSpan(form: SpokenForm, start: number, end: number): [start: number, end: number] {
  const first = form.groups.find(group => group.spoken[1] > start)
  const last = form.groups.findLast(group => group.spoken[0] < end)
  if (first === undefined || last === undefined) return [0, 0]
  return [
    first.replaced === true ? first.written[0] : first.written[0] + Math.max(0, start - first.spoken[0]),
    last.replaced === true ? last.written[1] : last.written[0] + Math.min(end, last.spoken[1]) - last.spoken[0],
  ]
}

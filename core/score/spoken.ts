import { directionSpans, writtenText, type Content } from '../script/content'

/**
 * One step of the map between what is written and what is spoken, in order. Together the groups cover
 * the spoken text; written text that is in no group is not spoken.
 */
export interface Group {
  readonly written: readonly [start: number, end: number]
  readonly spoken: readonly [start: number, end: number]
}

export interface SpokenForm {
  readonly text: string
  readonly groups: readonly Group[]
}

/** Characters an engine must never see, or that carry no sound: controls, soft hyphens, joiners at word ends. */
const unspeakable = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u00ad\u200b\u2060\ufeff\ufff9-\uffff]/u

/** The spoken form of a passage: what is left out removed, unspeakable characters dropped, the written text untouched. */
export function spokenForm(content: Content): SpokenForm {
  const written = writtenText(content)
  const silent = directionSpans(content).filter(span => span.direction.kind === 'leftOut')
  let text = ''
  const groups: Group[] = []
  let groupStart: number | null = null
  const close = (end: number): void => {
    if (groupStart === null) return
    const spokenStart = groups.at(-1)?.spoken[1] ?? 0
    groups.push({ written: [groupStart, end], spoken: [spokenStart, text.length] })
    groupStart = null
  }
  for (let at = 0; at < written.length; at += 1) {
    const character = written[at]!
    if (unspeakable.test(character) || silent.some(span => at >= span.start && at < span.end)) {
      close(at)
    } else {
      groupStart ??= at
      text += character
    }
  }
  close(written.length)
  return { text, groups }
}

/** The written span that a spoken span comes from. */
export function writtenSpan(form: SpokenForm, start: number, end: number): [start: number, end: number] {
  const first = form.groups.find(group => group.spoken[1] > start)
  const last = form.groups.findLast(group => group.spoken[0] < end)
  if (first === undefined || last === undefined) return [0, 0]
  return [first.written[0] + (start - first.spoken[0]), last.written[0] + (end - last.spoken[0])]
}

import { supportOf, type Surroundings } from '../../score/support'
import { plainTone, toneOf, type Tone } from '../../score/tone'
import type { Direction, DirectionValue } from '../directions'
import { directionOf } from './read'
import type { SsmlElement, SsmlProblem } from './tree'

/** The directions of a document that an engine is asked about, with their languages (BCP 47) and places. */
export function directionsIn(root: SsmlElement, source: string, language: string): { readonly value: DirectionValue, readonly language: string, readonly start: number }[] {
  const found: { value: DirectionValue, language: string, start: number }[] = []
  const walk = (element: SsmlElement, outer: string): void => {
    const inner = element.attributes.find(attribute => attribute.name === 'xml:lang')?.value || outer
    const isOwn = element.namespace === root.namespace && element !== root
    // A paragraph in another language is read as one under that direction is.
    const value: DirectionValue | null = !isOwn ? null : element.name === 'p' && inner !== outer ? { kind: 'language', language: inner } : directionOf(element, source)
    if (value !== null) found.push({ value, language: inner, start: element.start })
    for (const child of element.children) if (child.type === 'element') walk(child, inner)
  }
  walk(root, language)
  return found
}

/** What an engine cannot do of the directions in a document, as warnings at their places; `shift` is how much longer the tree's source is at its head. */
export function unsupported(root: SsmlElement, source: string, around: Surroundings, shift = 0): SsmlProblem[] {
  const problems: SsmlProblem[] = []
  const walk = (element: SsmlElement, language: string, outer: Tone): void => {
    const own = element.attributes.find(attribute => attribute.name === 'xml:lang')?.value
    const inner = own === undefined || own === '' ? language : own
    const value = element.namespace === root.namespace && element !== root ? directionOf(element, source) : null
    if (value !== null) {
      const text = value.kind === 'sayAs' ? textOf(element) : undefined
      const { how, note } = supportOf({ id: '', ...value } as Direction, { ...around, language: inner, outer, ...(text === undefined ? {} : { text }) })
      if (how === 'unavailable') problems.push({ severity: 'warning', code: 'voice-cannot', message: note ?? 'This voice cannot do that.', offset: Math.max(0, element.start - shift) })
    }
    const within = value === null ? outer : toneOf([{ id: '', ...value } as Direction], outer)
    for (const child of element.children) if (child.type === 'element') walk(child, inner, within)
  }
  walk(root, around.language, plainTone)
  return problems
}

function textOf(element: SsmlElement): string {
  return element.children.map(child => child.type === 'text' ? child.text : child.type === 'element' ? textOf(child) : '').join('')
}

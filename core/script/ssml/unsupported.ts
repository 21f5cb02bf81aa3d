import { supportOf, type Surroundings } from '../../score/support'
import { plainTone, toneOf, type Tone } from '../../score/tone'
import type { Direction, DirectionValue } from '../directions'
import { directionOf } from './read'
import { attributeOf, type SsmlElement, type SsmlProblem } from './tree'

/** A direction of a document, and what is known where it stands. */
export interface DocumentDirection {
  readonly value: DirectionValue
  /** BCP 47 */
  readonly language: string
  /** The tone of the elements around it. */
  readonly outer: Tone
  readonly element: SsmlElement
}

/** The directions of a document in the order of their places. A paragraph, a sentence or a word in another language is read as one under that direction is. */
export function directionsIn(root: SsmlElement, source: string, language: string): DocumentDirection[] {
  const found: DocumentDirection[] = []
  const walk = (element: SsmlElement, around: string, outer: Tone): void => {
    const own = attributeOf(element, 'xml:lang') || around
    const isOwn = element.namespace === root.namespace && element !== root
    const value: DirectionValue | null = !isOwn ? null : /^(?:p|s|w|token)$/u.test(element.name) && own !== around ? { kind: 'language', language: own } : directionOf(element, source)
    if (value !== null) found.push({ value, language: own, outer, element })
    const tone = value === null ? outer : toneOf([{ id: '', ...value } as Direction], outer)
    for (const child of element.children) if (child.type === 'element') walk(child, own, tone)
  }
  walk(root, language, plainTone)
  return found
}

/** What an engine cannot do of the directions in a document, as warnings at their places; `shift` is how much longer the tree's source is at its head. */
export function unsupported(root: SsmlElement, source: string, around: Surroundings, shift = 0): SsmlProblem[] {
  return directionsIn(root, source, around.language).flatMap(({ value, language, outer, element }): SsmlProblem[] => {
    const { how, note } = supportOf({ id: '', ...value } as Direction, { ...around, language, outer, ...(value.kind === 'sayAs' ? { text: textOf(element) } : {}) })
    return how === 'unavailable' ? [{ severity: 'warning', code: 'voice-cannot', message: note ?? 'This voice cannot do that.', offset: Math.max(0, element.start - shift) }] : []
  })
}

function textOf(element: SsmlElement): string {
  return element.children.map(child => child.type === 'text' ? child.text : child.type === 'element' ? textOf(child) : '').join('')
}

import { fail, type Problem } from '#core/problem'
import type { TextBuilder, Point } from './text-builder'

/** A link whose text is nothing but its target, or an address, is not read; the target of any other is noted as dropped. */
export function closeLink(builder: TextBuilder, from: Point, target: string): void {
  const text = builder.since(from)
  const bare = (value: string): string => value.replace(/^(?:mailto:|https?:\/\/)/iu, '').replace(/\/$/u, '').toLowerCase()
  if (text !== '' && bare(text) === bare(target)) {
    builder.rewind(from)
    builder.leaveGap()
  }
  builder.cut('link-target', target)
}

/** Whether a link would run a program when it is followed. */
export function isUnsafe(target: string): boolean {
  return /^\s*(?:javascript|vbscript|data):/iu.test(target.replace(/[\u0000-\u0020]+/gu, ''))
}

/** What is said of links that would run a program; nothing when there are none. */
export function unsafeLinks(count: number, place: string): Problem[] {
  if (count === 0) return []
  return [{ code: 'link-unsafe', message: `${count} ${count === 1 ? 'link' : 'links'} would run a program instead of leading to a page. The text is kept, the link is not.`, place }]
}

/** Deepest nesting of HTML that is followed, in elements: finding an article takes time that grows with its square. */
export const maximumDepth = 200

export function refuseDepth(place: string): never {
  return fail('xml-too-deep', `Elements are nested more than ${maximumDepth} deep. Save the document again in the program it comes from.`, place)
}

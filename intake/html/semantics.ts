import type { DropKind, Matter } from '#core/manuscript/manuscript'

/** Elements that begin and end a block. */
export const blockElements: ReadonlySet<string> = new Set([
  'address', 'article', 'aside', 'blockquote', 'body', 'caption', 'center', 'dd', 'details', 'dialog', 'div', 'dl', 'dt', 'fieldset', 'figcaption', 'figure', 'footer',
  'form', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'header', 'hgroup', 'html', 'hr', 'legend', 'li', 'main', 'menu', 'nav', 'ol', 'p', 'pre', 'search', 'section', 'summary',
  'table', 'tbody', 'td', 'tfoot', 'th', 'thead', 'title', 'tr', 'ul',
])
/** Elements whose text is not the document's. `annotation`: a formula over again, in another notation. */
export const ignored: ReadonlySet<string> = new Set(['script', 'style', 'noscript', 'template', 'svg', 'audio', 'video', 'iframe', 'object', 'canvas', 'rt', 'rp', 'datalist', 'head', 'title', 'annotation', 'annotation-xml'])
export const emphasising: ReadonlySet<string> = new Set(['em', 'i', 'strong', 'b', 'cite', 'dfn'])
export const voids: ReadonlySet<string> = new Set(['area', 'base', 'br', 'col', 'embed', 'hr', 'img', 'input', 'link', 'meta', 'param', 'source', 'track', 'wbr'])
const controlsOfForms = new Set(['button', 'select', 'textarea', 'option', 'input', 'form'])

/** Classes that page authors hide things with, or show them to screen readers only (*common practice*). */
const hidingClass = /(?:^|\s)(?:hidden|is-hidden|d-none|hide|invisible|visually-?hidden|sr-only|screen-reader(?:-text)?|offscreen)(?:\s|$)/iu

/** What an element says of itself in EPUB's and DPUB-ARIA's words. */
export function typeOf(attributes: Readonly<Record<string, string>>): string {
  return `${attributes['epub:type'] ?? ''} ${attributes['role'] ?? ''}`.toLowerCase()
}

/** Front and back matter of the EPUB Structural Semantics Vocabulary and the DPUB-ARIA roles. */
export function matterOfType(type: string): Matter | null {
  if (/\b(?:copyright-page|imprint|imprimatur|(?:doc-)?colophon|other-credits|(?:doc-)?credits?)\b/u.test(type)) return 'copyright'
  if (/\b(?:doc-)?(?:toc|landmarks|page-?list|lo[ivt]|loa)\b/u.test(type)) return 'contents'
  if (/\b(?:doc-)?index\b/u.test(type)) return 'index'
  if (/\b(?:doc-)?(?:footnotes|endnotes|rearnotes|bibliography)\b/u.test(type)) return 'notes'
  return /\b(?:doc-)?dedication\b/u.test(type) ? 'dedication' : null
}

/** Whether it belongs to the title of the whole. */
export function isTitlePage(type: string): boolean {
  return /\b(?:(?:half)?title-?page|seriespage|(?:doc-)?cover)\b/u.test(type)
}

/** Whether it is a note, wherever its mark is. */
export function isNote(type: string): boolean {
  return /\b(?:doc-)?(?:footnote|endnote|rearnote)\b/u.test(type)
}

/** Where an element stands, for what is not read of it. */
export interface Surroundings {
  readonly isXhtml: boolean
  readonly isInArticle: boolean
  /** Style sheets hide it. */
  readonly isHidden: boolean
}

/** Why an element is not read; null when it is. */
export function dropOf(name: string, attributes: Readonly<Record<string, string>>, { isXhtml, isInArticle, isHidden }: Surroundings): DropKind | null {
  const type = typeOf(attributes)
  if (isHidden || attributes['hidden'] !== undefined || /display\s*:\s*none|visibility\s*:\s*hidden/iu.test(attributes['style'] ?? '') || attributes['aria-hidden'] === 'true' || hidingClass.test(attributes['class'] ?? '')) return 'hidden'
  if (matterOfType(type) === 'contents') return 'contents'
  if (name === 'pre') return 'code'
  if (name === 'del') return 'deleted'
  if (name === 'nav' || /\b(?:navigation|banner|contentinfo|search|complementary)\b/u.test(attributes['role'] ?? '') || controlsOfForms.has(name)) return 'navigation'
  if (isXhtml) return null
  if (name === 'aside') return /foot|note/u.test(`${type} ${attributes['class'] ?? ''}`) ? null : 'navigation'
  return (name === 'header' || name === 'footer') && !isInArticle ? 'navigation' : null
}

export function languageOf(attributes: Readonly<Record<string, string>>): string | null {
  return (attributes['xml:lang'] ?? attributes['lang'] ?? '').trim() || null
}

import { parse as parseSelectors, type Selector } from 'css-what'
import postcss from 'postcss'

/** An element as selectors see it. */
export interface Styled {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
}

export interface HidingRule {
  /** Compounds from the last to the first, each with how it stands to the one after it. */
  readonly compounds: readonly { readonly tests: readonly Selector[], readonly isParent: boolean }[]
  readonly weight: number
  readonly hides: boolean
}

/** Which elements style sheets hide: by `display: none` or `visibility: hidden`. */
export interface StyleSheets {
  /** `around`: the element's ancestors, the outermost first. */
  readonly hides: (element: Styled, around: readonly Styled[]) => boolean
}

const mostCharacters = 2_000_000
/** Media that a reader of the page is in. */
const onScreen = /^(?:(?:only )?screen|all)\b|^\(/iu

/** What a style sheet hides and shows again. */
export type StyleSheet = readonly HidingRule[]

/**
 * Reads a style sheet (CSS 2.1 selectors of elements, classes, ids and attributes, with descendants and children); what else they say is not
 * looked at, nor what cannot be parsed.
 */
export function readStyleSheet(sheet: string): StyleSheet {
  return sheet.length > mostCharacters || !/display|visibility/iu.test(sheet) ? [] : hidingRules(sheet)
}

/** Style sheets together, in their order. */
export function cascade(sheets: readonly StyleSheet[]): StyleSheets {
  // A later rule counts more than an earlier one of the same weight.
  const rules = sheets.flat().sort((a, b) => a.weight - b.weight)
  return { hides: (element, around) => rules.findLast(rule => matches(rule, element, around))?.hides ?? false }
}

function hidingRules(sheet: string): HidingRule[] {
  const found: HidingRule[] = []
  try {
    postcss.parse(sheet).walkRules(rule => {
      const parent = rule.parent as { type?: string, name?: string, params?: string } | undefined
      if (parent?.type === 'atrule' && !(parent.name === 'media' && onScreen.test(parent.params ?? ''))) return
      let hides: boolean | null = null
      rule.walkDecls(/^(?:display|visibility)$/iu, ({ value }) => { hides = /^(?:none|hidden)\b/iu.test(value) })
      if (hides !== null) for (const selector of parseSelectors(rule.selector)) found.push(...compiled(selector, hides))
    })
  } catch {
    return []
  }
  return found
}

function compiled(selector: readonly Selector[], hides: boolean): HidingRule[] {
  const compounds: { tests: Selector[], isParent: boolean }[] = [{ tests: [], isParent: false }]
  let weight = 0
  for (const part of selector) {
    if (part.type === 'descendant' || part.type === 'child') {
      compounds.unshift({ tests: [], isParent: part.type === 'child' })
    } else if (part.type === 'tag' || part.type === 'universal' || part.type === 'attribute' && (part.action === 'exists' || part.action === 'equals' || part.action === 'element')) {
      compounds[0]!.tests.push(part)
      weight += part.type === 'attribute' ? part.name === 'id' ? 100 : 10 : part.type === 'tag' ? 1 : 0
    } else {
      return []
    }
  }
  return [{ compounds, weight, hides }]
}

function matches({ compounds }: HidingRule, element: Styled, around: readonly Styled[]): boolean {
  if (!compounds[0]!.tests.every(test => passes(test, element))) return false
  let left = around.length
  for (const [index, { tests }] of compounds.entries()) {
    if (index === 0) continue
    const { isParent } = compounds[index - 1]!
    do left -= 1
    while (!isParent && left >= 0 && !tests.every(test => passes(test, around[left]!)))
    if (left < 0 || !tests.every(test => passes(test, around[left]!))) return false
  }
  return true
}

function passes(test: Selector, { name, attributes }: Styled): boolean {
  if (test.type === 'tag') return test.name.toLowerCase() === name
  if (test.type !== 'attribute') return true
  const value = attributes[test.name.toLowerCase()]
  if (value === undefined) return false
  if (test.action === 'exists') return true
  return test.action === 'equals' ? value === test.value : value.split(/\s+/u).includes(test.value)
}

import { compileRegExp } from '../../manuscript/pattern'
import { emphasisLevels, type DirectionValue, type EmphasisLevel } from '../../script/directions'
import { wholeText } from '../../script/whole-text'
import type { RuleHit, RuleKind } from './rule-kind'

export interface OwnOptions {
  /** A text, or with `isPattern` a regular expression in RE2 syntax: its time grows with the text only. */
  readonly find: string
  readonly isPattern?: true
  readonly matchCase?: true
  readonly wholeWord?: true
  /** Spoken in its place. Of a pattern, `$1` and `$<name>` are what its groups have found, `$$` is a dollar sign. */
  readonly say?: string
  readonly restBeforeMs?: number
  readonly restAfterMs?: number
  readonly emphasis?: EmphasisLevel
  readonly ratePercent?: number
}

const text = { type: 'string', minLength: 1, maxLength: 500, pattern: wholeText } as const
const rest = { type: 'integer', minimum: 0, maximum: 20_000 } as const

/** Text or pattern → other text, directions, or both. */
export const own: RuleKind<OwnOptions> = {
  group: 'own',
  options: {
    find: text, isPattern: { const: true }, matchCase: { const: true }, wholeWord: { const: true }, say: { type: 'string', maxLength: 500, pattern: wholeText },
    restBeforeMs: rest, restAfterMs: rest, emphasis: { enum: emphasisLevels }, ratePercent: { type: 'integer', minimum: 50, maximum: 200 },
  },
  required: ['find'], defaults: { find: 'e.g.', say: 'for example' },
  finder: ({ find, isPattern, matchCase, wholeWord, say, restBeforeMs, restAfterMs, emphasis, ratePercent }) => {
    const compiled = compileRegExp(isPattern === true ? find : find.replace(/[\\^$.*+?()[\]{}|]/gu, '\\$&'), { ignoreCase: matchCase !== true })
    const named = compiled.namedGroups()
    const on: DirectionValue[] = [
      ...(ratePercent === undefined ? [] : [{ kind: 'prosody', rate: `${ratePercent}%` } as const]),
      ...(emphasis === undefined ? [] : [{ kind: 'emphasis', level: emphasis } as const]),
    ]
    return ({ text: whole }) => {
      const hits: RuleHit[] = []
      const matcher = compiled.matcher(whole)
      while (matcher.find()) {
        const [start, end] = [matcher.start(), matcher.end()]
        if (wholeWord === true && (isInWord(whole, start) || isInWord(whole, end))) continue
        const group = (name: string): string => {
          const index = /^\d+$/u.test(name) ? Number(name) : named[name]
          return index === undefined || index > matcher.groupCount() ? '' : matcher.group(index) ?? ''
        }
        const spoken = say === undefined ? undefined : isPattern !== true ? say : say.replace(/\$(?:(\$)|(\d)|<([^>]*)>)/gu, (_, dollar: string | undefined, digit: string | undefined, name: string | undefined) => dollar ?? group(digit ?? name!))
        hits.push({
          start, end, ...(spoken === undefined || end === start ? {} : { spoken }), ...(restBeforeMs === undefined ? {} : { restBeforeMs }), ...(restAfterMs === undefined ? {} : { restAfterMs }),
          ...(on.length === 0 ? {} : { on }),
        })
      }
      return hits
    }
  },
}

function isInWord(text: string, at: number): boolean {
  return /[\p{L}\p{N}]$/u.test(text.slice(Math.max(0, at - 2), at)) && /^[\p{L}\p{N}]/u.test(text.slice(at, at + 2))
}

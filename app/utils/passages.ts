import { diff } from 'fast-myers-diff'
import { v7 as uuidv7 } from 'uuid'
import { writtenText } from '#core/script/content'
import type { SsmlPassage } from '#core/script/ssml/read'
import type { PagePassage } from '#shared/api'
import type { WholePassage } from '#shared/operations'

/** Passages as they are to be, each with the id of the one it was: by its text, else by its place between those that stayed. New ones have new ids. */
export function matchedPassages(before: readonly PagePassage[], after: readonly SsmlPassage[]): WholePassage[] {
  const [old, next] = [before.map(each => writtenText(each.content)), after.map(each => writtenText(each.content))]
  const ids: (string | null)[] = []
  let at = 0
  for (const [fromOld, toOld, fromNew, toNew] of diff(old, next)) {
    while (ids.length < fromNew) ids.push(before[at++]!.id)
    for (let index = fromNew; index < toNew; index += 1) ids.push(fromOld + index - fromNew < toOld ? before[fromOld + index - fromNew]!.id : null)
    at = toOld
  }
  while (ids.length < after.length) ids.push(before[at++]?.id ?? null)
  return after.map(({ kind, content, language, role }, index) => ({ id: ids[index] ?? uuidv7(), kind, content, language: language ?? null, role: role ?? null }))
}

import { toScript } from '#core/manuscript/to-script'
import { propose } from '#core/manuscript/structure'
import { spokenOf } from '#core/score/compile'
import { presetStyle } from '#core/style/house-style'
import { presetFor } from '#core/style/presets'
import { prepareRules } from '#core/style/rule'
import type { RuleKindName } from '#core/style/rules'
import { count } from '#core/tally'
import type { IntakeStyle } from '#shared/api'
import { intakeStyleSchema, type IntakeStyleRequest } from '#shared/schemas'
import { breather } from '#store/breathe'
import { findReadManuscript, withDefaults } from '../../../utils/proposal'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<IntakeStyleRequest>(intakeStyleSchema)

/** How often each rule of a house style acts on a document, before it is accepted. */
export default route(async (event): Promise<IntakeStyle> => {
  const id = idParam(event)
  const { houseStyle, language, choices } = await body(event)
  const { manuscript } = await findReadManuscript(id)
  const { rules } = presetStyle(houseStyle)
  const [kinds, context] = [new Map<string, RuleKindName>(rules.map(rule => [rule.id, rule.does])), { language, rules: prepareRules(rules) }]
  const counts = new Map<RuleKindName, number>()
  const breathe = breather()
  for (const part of toScript(manuscript, propose(manuscript, withDefaults(manuscript, choices)).parts).parts) {
    if (!part.included) continue
    for (const passage of part.passages) {
      for (const { by } of spokenOf(passage, { ...context, partLabel: part.label }).steps) if ('rule' in by) count(counts, kinds.get(by.rule)!)
      await breathe()
    }
  }
  return { usual: presetFor(manuscript), counts: [...counts].map(([does, times]) => ({ does, count: times })).sort((a, b) => b.count - a.count) }
})

import { countWords } from '#core/manuscript/manuscript'
import { candidate, divideScript } from '#core/script/divide'
import type { DivisionView } from '#shared/api'
import { divisionSchema, type DivisionRequest } from '#shared/schemas'
import { dividedParts, loadScript } from '#store/divide'
import { loadEdition } from '#store/editions'
import { divisibleBy } from '../../../utils/proposal'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<DivisionRequest>(divisionSchema)

/** What a script would be divided into; nothing is changed. */
export default route(async (event): Promise<DivisionView> => {
  const id = idParam(event)
  const { split: asked } = await body(event)
  const { edition } = await loadEdition(id)
  const split = asked ?? edition.choices?.split ?? { by: 'heading', level: 1 }
  const script = await loadScript(id)
  const parts = dividedParts(script)
  const passages = parts.flatMap(part => part.passages)
  const texts = new Map(passages.map(passage => [passage.id, passage.text]))
  const blocks = passages.map(passage => candidate(passage, script.blocks)).map(({ text, source }) => ({ ...source, text }))
  return {
    ...divisibleBy(blocks), units: null, split,
    parts: divideScript(parts, split, script.blocks).map(group => ({
      label: group.label, isNew: group.part === null, words: group.passages.reduce((sum, passage) => sum + countWords(texts.get(passage.id)!), 0),
    })),
  }
})

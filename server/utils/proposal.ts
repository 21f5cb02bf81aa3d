import { speakingMs } from '#core/estimate/speaking-time'
import { countWords } from '#core/manuscript/manuscript'
import { defaultSplit, headingLevels, proposeParts, type ProposedPart } from '#core/manuscript/structure'
import { fail } from '#core/problem'
import { defaultVoiceSettings } from '#core/score/cast'
import { defaultHouseStyle, restBetween } from '#core/style/house-style'
import type { ManuscriptProposal, ProposedPartView } from '#shared/api'
import { ManuscriptRow } from '#store/models'

/** Passages of a part that are sent along to be looked at. */
const shownPassages = 40

export async function findManuscript(id: string): Promise<ManuscriptRow> {
  return await ManuscriptRow.findByPk(id) ?? fail('not-found', 'This document is no longer here. Bring it in again.')
}

export function proposalFor(row: ManuscriptRow, level?: number): ManuscriptProposal {
  const manuscript = row.content
  const split = level === undefined ? defaultSplit(manuscript) : { by: 'heading' as const, level }
  return {
    id: row.id, fileName: row.fileName, format: manuscript.format, title: manuscript.title ?? row.fileName, author: manuscript.author,
    language: manuscript.language, languageSource: manuscript.languageSource,
    levels: headingLevels(manuscript), level: split.level,
    parts: proposeParts(manuscript, split).map(view),
  }
}

function view(part: ProposedPart): ProposedPartView {
  return {
    label: part.label,
    words: part.passages.reduce((sum, passage) => sum + countWords(passage.text), 0),
    durationMs: Math.round(estimate(part)),
    passages: part.passages.slice(0, shownPassages),
    passageCount: part.passages.length,
  }
}

function estimate(part: ProposedPart): number {
  return part.passages.reduce((sum, passage, index) => {
    const previous = part.passages[index - 1]
    const rest = previous === undefined ? 0 : restBetween(defaultHouseStyle, previous.kind, passage.kind)
    return sum + rest + speakingMs(passage.text, defaultVoiceSettings.wordsPerMinute)
  }, 0)
}

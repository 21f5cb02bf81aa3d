import type { DeliveryProfile } from '#core/delivery/profile'
import { defaultProfile } from '#core/delivery/profiles'
import { heardFile, runSheet, type HeardPart, type RunSheetFile } from '#core/runsheet/run-sheet'
import { divided } from '#core/runsheet/units'
import type { CastScore } from '#core/score/request'
import { plainContent } from '#core/script/content'
import { choose, noTakes, type Reference } from '#core/takes/choose'

/** A score as a chapter that can be divided. Its passages are those that it speaks. */
export function heardPart(score: CastScore, label: string, number = 1, references: readonly Reference[] = choose(score, noTakes), sampleRate = 22_050): HeardPart {
  const ids = [...new Set(score.utterances.map(({ passageId }) => passageId))]
  const passages = ids.map(id => ({ id, kind: 'paragraph' as const, content: plainContent(`Passage ${id}`) }))
  return { id: String(number), number, label, kind: 'chapter', ...divided(score, references, passages, sampleRate), score, references }
}

/** The files of chapters, as they are made. */
export function heardSheet(parts: readonly HeardPart[], profile: DeliveryProfile = defaultProfile): RunSheetFile[] {
  return runSheet(parts, profile).map(file => heardFile(file, profile))
}

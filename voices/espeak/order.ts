import { ProblemError, type Problem } from '#core/problem'
import { translate, type ChosenVoice, type Translated } from './dialect'
import type { MarkupNode } from './markup'
import { phonemeTable, toMnemonics } from './phonemes'

/** An utterance as it is given to a child. */
export interface SpeakOrder {
  /** The library's own name of voice and variant: `gmw/en+f3`. */
  readonly identifier: string
  readonly rate: number
  readonly pitch: number
  readonly content: readonly MarkupNode[]
  /** Voices that the markup switches to: by language, and by its properties as JSON. */
  readonly byLanguage: Readonly<Record<string, string | null>>
  readonly byProperties: Readonly<Record<string, ChosenVoice>>
  /** Setting of the pitch scale for each change in semitones that the markup asks for. */
  readonly pitchSettings: Readonly<Record<string, number>>
}

/** An order in what the engine understands; `data` is the folder of its voices. */
export function translateOrder(order: SpeakOrder, data: string): Translated {
  return translate(order.content, {
    own: order.identifier,
    forLanguage: language => order.byLanguage[language] ?? null,
    forProperties: properties => order.byProperties[JSON.stringify(properties)] ?? { to: null, missing: null },
    mnemonics: (ipa, voice) => toMnemonics(ipa, phonemeTable(data, voice ?? order.identifier)),
    pitchPercent: semitones => (order.pitchSettings[String(semitones)] ?? order.pitch) / Math.max(1, order.pitch) * 100,
  })
}

/** What the voices do not have of each of some orders, or would keep it from being spoken; null where there is nothing. */
export function problemsOf(orders: readonly SpeakOrder[], data: string): (Problem | null)[] {
  return orders.map(order => {
    try {
      const { problems } = translateOrder(order, data)
      return problems.length === 0 ? null : { code: problems[0]!.code, message: [...new Set(problems.map(({ message }) => message))].join(' ') }
    } catch (error) {
      if (error instanceof ProblemError) return error.problem
      throw error
    }
  })
}

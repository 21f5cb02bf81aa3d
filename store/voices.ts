import { addTo } from '#core/tally'
import type { Voice, VoiceList } from '#voices/port'
import { EngineVoicesRow } from './models'

/** Keeps which voices the engines have, for whoever asks without an engine at hand. */
export async function sayVoices({ voices, variants }: VoiceList): Promise<void> {
  const byEngine = new Map<string, Voice[]>()
  for (const voice of voices) addTo(byEngine, voice.engine, voice)
  for (const [engine, own] of byEngine) await EngineVoicesRow.upsert({ engine, voices: own, variants: variants.filter(variant => variant.engine === engine) })
}

/** The voices that engines have said last. */
export async function saidVoices(): Promise<VoiceList> {
  const rows = await EngineVoicesRow.findAll({ order: [['engine', 'ASC']] })
  return { voices: rows.flatMap(row => row.voices), variants: rows.flatMap(row => row.variants) }
}

import type { EngineId } from '#core/score/cast'
import { voicesFor } from '#voices/voices-for'
import { fail } from '#core/problem'
import { openVoices } from './environment'
import { printJson, printTable } from './print'

export async function listVoices(flags: { readonly lang?: string, readonly engine?: EngineId, readonly variants?: boolean, readonly json?: boolean }): Promise<void> {
  const engines = openVoices(1)
  try {
    const { voices, variants } = await engines.list()
    const isAsked = ({ engine }: { readonly engine: EngineId }): boolean => flags.engine === undefined || engine === flags.engine
    const ofEngine = voices.filter(isAsked)
    const listed = flags.lang === undefined ? ofEngine : voicesFor(ofEngine, flags.lang)
    if (listed.length === 0) fail('voice-none', `${flags.engine === undefined ? 'No voice' : `No voice of the engine ${flags.engine}`}${flags.lang === undefined ? ' can be loaded. Run quill doctor' : ` speaks “${flags.lang}”. Run quill voices for the whole list`}.`)
    if (flags.variants === true) {
      if (flags.json === true) printJson({ variants })
      else printTable(['Variant', 'Name', 'Gender'], variants.filter(isAsked).map(variant => [variant.id, variant.name, variant.gender]))
    } else if (flags.json === true) {
      printJson({ voices: listed })
    } else {
      printTable(['Voice', 'Name', 'Language', 'Gender', 'Engine', 'Note'], listed.map(voice => [voice.id, voice.name, voice.language, voice.gender, voice.engine, voice.warning ?? '']))
    }
  } finally {
    await engines.close()
  }
}

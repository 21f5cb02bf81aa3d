import { voicesFor } from '#voices/voices-for'
import { fail } from '#core/problem'
import { openVoices } from './environment'
import { printJson, printTable } from './print'

export async function listVoices(flags: { lang?: string, variants?: boolean, json?: boolean }): Promise<void> {
  const engines = openVoices(1)
  try {
    const { voices, variants } = await engines.list()
    const listed = flags.lang === undefined ? voices : voicesFor(voices, flags.lang)
    if (listed.length === 0) fail('voice-none', `No voice speaks “${flags.lang}”. Run quill voices for the whole list.`)
    if (flags.variants === true) {
      if (flags.json === true) printJson({ variants })
      else printTable(['Variant', 'Name', 'Gender'], variants.map(variant => [variant.id, variant.name, variant.gender]))
    } else if (flags.json === true) {
      printJson({ voices: listed })
    } else {
      printTable(['Voice', 'Name', 'Language', 'Gender'], listed.map(voice => [voice.id, voice.name, voice.language, voice.gender]))
    }
  } finally {
    await engines.close()
  }
}

import type { SoundSettings } from '#core/delivery/formats'
import { aac } from './aac'
import { flac } from './flac'
import type { FileFormat } from './format'
import { mp3 } from './mp3'
import { opus } from './opus'
import { pcm } from './pcm'

/** How files with these settings are made. */
export function fileFormat(settings: SoundSettings): FileFormat {
  switch (settings.format) {
    case 'mp3': return mp3(settings)
    case 'm4b': return aac(settings)
    case 'opus': return opus(settings)
    case 'flac': return flac(settings)
    case 'wav':
    case 'mulaw': return pcm(settings)
  }
}

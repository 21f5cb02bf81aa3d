import { onScopeDispose, ref } from 'vue'
import type { HearRequest, SampleRequest } from '#shared/schemas'
import { askBytes } from '~/utils/api'
import { decodeWav } from '~/utils/wav'

/** Plays one piece of sound that is made for the purpose; a new one ends the one before. */
export function useSample() {
  const playing = ref<string | null>(null)
  let context: AudioContext | null = null
  let source: AudioBufferSourceNode | null = null

  /** A sentence in a voice. `name` says which of several samples plays. */
  const hear = (name: string, request: SampleRequest): Promise<void> => play(name, '/api/samples', request)

  /** Passages as they would sound in an edition. */
  const hearPassages = (editionId: string, request: HearRequest): Promise<void> => play('passages', `/api/editions/${editionId}/hear`, request)

  /** A sound of the library. */
  const hearSound = (editionId: string, id: string): Promise<void> => play(id, `/api/editions/${editionId}/sounds/${id}`)

  async function play(name: string, address: string, request?: object): Promise<void> {
    stop()
    context ??= new AudioContext()
    await context.resume()
    playing.value = name
    const bytes = await askBytes(address, request === undefined ? {} : {
      method: 'POST', body: JSON.stringify(request), headers: { 'content-type': 'application/json' },
    }).catch((error: unknown) => {
      playing.value = null
      throw error
    })
    if (playing.value !== name) return
    source = context.createBufferSource()
    source.buffer = decodeWav(context, bytes)
    source.connect(context.destination)
    source.addEventListener('ended', () => { if (playing.value === name) playing.value = null })
    source.start()
  }

  function stop(): void {
    source?.stop()
    source = null
    playing.value = null
  }

  onScopeDispose(() => {
    stop()
    void context?.close()
  })
  return { playing, hear, hearPassages, hearSound, stop }
}

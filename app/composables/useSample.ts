import { onScopeDispose, ref } from 'vue'
import type { SampleRequest } from '#shared/schemas'
import { askBytes } from '~/utils/api'
import { decodeWav } from '~/utils/wav'

/** Plays one sentence in a voice; a new one ends the one before. */
export function useSample() {
  const playing = ref<string | null>(null)
  let context: AudioContext | null = null
  let source: AudioBufferSourceNode | null = null

  /** `name` says which of several samples plays. */
  async function hear(name: string, request: SampleRequest): Promise<void> {
    stop()
    context ??= new AudioContext()
    await context.resume()
    playing.value = name
    const bytes = await askBytes('/api/samples', {
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
  return { playing, hear, stop }
}

<script setup lang="ts">
import { useDropZone, useFileDialog } from '@vueuse/core'
import type { ManuscriptView } from '#shared/api'
import { messageOf, OfflineError, sendFile } from '~/utils/api'
import { count } from '~/utils/format'
import { readableEndings } from '~/utils/words'

// Where documents come in: dropped anywhere on the page, or chosen; several as one batch. Leads to the intake page.

/** How long a server that is away is waited for, and between two attempts. */
const patienceMs = 75_000
const retryMs = 1000

const props = defineProps<{ large?: boolean, label?: string, leadsTo?: (id: string) => string }>()

const busy = ref<string | null>(null)
const waiting = ref(false)
const problem = ref<string | null>(null)
const whole = ref<HTMLElement | null>(null)
onMounted(() => { whole.value = document.body })

const { isOverDropZone } = useDropZone(whole, { onDrop: files => void take(files), multiple: true })
const { open, onChange } = useFileDialog({ accept: readableEndings, multiple: true, reset: true })
onChange(files => void take(files === null ? null : [...files]))

/** A document that ships with the product, brought in like any other. */
async function takeSample(name: string): Promise<void> {
  const answer = await fetch(`/demo/${name}`)
  await take([new File([await answer.blob()], name)])
}
defineExpose({ takeSample, choose: open })

/** Several files as one: a ZIP that packs nothing. */
async function together(files: readonly File[]): Promise<File> {
  const { zipSync } = await import('fflate')
  const entries: Record<string, [Uint8Array, { level: 0 }]> = {}
  for (const [index, file] of files.entries()) {
    const name = file.name in entries ? `${index + 1} ${file.name}` : file.name
    entries[name] = [new Uint8Array(await file.arrayBuffer()), { level: 0 }]
  }
  return new File([zipSync(entries) as Uint8Array<ArrayBuffer>], `${count(files.length, 'document')}.zip`)
}

async function take(files: readonly File[] | null): Promise<void> {
  const [first] = files ?? []
  if (first === undefined || busy.value !== null) return
  problem.value = null
  busy.value = files!.length === 1 ? first.name : count(files!.length, 'document')
  try {
    const file = files!.length === 1 ? first : await together(files!)
    const { id } = await send(file)
    await navigateTo(props.leadsTo?.(id) ?? `/intake/${id}`)
  } catch (error) {
    problem.value = messageOf(error)
  } finally {
    busy.value = null
    waiting.value = false
  }
}

/** Sends a file; while the server is away, again and again for a while. */
async function send(file: File): Promise<ManuscriptView> {
  for (const began = Date.now(); ;) {
    try {
      return await sendFile<ManuscriptView>(`/api/manuscripts?name=${encodeURIComponent(file.name)}`, file)
    } catch (error) {
      if (!(error instanceof OfflineError) || Date.now() - began > patienceMs) throw error
      waiting.value = true
      await new Promise(resolve => setTimeout(resolve, retryMs))
    }
  }
}
</script>

<template>
  <section class="zone" :class="{ over: isOverDropZone, large }" aria-label="Bring in a document">
    <slot />
    <p>
      <template v-if="waiting">The server does not answer. {{ busy }} is sent again as soon as it does …</template>
      <template v-else-if="busy !== null">Taking in {{ busy }} …</template>
      <slot v-else name="text" />
    </p>
    <v-btn color="primary" variant="flat" :loading="busy !== null" @click="open()">{{ label ?? 'Bring in a document' }}</v-btn>
    <p v-if="problem !== null" class="problem" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.zone { display: flex; align-items: center; gap: 6px 18px; padding: 18px 20px; border: 1.5px dashed var(--quiet); flex-wrap: wrap; }
.zone.large { flex-direction: column; padding: 64px 20px; text-align: center; }
.zone.over { border-color: var(--verdigris); background: var(--lit); }
.zone > p { margin: 0; flex: 1 1 260px; }
.zone.large > p { flex: none; margin: 6px 0; }
.zone > .problem { flex-basis: 100%; color: var(--vermilion); font-weight: 600; }
</style>

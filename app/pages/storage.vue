<script setup lang="ts">
import type { StorageKind, StorageKindId, StorageView } from '#shared/api'
import { keptChoices } from '#shared/schemas'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { count, size } from '~/utils/format'

// What uses the storage, and what of it can be freed after it was looked at.

useHead({ title: 'Storage – Orator Quill' })
const notices = useNotices()
const view = ref<StorageView | null>(null)
const going = ref<StorageKind | null>(null)
const freeable = computed(() => going.value?.freeable ?? null)
const freed = ref<string | null>(null)

const kinds: Readonly<Record<StorageKindId, { name: string, what: string, free: (number: number) => string, after: string }>> = {
  takes: {
    name: 'Takes', what: 'the audio of every sentence that was read', free: number => count(number, 'take that no script needs now', 'takes that no script needs now'),
    after: 'Should a script come back to these words in this voice, they are read again.',
  },
  deliveries: {
    name: 'Deliveries', what: 'finished files', free: number => count(number, 'earlier delivery', 'earlier deliveries'),
    after: 'The newest finished deliveries of each production to each profile stay.',
  },
  pieces: {
    name: 'Encoded pieces', what: 'what files are put together from, kept until no delivery has used it for 30 days', free: number => count(number, 'piece'),
    after: 'The next delivery encodes again what it needs.',
  },
  documents: {
    name: 'Documents', what: 'the files that came in', free: number => count(number, 'document that was never accepted', 'documents that were never accepted'),
    after: 'The documents of the productions on the shelf stay.',
  },
  database: { name: 'Database', what: 'scripts, edits, and what there is to know of the audio', free: String, after: '' },
}
const total = computed(() => view.value?.kinds.reduce((sum, kind) => sum + kind.bytes, 0) ?? 0)

/** How many of the newest deliveries of a production stay. */
const kept = ref<typeof keptChoices[number]>(1)
const keptItems = keptChoices.map(number => ({ value: number, title: `all but the newest${number === 1 ? '' : ` ${number}`}` }))

async function load(): Promise<void> {
  view.value = await notices.attempt(() => ask<StorageView>(`/api/storage?kept=${kept.value}`)) ?? view.value
}
watch(kept, () => void load(), { immediate: true })

async function free(): Promise<void> {
  const kind = going.value
  going.value = null
  if (kind === null) return
  const done = await notices.attempt(() => ask<{ freedBytes: number }>('/api/storage/free', 'POST', { kind: kind.id, ...(kind.id === 'deliveries' ? { kept: kept.value } : {}) }))
  if (done !== null) {
    const later = kind.freeable!.bytes - done.freedBytes
    freed.value = `${size(done.freedBytes)} freed.${later > 1_000_000 ? ` About ${size(later)} follow within an hour: they lie among audio that was written just now.` : ''}`
  }
  await load()
}
</script>

<template>
  <AppMasthead />
  <main class="narrow">
    <div class="head">
      <h1>Storage</h1>
      <p v-if="view !== null">{{ size(total) }} used<template v-if="view.freeBytes !== null"> · {{ size(view.freeBytes) }} free on this disk</template></p>
    </div>
    <p v-if="view === null" class="quiet" role="status">Looking through everything that is kept …</p>
    <p role="status" class="done-text">{{ freed }}</p>

    <table v-if="view !== null" class="plain rows">
      <thead><tr><th scope="col">What</th><th scope="col" class="number">Used</th><th scope="col">Can go</th><th scope="col"><span class="sr-only">Action</span></th></tr></thead>
      <tbody>
        <tr v-for="kind in view.kinds" :key="kind.id">
          <td data-label="What"><span><b>{{ kinds[kind.id].name }}</b> <span class="quiet">{{ kinds[kind.id].what }}</span></span></td>
          <td data-label="Used" class="number">{{ size(kind.bytes) }}</td>
          <td data-label="Can go">
            {{ kind.problem !== null ? kind.problem.message : kind.freeable === null ? 'grows and shrinks with the rest' : kind.freeable.count === 0 ? 'nothing' : kinds[kind.id].free(kind.freeable.count) }}
            <v-select v-if="kind.id === 'deliveries'" v-model="kept" :items="keptItems" label="Of each production and profile" density="compact" hide-details class="rule" />
          </td>
          <td class="act"><v-btn v-if="kind.freeable !== null && kind.freeable.count > 0" size="small" @click="going = kind">Free {{ size(kind.freeable.bytes) }} …</v-btn></td>
        </tr>
      </tbody>
    </table>

    <ConfirmDialog :title="freeable === null ? null : `Free ${size(freeable.bytes)}?`" :act="`Free ${size(freeable?.bytes ?? 0)}`" keep="Keep all" @act="free" @close="going = null">
      <p>{{ kinds[going!.id].free(freeable!.count) }} {{ freeable!.count === 1 ? 'goes' : 'go' }}. {{ kinds[going!.id].after }} This cannot be undone.</p>
      <ul v-if="freeable!.items.length > 0">
        <li v-for="item in freeable!.items" :key="item">{{ item }}</li>
        <li v-if="freeable!.count > freeable!.items.length">and {{ freeable!.count - freeable!.items.length }} more</li>
      </ul>
    </ConfirmDialog>
  </main>
</template>

<style scoped>
.act { text-align: right; }
.rule { max-width: 320px; margin-top: 8px; }
ul { margin: 10px 0 0; padding-left: 20px; }
</style>

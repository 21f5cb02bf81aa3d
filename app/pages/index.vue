<script setup lang="ts">
import { mdiFileDocumentPlusOutline } from '@mdi/js'
import { useIntervalFn } from '@vueuse/core'
import type { RemovedEdition, ShelfEntry } from '#shared/api'
import DropZone from '~/components/DropZone.vue'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { count, dayAndTime, languageName, spokenLength } from '~/utils/format'

// The shelf: every production, and the way in for a new document.

useHead({ title: 'Shelf – Orator Quill' })
const notices = useNotices()
const entries = ref<ShelfEntry[] | null>(null)
const removing = ref<ShelfEntry | null>(null)
const zone = ref<InstanceType<typeof DropZone> | null>(null)
const { isAway } = useFirstSteps()
useCommands('shelf', { bringIn: () => zone.value?.choose() })
const removed = ref<RemovedEdition[]>([])
const dropping = ref<RemovedEdition | null>(null)

async function load(): Promise<void> {
  entries.value = await notices.attempt(() => ask<ShelfEntry[]>('/api/editions')) ?? entries.value
}
async function loadRemoved(): Promise<void> {
  removed.value = await notices.attempt(() => ask<RemovedEdition[]>('/api/removed')) ?? removed.value
}
/** While one of them is put together, its parts change without anybody's doing. */
const pendingMs = 1000
useIntervalFn(() => { if (entries.value?.some(entry => entry.pending) === true) void load() }, pendingMs)
void load()
void loadRemoved()

function summary(entry: ShelfEntry): string {
  if (entry.pending && entry.parts.length === 0) return languageName(entry.language)
  const parts = entry.parts.filter(part => part.included)
  const ms = parts.reduce((sum, part) => sum + part.durationMs, 0)
  const exact = parts.every(part => part.exact)
  return `${count(parts.length, 'part')} · ${exact ? '' : 'about '}${spokenLength(ms)} · ${languageName(entry.language)}`
}

function todo(entry: ShelfEntry): string {
  if (entry.pending) return entry.parts.length === 0 ? 'being put together' : 'changes are being put together'
  const parts = entry.parts.filter(part => part.included)
  const missing = parts.reduce((sum, part) => sum + part.missing, 0)
  if (missing > 0) return `${count(missing, 'sentence')} to read`
  return entry.deliveries === 0 ? 'all read, not delivered' : `${count(entry.deliveries, 'delivery', 'deliveries')}`
}

async function remove(): Promise<void> {
  const entry = removing.value
  removing.value = null
  if (entry !== null) await notices.attempt(() => ask(entry.editions > 1 ? `/api/editions/${entry.editionId}` : `/api/productions/${entry.productionId}`, 'DELETE'))
  await Promise.all([load(), loadRemoved()])
}

async function putBack({ id }: RemovedEdition): Promise<void> {
  await notices.attempt(() => ask(`/api/removed/${id}/back`, 'POST'))
  await Promise.all([load(), loadRemoved()])
}

async function drop(): Promise<void> {
  const { id } = dropping.value!
  dropping.value = null
  await notices.attempt(() => ask(`/api/removed/${id}`, 'DELETE'))
  await loadRemoved()
}
</script>

<template>
  <AppMasthead />
  <main class="narrow">
    <div class="head">
      <h1>Shelf</h1>
      <p v-if="entries !== null && entries.length > 0" class="quiet">{{ count(entries.length, 'production') }}, the one changed last first</p>
    </div>

    <!-- Takes what is dropped at once, but is seen only when its size is known. It stands before the list, which can be long. -->
    <DropZone v-show="entries !== null" ref="zone" class="way-in" :large="entries?.length === 0">
      <v-icon :icon="mdiFileDocumentPlusOutline" size="30" class="drop-icon" />
      <template #text>
        <b>{{ entries?.length === 0 ? 'Nothing on the shelf yet.' : 'A new production' }}</b><br>
        Drop it here: a document (DOCX, ODT, PDF, EPUB, HTML, Markdown, text, SSML), a deck (PPTX), or a batch of articles (CSV, feed, ZIP, several files).
      </template>
    </DropZone>

    <FirstSteps v-if="entries !== null && !isAway" :production="entries[0] === undefined ? null : `/productions/${entries[0].productionId}`" @sample="name => zone?.takeSample(name)" />

    <ul v-if="entries !== null && entries.length > 0">
      <li v-for="entry in entries" :key="entry.editionId">
        <div v-if="entry.problem !== null" class="production broken">
          <h2>{{ entry.title }}</h2>
          <p class="fault-text" role="alert">Broken: {{ entry.problem.message }}</p>
        </div>
        <NuxtLink v-else :to="`/productions/${entry.productionId}/script${entry.editions > 1 ? `?edition=${entry.editionId}` : ''}`" class="production">
          <h2>{{ entry.title }}</h2>
          <p>{{ summary(entry) }}</p>
          <div class="strip" aria-hidden="true">
            <SpineBar
              v-for="part in entry.parts.filter(each => each.included)" :key="part.id" :style="{ flexGrow: part.durationMs }"
              :ms="1" :longest-ms="Number.MAX_SAFE_INTEGER" :state="part.state" :share="1 - part.missing / Math.max(1, part.utterances)" included
            />
          </div>
          <p class="foot"><span :class="entry.pending ? 'quiet' : todo(entry).includes('to read') ? 'stale-text' : 'done-text'">{{ todo(entry) }}</span> <span class="quiet">· changed {{ dayAndTime(entry.changedAt) }}</span></p>
        </NuxtLink>
        <v-btn class="remove" variant="text" size="small" :aria-label="`Remove ${entry.title}`" @click="removing = entry">Remove</v-btn>
      </li>
    </ul>

    <section v-if="removed.length > 0" aria-labelledby="removed-head">
      <h2 id="removed-head">Removed</h2>
      <ul class="removed">
        <li v-for="edition in removed" :key="edition.id">
          <span><b>{{ edition.title }}</b> <span class="quiet">· {{ languageName(edition.language) }} · goes for good {{ dayAndTime(edition.keptUntil) }}</span></span>
          <v-btn size="small" :aria-label="`Put back ${edition.title}`" @click="putBack(edition)">Put back</v-btn>
          <v-btn size="small" variant="text" :aria-label="`Remove for good: ${edition.title}`" @click="dropping = edition">Remove for good</v-btn>
        </li>
      </ul>
    </section>

    <p class="house"><NuxtLink to="/settings">Settings</NuxtLink> · <NuxtLink to="/storage">Storage</NuxtLink> · <NuxtLink to="/health">Health</NuxtLink><template v-if="isAway"> · <button type="button" class="plain-link" @click="isAway = false">First steps</button></template></p>

    <ConfirmDialog :title="removing === null ? null : `Remove ${removing.title}?`" :act="(removing?.editions ?? 1) > 1 ? 'Remove edition' : 'Remove production'" @act="remove" @close="removing = null">
      <template v-if="removing!.editions > 1">Only the edition in {{ languageName(removing!.language) }}; the production and its other editions stay. </template>Its script, its readings{{ removing!.deliveries === 0 ? '' : ` and ${count(removing!.deliveries, 'delivery', 'deliveries')}` }} are taken off the shelf. For 30 days it can be put back there.
    </ConfirmDialog>

    <ConfirmDialog :title="dropping === null ? null : `Remove ${dropping.title} for good?`" act="Remove for good" @act="drop" @close="dropping = null">
      Its script, readings and deliveries go now. This cannot be undone.
    </ConfirmDialog>
  </main>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 0 0 26px; }
.way-in { margin-bottom: 22px; }
li { position: relative; }
.production { display: block; padding: 16px 20px 13px; background: var(--sheet); border: 1px solid var(--line); margin-bottom: -1px; color: var(--ink); text-decoration: none; }
a.production:hover { border-color: var(--gall); position: relative; }
.production h2 { margin: 0; padding-right: 90px; }
.production p { margin: 2px 0 0; }
.strip { display: flex; gap: 3px; min-height: 8px; margin: 10px 0 8px; overflow: hidden; }
.foot { font-size: 14px; }
.remove { position: absolute; right: 10px; top: 12px; color: var(--quiet); }
.removed li { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; padding: 6px 20px; border: 1px solid var(--line); margin-bottom: -1px; font-size: 14.5px; }
.removed li > span { flex: 1 1 240px; }
.house { margin: 22px 0 0; font-size: 14px; color: var(--quiet); }
.drop-icon { color: var(--verdigris); }
</style>

<script setup lang="ts">
import { clock } from '#core/estimate/clock'
import { decibels } from '#core/mastering/decibels'
import type { DeliveryChangesView, DeliveryReportView } from '#shared/delivery'
import type { FileChange } from '#core/delivery/compare'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { changesText } from '~/utils/changed-files'
import { count, dayAndTime } from '~/utils/format'

// What a delivery has otherwise than an earlier one: files, and the sentences in them.

const { deliveryId, earlier } = defineProps<{
  readonly deliveryId: string, readonly earlier: DeliveryReportView['earlier']
  /** Its files can be had. */
  readonly downloads: boolean
}>()
const notices = useNotices()
const since = ref(earlier[0]!.id)
const changes = ref<DeliveryChangesView | null>(null)

watch(since, async id => {
  changes.value = null
  const loaded = await notices.attempt(() => ask<DeliveryChangesView>(`/api/deliveries/${deliveryId}/changes?since=${id}`))
  if (since.value === id) changes.value = loaded
}, { immediate: true })

const items = computed(() => earlier.map(({ id, number, profile, createdAt }) => ({ value: id, title: `Delivery ${number}, ${profile}, ${dayAndTime(createdAt)}` })))
const names = { new: 'New', changed: 'Changed', renamed: 'Renamed', gone: 'Gone' } as const

/** What has changed where no sentence has. */
function otherwise(change: FileChange): string {
  const { kind, louderDb, nameBefore } = change
  if (kind === 'new') return 'was not there before'
  if (kind === 'gone') return 'is not there any more'
  if (kind === 'renamed') return `was ${nameBefore}`
  if (longer(change) !== '') return 'The same sentences; what is between them has changed: rests or sounds.'
  if (louderDb === null || Math.abs(louderDb) < 0.05) return 'The same sentences, as long as before: tags, cover, format, or how they are said.'
  return `The same sentences, ${decibels(Math.abs(louderDb))} dB ${louderDb > 0 ? 'louder' : 'softer'}.`
}

/** How much longer or shorter a file is, where that can be heard. */
function longer({ longerMs }: FileChange): string {
  const tenths = Math.round(longerMs / 100)
  return tenths === 0 ? '' : `${tenths > 0 ? '+' : '−'}${(Math.abs(tenths) / 10).toFixed(1)} s`
}
</script>

<template>
  <section aria-labelledby="changes-head">
    <div class="head">
      <h2 id="changes-head">Compared with</h2>
      <v-select v-model="since" :items="items" label="An earlier delivery" density="compact" hide-details class="since" />
    </div>
    <p v-if="changes === null" class="quiet" role="status">Compares …</p>
    <template v-else>
      <p class="figures"><span>{{ changesText(changes) }}</span> <ChangedFiles v-if="downloads" :delivery-id="deliveryId" :since-id="since" :changes="changes" /></p>
      <table v-if="changes.files.length > 0" class="plain rows">
        <thead><tr><th scope="col">What</th><th scope="col">File</th><th scope="col" class="number">Minutes</th><th scope="col" class="number">Longer by</th><th scope="col">Sentences</th></tr></thead>
        <tbody>
          <tr v-for="file in changes.files" :key="file.kind + file.name">
            <td data-label="What">{{ names[file.kind] }}</td>
            <td data-label="File"><span class="mono">{{ file.name }}</span><template v-if="file.kind === 'changed' && file.nameBefore !== null"> <span class="quiet">was {{ file.nameBefore }}</span></template></td>
            <td class="number" data-label="Minutes">{{ clock(file.durationMs) }}</td>
            <td class="number" data-label="Longer by">{{ longer(file) }}</td>
            <td data-label="Sentences">
              <span v-if="file.sentenceCount === 0" class="quiet">{{ otherwise(file) }}</span>
              <ul v-else>
                <li v-for="(sentence, index) in file.sentences" :key="index">
                  <span v-if="sentence.atMs !== null" class="quiet">{{ clock(sentence.atMs) }}</span>{{ ' ' }}
                  <template v-if="sentence.before === sentence.after">{{ sentence.after }} <span class="quiet">read otherwise</span></template>
                  <template v-else><del v-if="sentence.before !== null">{{ sentence.before }}</del>{{ ' ' }}<ins v-if="sentence.after !== null">{{ sentence.after }}</ins></template>
                </li>
                <li v-if="file.sentenceCount > file.sentences.length" class="quiet">and {{ count(file.sentenceCount - file.sentences.length, 'sentence') }} more</li>
              </ul>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.head { display: flex; align-items: center; gap: 14px; margin: 30px 0 8px; flex-wrap: wrap; }
.head h2 { margin: 0; }
.figures { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 14px; }
.since { max-width: 280px; }
ul { list-style: none; margin: 0; padding: 0; }
li { margin-bottom: 3px; }
del { background: var(--stale-wash); }
ins { background: var(--lit); text-underline-offset: 3px; }
</style>

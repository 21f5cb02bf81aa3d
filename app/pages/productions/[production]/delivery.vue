<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { extras } from '#core/delivery/lists'
import { isFailing } from '#core/delivery/verdict'
import { clock } from '#core/estimate/clock'
import { decibels } from '#core/mastering/decibels'
import type { DeliveryDesk, DeliveryFileView, DeliveryView } from '#shared/delivery'
import type { DeliveryRequest, FileMarksRequest, FileSplitRequest } from '#shared/schemas'
import { ask, sendFile } from '~/utils/api'
import { count, dayAndTime, margins, size } from '~/utils/format'

// The run sheet, and the deliveries made from it.

const { desk, notices, id, page, ready: opened } = useDeskPage('Delivery')
const firstSteps = useFirstSteps()
const sheet = ref<DeliveryDesk | null>(null)
const tableAddress = `/api/editions/${id}/run-sheet/table`

async function load(): Promise<void> {
  const loaded = await notices.attempt(() => ask<DeliveryDesk>(`/api/editions/${id}/run-sheet`))
  if (loaded !== null) sheet.value = loaded
}
watch(() => [desk.deliveryTick, desk.scoreTick], () => void load(), { immediate: true })

const rows = computed(() => sheet.value?.rows ?? [])
const missing = computed(() => waiting.value.reduce((sum, row) => sum + row.missing, 0))
const totalMs = computed(() => rows.value.reduce((sum, row) => sum + row.durationMs, 0))
const totalBytes = computed(() => rows.value.reduce((sum, row) => sum + row.bytes, 0))
const changed = computed(() => rows.value.filter(row => row.state !== 'delivered').length)
const kinds = computed(() => new Set(desk.included.map(part => part.kind)))
const running = computed(() => sheet.value?.deliveries.filter(delivery => delivery.state === 'running') ?? [])
const beside = computed(() => sheet.value?.extras.filter(extra => extra !== 'cover' || sheet.value?.cover !== null) ?? [])
const locked = computed(() => running.value.length > 0)

/** Other profiles that files are made to in the same order. */
const also = ref<readonly string[]>([])

/** Files that are to be made, by their keys. */
const { chosen, choose } = useChosen()
watch(rows, now => { chosen.value = new Set(now.map(row => row.key).filter(key => chosen.value.has(key))) })
const wanted = computed(() => chosen.value.size === 0 ? rows.value : rows.value.filter(row => chosen.value.has(row.key)))
const waiting = computed(() => wanted.value.filter(row => row.missing > 0))
const ready = computed(() => wanted.value.filter(row => row.missing === 0))

/** What the one button makes: what is wanted, or of it what is ready. Files that are chosen one by one are made to one profile. */
const action = computed<{ text: string, request: DeliveryRequest }>(() => {
  const { text, request } = ownAction.value
  return also.value.length === 0 || chosen.value.size > 0 ? { text, request } : { text: `${text} · for ${also.value.length + 1} profiles`, request: { ...request, also: also.value } }
})

const ownAction = computed<{ text: string, request: DeliveryRequest }>(() => {
  if (waiting.value.length > 0) return { text: `Make ${count(ready.value.length, 'file')} · all that ${ready.value.length === 1 ? 'is' : 'are'} ready`, request: chosen.value.size === 0 ? { ready: true } : { files: ready.value.map(row => row.key) } }
  if (chosen.value.size > 0) return { text: `Make ${count(wanted.value.length, 'chosen file')}`, request: { files: wanted.value.map(row => row.key) } }
  const files = count(rows.value.length, 'file')
  return { text: changed.value < rows.value.length ? `Make ${files} · ${changed.value} changed` : `Make ${files}`, request: {} }
})

/** The finished delivery before the newest: of the same profile, otherwise any. */
const before = computed(() => {
  const [newest, ...others] = sheet.value?.deliveries ?? []
  const done = others.filter(delivery => delivery.state === 'done')
  return done.find(delivery => delivery.profile === newest?.profile) ?? done[0]
})

/** Waiting files that are named one by one. */
const mostNamed = 3

function stateOfDelivery(delivery: DeliveryView): { text: string, look: string } {
  if (delivery.state === 'running') return { text: `making file ${Math.min(delivery.files.length + 1, delivery.fileCount)} of ${delivery.fileCount}`, look: '' }
  if (delivery.state === 'failed') return { text: delivery.problem?.message ?? 'failed', look: 'fault-text' }
  if (delivery.state === 'stopped') return { text: 'stopped', look: 'quiet' }
  const damaged = delivery.files.filter(file => file.damage !== null).length
  if (damaged > 0) return { text: `${count(damaged, 'file')} damaged on the disk: make the delivery again`, look: 'fault-text' }
  const stale = delivery.files.filter(file => file.stale).length
  return stale === 0 ? { text: 'as the script is now', look: 'done-text' } : { text: `stale · ${stale} of ${count(delivery.files.length, 'file')}`, look: 'stale-text' }
}

const failingIn = ({ state, files }: DeliveryView): number => state === 'running' ? 0 : files.filter(isFailing).length
const needsDecision = (delivery: DeliveryView): boolean => failingIn(delivery) > 0 && delivery.concession === null

async function stop(): Promise<void> {
  for (const { id: deliveryId } of running.value) await notices.attempt(() => ask(`/api/deliveries/${deliveryId}/stop`, 'POST'))
}

const packageOf = (delivery: DeliveryView): string => `/api/deliveries/${delivery.id}/package`
/** Does something with the newest delivery of which there are files to have. */
const withNewest = (act: (delivery: DeliveryView) => unknown) => () => {
  const newest = sheet.value?.deliveries.find(delivery => delivery.state === 'done')
  return newest === undefined ? notices.show('There is no finished delivery yet.') : act(newest)
}

useCommands('delivery', {
  makeFiles: () => !locked.value && ready.value.length > 0 ? notices.attempt(() => desk.deliver(action.value.request)) : notices.show(locked.value ? 'Files are being made already.' : 'No file is ready: read the script first.'),
  stopFiles: () => locked.value ? stop() : notices.show('No files are being made.'),
  downloadFiles: withNewest(delivery => {
    if (needsDecision(delivery)) return navigateTo(page(`report/${delivery.id}`))
    firstSteps.tick('downloaded')
    return navigateTo(packageOf(delivery), { external: true })
  }),
  openReport: withNewest(delivery => navigateTo(page(`report/${delivery.id}`))),
  downloadSheet: () => navigateTo(tableAddress, { external: true }),
})

/** The delivery that is to be removed, when that is confirmed. */
const going = shallowRef<DeliveryView | null>(null)

async function removeDelivery(): Promise<void> {
  const { id: deliveryId } = going.value!
  going.value = null
  await notices.attempt(() => ask(`/api/deliveries/${deliveryId}`, 'DELETE'))
}

function stateOfFile({ damage, stale }: DeliveryFileView): { text: string, look: string } {
  if (damage !== null) return { text: damage === 'missing' ? 'no longer on the disk' : 'changed on the disk', look: 'fault-text' }
  return stale ? { text: 'stale: changed since', look: 'stale-text' } : { text: 'current', look: 'quiet' }
}

function chooseProfile(profile: string): void {
  void notices.attempt(() => desk.edit({ profile }))
}

async function bringCover(file: File): Promise<void> {
  await notices.attempt(() => sendFile(`/api/editions/${id}/cover?name=${encodeURIComponent(file.name)}`, file))
}

/** Divides the script into files anew. Nothing else of the page changes. */
async function divide(path: 'split' | 'file-marks', method: 'PUT' | 'DELETE', body?: FileSplitRequest | FileMarksRequest): Promise<void> {
  // What is chosen next begins with it, also before the server has answered.
  if (sheet.value !== null && body !== undefined && 'split' in body && body.split !== null) sheet.value = { ...sheet.value, split: body.split }
  await notices.attempt(async () => {
    await ask(`/api/editions/${id}/${path}`, method, body)
    await load()
  })
}
</script>

<template>
  <AppMasthead />
  <main v-if="opened && desk.desk !== null && sheet !== null" class="delivery">
    <aside>
      <DeliveryProfiles v-model:also="also" :chosen="sheet.profile" :locked="locked" @choose="chooseProfile" @changed="load" />
      <RunSheetDivision
        :split="sheet.split" :is-own="sheet.isOwnSplit" :marks="sheet.marks" :levels="sheet.levels" :kinds="kinds" :locked="locked"
        @choose="divide('split', 'PUT', { split: $event })" @clear="divide('file-marks', 'DELETE')"
      />
      <DeliveryNames
        :pattern="sheet.namePattern" :rules="sheet.nameRules" :example="rows[0]?.name ?? ''" :is-own="sheet.areOwnNames" :locked="locked"
        @pattern="notices.attempt(() => desk.edit({ namePattern: $event }))" @rules="notices.attempt(() => desk.edit({ nameRules: $event }))"
        @drop="notices.attempt(() => desk.edit({ namePattern: null, nameRules: null }))"
      />
      <DeliveryAnnouncements :sheet="sheet" :locked="locked" @save="notices.attempt(() => ask(`/api/editions/${id}/announcements`, 'PUT', { announcements: $event }))" />
      <DeliveryTags
        :details="sheet.details" :cover="sheet.cover" :edition-id="id" :locked="locked"
        @save="notices.attempt(() => desk.edit({ details: $event }))" @bring="bringCover" @remove="notices.attempt(() => ask(`/api/editions/${id}/cover`, 'DELETE'))"
      />
      <p class="label">With</p>
      <p>{{ [...beside.map(extra => extras[extra]), 'checksums'].join(', ') }}, and <span class="mono">manifest.json</span> with the time of every sentence, all in one ZIP</p>
    </aside>

    <section class="sheet">
      <div class="head">
        <h1>Run sheet</h1>
        <p><span class="quiet">the files that will be made:</span> {{ count(rows.length, 'file') }} · {{ clock(totalMs) }} minutes · {{ size(totalBytes) }} · <a :href="tableAddress" download>CSV</a></p>
        <v-btn v-if="!locked" color="primary" variant="flat" size="large" :disabled="ready.length === 0" class="make" @click="notices.attempt(() => desk.deliver(action.request))">{{ action.text }}</v-btn>
        <v-btn v-else @click="stop">Stop making files</v-btn>
      </div>
      <section v-if="waiting.length > 0" class="waiting" aria-label="Waiting files">
        <span class="stale-text">{{ count(waiting.length, 'file') }} {{ waiting.length === 1 ? 'waits' : 'wait' }} for {{ count(missing, 'sentence') }} to be read:</span>
        <template v-for="(row, index) in waiting.slice(0, mostNamed)" :key="row.key">{{ index === 0 ? ' ' : ', ' }}<NuxtLink :to="page('script', { part: row.partId })">{{ row.title }}</NuxtLink></template>
        <template v-if="waiting.length > mostNamed"> and {{ waiting.length - mostNamed }} more</template>.
        <NuxtLink :to="page('reading')">Read {{ waiting.length === 1 ? 'it' : 'them' }}</NuxtLink> on the Reading page.
      </section>
      <p v-if="rows.length > 1" class="quiet">{{ chosen.size === 0 ? 'To make some files only, choose them in the list.' : `${chosen.size} of ${count(rows.length, 'file')} chosen.` }} <button v-if="chosen.size > 0" type="button" class="plain-link" @click="chosen = new Set()">Choose none</button></p>
      <RunSheetTable :rows="rows" :edition-id="id" :chosen="chosen" :locked="locked" @choose="choose" @mark="divide('file-marks', 'PUT', { marks: $event })" />

      <h2>Deliveries</h2>
      <p v-if="sheet.deliveries.length === 0" class="quiet">None yet. Each one is kept; making files again never replaces an earlier delivery.</p>
      <details v-for="(delivery, index) in sheet.deliveries" :key="delivery.id" :open="index === 0">
        <summary>
          <b>Delivery {{ delivery.number }}</b><template v-if="delivery.partial"> of {{ count(delivery.fileCount, 'file') }}</template> · {{ delivery.profile }} <span class="quiet">{{ dayAndTime(delivery.createdAt) }}</span> · <span :class="stateOfDelivery(delivery).look">{{ stateOfDelivery(delivery).text }}</span>
          <template v-if="failingIn(delivery) > 0"> · <span class="fault-text">{{ count(failingIn(delivery), 'file fails', 'files fail') }}</span><template v-if="delivery.concession !== null">, delivered anyway</template></template>
          <v-progress-linear v-if="delivery.state === 'running'" :model-value="delivery.files.length / delivery.fileCount * 100" color="verdigris" height="6" aria-label="Files made" />
        </summary>
        <p v-if="delivery.state === 'done'" class="package">
          <v-btn v-if="needsDecision(delivery)" :to="page(`report/${delivery.id}`)" color="error">Decide about {{ count(failingIn(delivery), 'file that fails', 'files that fail') }}</v-btn>
          <v-btn v-else :prepend-icon="mdiDownload" :href="packageOf(delivery)" download @click="firstSteps.tick('downloaded')">Download {{ count(delivery.files.length, 'file') }} as ZIP ({{ size(delivery.files.reduce((sum, file) => sum + file.bytes, 0)) }})</v-btn>
          <NuxtLink :to="page(`report/${delivery.id}`)">Report{{ delivery.number > 1 ? ', and what has changed' : '' }}</NuxtLink>
          <button type="button" class="plain-link" @click="going = delivery">Remove …</button>
        </p>
        <DeliveryNews v-if="index === 0 && delivery.state === 'done' && before !== undefined" :delivery-id="delivery.id" :before="before" :downloads="!needsDecision(delivery)" />
        <table v-if="delivery.files.length > 0" class="plain rows">
          <thead><tr><th scope="col">File</th><th class="number" scope="col">Minutes</th><th class="number" scope="col">RMS dB</th><th class="number" scope="col">LUFS</th><th class="number" scope="col">Peak dB</th><th class="number" scope="col">Head / tail s</th><th class="number" scope="col">Size</th><th scope="col">State</th><th scope="col">Verdict</th></tr></thead>
          <tbody>
            <tr v-for="file in delivery.files" :key="file.number">
              <td class="mono" data-label="File"><a v-if="delivery.state === 'done'" :href="`/api/deliveries/${delivery.id}/files/${file.number}`" download>{{ file.name }}</a><template v-else>{{ file.name }}</template></td>
              <td class="number" data-label="Minutes">{{ clock(file.durationMs) }}</td>
              <td class="number" data-label="RMS dB">{{ decibels(file.levels?.rmsDb) }}</td>
              <td class="number" data-label="LUFS">{{ decibels(file.levels?.integratedDb) }}</td>
              <td class="number" data-label="Peak dB">{{ decibels(file.levels?.truePeakDb) }}</td>
              <td class="number" data-label="Head / tail s">{{ margins(file.levels) }}</td>
              <td class="number" data-label="Size">{{ size(file.bytes) }}</td>
              <td data-label="State" :class="stateOfFile(file).look">{{ stateOfFile(file).text }}</td>
              <td data-label="Verdict"><FileVerdict :findings="file.findings" /></td>
            </tr>
          </tbody>
        </table>
      </details>

      <ConfirmDialog :title="going === null ? null : `Remove delivery ${going.number}?`" :act="`Remove delivery ${going?.number}`" @act="removeDelivery" @close="going = null">
        Its {{ count(going!.files.length, 'file') }} and its report go. The script and what was read stay. This cannot be undone.
      </ConfirmDialog>
    </section>
  </main>
</template>

<style scoped>
.delivery { display: grid; grid-template-columns: 300px minmax(0, 1fr); min-height: calc(100vh - var(--masthead) - 1px); }
aside { padding: 24px 20px; border-right: 1px solid var(--line); }
aside p { margin: 0 0 14px; }
aside .label { margin: 0 0 2px; }
.head .v-btn { margin-left: auto; }
.make { height: auto !important; min-height: 40px; white-space: normal; padding-block: 6px; }
.waiting { margin: 0 0 10px; overflow-wrap: anywhere; }
.sheet { padding: 24px 26px 60px; background: var(--sheet); min-width: 0; }
.head { display: flex; align-items: baseline; gap: 18px; margin-bottom: 8px; flex-wrap: wrap; }
.head h1, .head p { margin: 0; }
td.mono { min-width: 230px; }
h2 { margin: 30px 0 8px; }
details { border-top: 1px solid var(--line); padding: 9px 0; }
summary { cursor: pointer; }
.package { display: flex; align-items: center; gap: 18px; flex-wrap: wrap; margin: 10px 0 6px; }
@media (max-width: 1000px) { .delivery { display: block; } aside { border-right: 0; } td.mono { min-width: 0; } }
</style>

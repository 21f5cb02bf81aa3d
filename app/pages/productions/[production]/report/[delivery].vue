<script setup lang="ts">
import { mdiDownload, mdiPrinterOutline } from '@mdi/js'
import type { Finding } from '#core/delivery/conformance'
import type { FileSplit } from '#core/delivery/file-split'
import { isFailing } from '#core/delivery/verdict'
import { clock } from '#core/estimate/clock'
import { decibels } from '#core/mastering/decibels'
import type { DeliveryDesk, DeliveryReportView } from '#shared/delivery'
import { ask } from '~/utils/api'
import { count, dayAndTime, margins, size } from '~/utils/format'

// The conformance report of a delivery: what was measured, what fails and what to do about it, and what is otherwise than before.

const { desk, notices, id, page, ready } = useDeskPage('Report')
const deliveryId = String(useRoute().params['delivery'])
const view = ref<DeliveryReportView | null>(null)
const reason = ref('')
const list = ref<HTMLElement | null>(null)

async function load(): Promise<void> {
  view.value = await notices.attempt(() => ask<DeliveryReportView>(`/api/deliveries/${deliveryId}/report`)) ?? view.value
}
watch(() => desk.deliveryTick, () => void load(), { immediate: true })

const report = computed(() => view.value?.report ?? null)
const files = computed(() => report.value?.files ?? [])
const failing = computed(() => files.value.filter(isFailing))
const totalMs = computed(() => files.value.reduce((sum, file) => sum + file.durationMs, 0))
const totalBytes = computed(() => files.value.reduce((sum, file) => sum + file.bytes, 0))
const isPartial = computed(() => files.value.length < (report.value?.delivery?.sheetCount ?? 0))
const address = (path: string): string => `/api/deliveries/${deliveryId}/${path}`

function held(file: (typeof files.value)[number]): string {
  const limited = file.levels?.limited
  return limited === undefined ? '' : limited.count === 0 ? '0' : `${limited.count} · ${decibels(limited.mostDb)}`
}

async function concede(): Promise<void> {
  await notices.attempt(() => ask(address('concession'), 'PUT', { reason: reason.value }))
  await load()
}

async function takeBack(): Promise<void> {
  reason.value = report.value?.concession?.reason ?? ''
  await notices.attempt(() => ask(address('concession'), 'DELETE'))
  await load()
}

/** What can be done about a fault here and now. */
function remedyOf({ code }: Finding): { text: string, act: () => Promise<unknown> } | null {
  const { longestMs = null, largestBytes = null } = report.value ?? {}
  if (code === 'too-long' && longestMs !== null) return { text: `Divide into files of at most ${clock(longestMs)}`, act: () => divideBy({ longestMs }) }
  if (code === 'too-large' && largestBytes !== null) return { text: `Divide into files of at most ${size(largestBytes)}`, act: () => divideBy({ largestBytes }) }
  return null
}

async function divideBy(limit: Partial<FileSplit>): Promise<void> {
  const { split } = await ask<DeliveryDesk>(`/api/editions/${id}/run-sheet`)
  await ask(`/api/editions/${id}/split`, 'PUT', { split: { ...split, ...limit } })
}

async function remedy(act: () => Promise<unknown>): Promise<void> {
  if (await notices.attempt(async () => act().then(() => true)) === true) await navigateTo(page('delivery'))
}

function show(place: number): void {
  const row = list.value?.querySelectorAll<HTMLElement>('tbody > tr')[place]
  row?.scrollIntoView({ block: 'center' })
  row?.focus()
}
</script>

<template>
  <AppMasthead />
  <main v-if="ready && desk.desk !== null && view !== null && report !== null && report.delivery !== null" class="report">
    <div class="head">
      <h1>Delivery {{ report.delivery.number }}</h1>
      <p>{{ isPartial ? `${files.length} of the ${report.delivery.sheetCount} files of the run sheet` : count(files.length, 'file') }} · {{ clock(totalMs) }} minutes · {{ size(totalBytes) }} · {{ dayAndTime(report.delivery.madeAt) }} · <NuxtLink :to="page('delivery')">back to the run sheet</NuxtLink></p>
    </div>

    <section class="verdict" aria-label="Verdict">
      <p v-if="failing.length === 0" class="done-text">{{ report.passes ? `${files.length === 1 ? 'The file passes' : `All ${files.length} files pass`} “${report.profile}”` : 'Made by an earlier version, and not measured' }}</p>
      <p v-else class="fault-text">{{ failing.length }} of {{ count(files.length, 'file') }} {{ failing.length === 1 ? 'does' : 'do' }} not pass “{{ report.profile }}”</p>
      <template v-if="failing.length > 0 && report.concession === null">
        <v-text-field v-model="reason" label="Why it is delivered anyway" maxlength="1000" density="compact" hide-details class="reason" @keydown.enter="reason.trim() === '' ? undefined : concede()" />
        <v-btn color="primary" variant="flat" :disabled="reason.trim() === ''" @click="concede">Deliver anyway</v-btn>
      </template>
      <template v-else>
        <p v-if="report.concession !== null">Delivered anyway, since {{ dayAndTime(report.concession.at) }}: “{{ report.concession.reason }}” <button type="button" class="plain-link" @click="takeBack">Take back</button></p>
        <v-btn color="primary" variant="flat" :prepend-icon="mdiDownload" :href="address('package')" download>Download {{ count(files.length, 'file') }} as ZIP ({{ size(totalBytes) }})</v-btn>
      </template>
    </section>

    <div class="overview">
      <section>
        <h2>“{{ report.profile }}” asks for</h2>
        <ul class="asks"><li v-for="line in report.asks" :key="line">{{ line }}</li></ul>
        <p>The report as <a :href="address('report/html')" download><v-icon :icon="mdiPrinterOutline" size="small" /> a page to print</a>, <a :href="address('report/csv')" download>CSV</a>, <a :href="address('report/json')" download>JSON</a></p>
      </section>
      <ReportChart :report="report" @choose="show" />
    </div>

    <h2>Files</h2>
    <div ref="list">
      <table class="plain rows">
        <thead><tr><th class="number" scope="col">No</th><th scope="col">File</th><th class="number" scope="col">Minutes</th><th class="number" scope="col">RMS dB</th><th class="number" scope="col">LUFS</th><th class="number" scope="col">Peak dB</th><th class="number" scope="col">Floor dB</th><th class="number" scope="col">Head / tail s</th><th class="number" scope="col">Peaks held · dB</th><th scope="col">Verdict</th></tr></thead>
        <tbody>
          <tr v-for="(file, index) in files" :key="file.name" tabindex="-1">
            <td class="number" data-label="No">{{ index + 1 }}</td>
            <td class="mono" data-label="File">{{ file.name }}</td>
            <td class="number" data-label="Minutes">{{ clock(file.durationMs) }}</td>
            <td class="number" data-label="RMS dB">{{ decibels(file.levels?.rmsDb) }}</td>
            <td class="number" data-label="LUFS">{{ decibels(file.levels?.integratedDb) }}</td>
            <td class="number" data-label="Peak dB">{{ decibels(file.levels?.truePeakDb) }}</td>
            <td class="number" data-label="Floor dB">{{ decibels(file.levels?.noiseFloorDb) }}</td>
            <td class="number" data-label="Head / tail s">{{ margins(file.levels) }}</td>
            <td class="number" data-label="Peaks held · dB">{{ held(file) }}</td>
            <td data-label="Verdict">
              <FileVerdict v-slot="{ finding }" :findings="file.findings" :part-of="view.partOf">
                <button v-if="remedyOf(finding) !== null" type="button" class="plain-link" @click="remedy(remedyOf(finding)!.act)">{{ remedyOf(finding)!.text }}</button>
              </FileVerdict>
            </td>
          </tr>
        </tbody>
      </table>
    </div>

    <DeliveryChanges v-if="view.earlier.length > 0" :key="deliveryId" :delivery-id="deliveryId" :earlier="view.earlier" :downloads="failing.length === 0 || report.concession !== null" />
  </main>
</template>

<style scoped>
.report { padding: 24px 26px 60px; background: var(--sheet); min-height: calc(100vh - var(--masthead) - 1px); }
.head { display: flex; align-items: baseline; gap: 18px; flex-wrap: wrap; }
.head h1, .head p { margin: 0; }
.verdict { display: flex; align-items: center; gap: 18px; flex-wrap: wrap; margin: 10px 0 18px; padding: 10px 0; border-block: 1px solid var(--line); }
.verdict p { margin: 0; }
.verdict > p:first-child { font-size: 18px; }
.reason { min-width: 260px; flex: 1; max-width: 520px; }
.overview { display: grid; grid-template-columns: 300px minmax(0, 1fr); gap: 26px; }
.overview h2 { margin: 0 0 6px; }
.asks { list-style: none; margin: 0 0 12px; padding: 0; line-height: 1.6; }
.mono { min-width: 250px; }
@media (max-width: 1000px) { .overview { grid-template-columns: minmax(0, 1fr); } .mono { min-width: 0; } }
</style>

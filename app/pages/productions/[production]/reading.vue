<script setup lang="ts">
import { clock } from '#core/estimate/clock'
import type { PartSummary, ReadingDesk, ToRead } from '#shared/api'
import { ask } from '~/utils/api'
import { count } from '~/utils/format'
import { stateNames } from '~/utils/words'

// What is to be read, how far a reading is, and what could not be read.

const { desk, notices, page, ready } = useDeskPage('Reading')
const reading = computed(() => desk.reading?.reading ?? null)
const percent = computed(() => reading.value === null ? 0 : reading.value.madeMs / Math.max(1, reading.value.totalMs) * 100)
// What was heard sentence by sentence is read as well.
const firstSteps = useFirstSteps()
watch(() => desk.reading !== null && desk.included.length > 0 && desk.missing === 0, isRead => { if (isRead) firstSteps.tick('read') }, { immediate: true })

/** Parts that are to be read. */
const { chosen, choose } = useChosen()
const wanted = computed(() => desk.included.filter(part => part.missing > 0 && (chosen.value.size === 0 || chosen.value.has(part.id))))

/** What would be read of the chosen parts, or of all. */
const ofChosen = shallowRef<ToRead | null>(null)
const toRead = computed(() => (chosen.value.size === 0 ? null : ofChosen.value) ?? desk.reading?.toRead ?? null)
watch([chosen, () => desk.reading], async () => {
  if (chosen.value.size === 0) return
  const parts = wanted.value.map(part => part.id)
  const answer = parts.length === 0 ? null : await notices.attempt(() => ask<ReadingDesk>(`/api/editions/${desk.editionId}/reading?parts=${parts.join(',')}`))
  ofChosen.value = answer?.toRead ?? null
})

/** What is not made of a part yet: as a reading makes it, otherwise as it was loaded. */
function leftOf({ id, missing }: PartSummary): number {
  const now = desk.running?.parts[id]
  return now === undefined ? missing : now.total - now.made
}

async function read(): Promise<void> {
  await notices.attempt(() => desk.read(chosen.value.size === 0 ? undefined : wanted.value.map(part => part.id)))
  chosen.value = new Set()
}

useCommands('reading', {
  readParts: () => desk.running === null && desk.missing > 0 ? read() : notices.show(desk.running === null ? 'Everything is read.' : 'A reading runs already.'),
  stopReading: () => desk.running === null ? notices.show('No reading runs.') : notices.attempt(desk.stopReading),
  retryFaults: () => desk.running === null && (desk.reading?.faults.length ?? 0) > 0 ? notices.attempt(() => desk.retry(null)) : notices.show('There is nothing to try again now.'),
})

const stopProblem = computed(() => reading.value?.state === 'stopped' ? reading.value.problem : null)
const ended = computed(() => {
  if (reading.value === null || reading.value.state === 'running') return null
  const { state, made, total, faults } = reading.value
  if (state === 'stopped') return `The last reading was stopped: ${made} of ${count(total, 'sentence')} made. What is made is kept.`
  return faults > 0 ? `The last reading made ${made} of ${count(total, 'sentence')}; ${faults} could not be read.` : `The last reading made ${count(made, 'sentence')}.`
})
</script>

<template>
  <AppMasthead />
  <main v-if="ready && desk.desk !== null" class="reading">
    <section class="now">
      <template v-if="desk.running !== null">
        <h1>Reading</h1>
        <v-progress-linear :model-value="percent" color="verdigris" height="10" aria-label="Progress of the reading" />
        <p class="figures" role="status">
          <b>{{ Math.floor(percent) }} %</b> · {{ desk.running.made }} of {{ count(desk.running.total, 'sentence') }}
          · {{ clock(desk.running.madeMs) }} of {{ clock(desk.running.totalMs) }} minutes
          <template v-if="desk.running.leftMs !== null"> · {{ clock(desk.running.leftMs) }} left</template>
        </p>
        <div class="act">
          <v-btn @click="notices.attempt(desk.stopReading)">Stop</v-btn>
          <p class="quiet">You may close this page; the reading goes on.</p>
        </div>
      </template>
      <template v-else-if="desk.missing > 0">
        <h1>{{ count(desk.missing, 'sentence') }} to read</h1>
        <p>
          Reading makes the audio of every sentence that has none; files are made of it afterwards. About {{ clock(toRead?.ms ?? 0) }} minutes of speech in {{ count(wanted.length, chosen.size > 0 ? 'chosen part' : 'part') }}, with the voices as set under Cast. The embedded engine costs nothing.
          <template v-if="toRead !== null && toRead.repeats > 0">{{ toRead.repeats === 1 ? 'One of them comes twice, and is' : `They come ${count(toRead.repeats, 'time')} more in the same words, and are` }} read once.</template>
        </p>
        <div class="act">
          <v-btn color="primary" variant="flat" size="large" @click="read">Read {{ count(toRead?.sentences ?? 0, 'sentence') }} ({{ clock(toRead?.ms ?? 0) }} minutes)</v-btn>
          <p v-if="desk.included.length > 1" class="quiet">To read some parts only, choose them below.</p>
          <p v-if="ended !== null" class="quiet">{{ ended }}</p>
        </div>
      </template>
      <template v-else>
        <h1>All read</h1>
        <p>{{ clock(desk.totalMs) }} minutes in {{ count(desk.included.length, 'part') }}. <NuxtLink :to="page('delivery')">Make the files</NuxtLink>, or listen on the <NuxtLink :to="page('script')">Script</NuxtLink> page.</p>
        <p v-if="ended !== null" class="quiet">{{ ended }}</p>
      </template>
    </section>

    <p v-if="stopProblem !== null" class="warning" role="alert"><b>The reading stopped.</b> {{ stopProblem.message }}</p>
    <p v-for="warning in desk.desk.warnings" :key="warning.code" class="warning"><b>{{ warning.place }}:</b> {{ warning.message }} <NuxtLink :to="page('cast')">Choose a voice</NuxtLink></p>
    <FaultList
      v-if="desk.reading !== null && desk.reading.faults.length > 0" :faults="desk.reading.faults"
      :busy="desk.running !== null" :complete="desk.reading.reading?.state === 'done'" @retry="(keys: readonly string[] | null) => notices.attempt(() => desk.retry(keys))"
    />

    <table class="plain rows">
      <thead><tr><th scope="col"><span class="sr-only">Chosen</span></th><th class="number" scope="col">No</th><th scope="col">Part</th><th scope="col" class="wide">Progress</th><th class="number" scope="col">Sentences</th><th class="number" scope="col">To read</th><th class="number" scope="col">Minutes</th><th scope="col">State</th></tr></thead>
      <tbody>
        <tr v-for="(part, index) in desk.included" :key="part.id">
          <td data-label="Read"><input v-if="part.missing > 0 && desk.running === null" type="checkbox" :checked="chosen.has(part.id)" :aria-label="`Read ${part.label} only`" @change="choose(part.id, ($event.target as HTMLInputElement).checked)"></td>
          <td class="number quiet" data-label="No">{{ index + 1 }}</td>
          <td data-label="Part"><NuxtLink :to="page('script', { part: part.id })">{{ part.label }}</NuxtLink></td>
          <td class="wide" data-label="Progress"><SpineBar :ms="1" :longest-ms="1" :state="part.state" :share="1 - leftOf(part) / Math.max(1, part.utterances)" included /></td>
          <td class="number" data-label="Sentences">{{ part.utterances }}</td>
          <td class="number" data-label="To read">{{ leftOf(part) === 0 ? '' : leftOf(part) }}</td>
          <td class="number" data-label="Minutes">{{ part.exact ? '' : '~ ' }}{{ clock(part.durationMs) }}</td>
          <td data-label="State" :class="{ 'stale-text': part.state === 'stale', 'done-text': part.state === 'read' }">{{ stateNames[part.state] }}</td>
        </tr>
      </tbody>
    </table>
  </main>
</template>

<style scoped>
.reading { max-width: 980px; width: 100%; margin: 0 auto; padding: 30px 24px 60px; }
.now { margin-bottom: 26px; min-height: 132px; }
.now h1 { margin: 0 0 10px; }
.now p { margin: 8px 0; }
.figures { font-variant-numeric: tabular-nums; }
.act { display: flex; align-items: center; gap: 18px; flex-wrap: wrap; }
.act p { margin: 0; }
.warning { margin: 0 0 22px; padding: 8px 14px; border-left: 3px solid var(--ochre); background: var(--stale-wash); }
.wide { width: 190px; }
input[type="checkbox"] { accent-color: var(--verdigris); width: 15px; height: 15px; vertical-align: -2px; }
</style>

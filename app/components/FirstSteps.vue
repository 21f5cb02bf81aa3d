<script setup lang="ts">
import { mdiCheckCircle, mdiCircleOutline } from '@mdi/js'
import { firstSteps, type FirstStep } from '~/composables/useFirstSteps'

// The way from a document to files, for whoever is here for the first time. It ticks itself off, and can be put away.

const { production } = defineProps<{ /** Address of the production that the steps lead on with. */ readonly production: string | null }>()
const emit = defineEmits<{ sample: [name: string] }>()
const { done, isAway } = useFirstSteps()

const steps: Readonly<Record<FirstStep, { readonly title: string, readonly how: string, readonly page: string | null }>> = {
  brought: { title: 'Bring in a document', how: 'Drop it on this page, or take a sample. Then look at what was found, and make it a production.', page: null },
  heard: { title: 'Hear it', how: 'On its Script page: the round button at the lower left plays, and every text can be changed.', page: 'script' },
  read: { title: 'Read it', how: 'On its Reading page: the audio of every sentence is made.', page: 'reading' },
  made: { title: 'Make the files', how: 'On its Delivery page, for the use that you choose there.', page: 'delivery' },
  downloaded: { title: 'Download them', how: 'As one ZIP, in the list of deliveries below them.', page: 'delivery' },
}
const next = computed(() => firstSteps.find(step => !done.value.includes(step)))

const samples = [
  { name: 'the-marrow-lane-year.md', title: 'a handbook' }, { name: 'the-first-spring-inspection.pptx', title: 'slides with notes' }, { name: 'notes-from-the-hive-stand.csv', title: 'a batch of articles' },
] as const
</script>

<template>
  <section class="guide" aria-labelledby="guide-head">
    <div class="head">
      <h2 id="guide-head">{{ next === undefined ? 'All first steps are done' : 'First steps' }}</h2>
      <v-btn size="small" variant="text" @click="isAway = true">Put away</v-btn>
    </div>
    <ol>
      <li v-for="step in firstSteps" :key="step" :class="{ done: done.includes(step), next: step === next }" :aria-current="step === next ? 'step' : undefined">
        <v-icon :icon="done.includes(step) ? mdiCheckCircle : mdiCircleOutline" size="19" />
        <span>
          <NuxtLink v-if="step === next && production !== null && steps[step].page !== null" :to="`${production}/${steps[step].page}`">{{ steps[step].title }}</NuxtLink>
          <b v-else>{{ steps[step].title }}</b><span class="sr-only">{{ done.includes(step) ? ', done' : '' }}</span>
          <template v-if="step === next">: <span class="quiet">{{ steps[step].how }}</span></template>
        </span>
      </li>
    </ol>
    <p class="samples">
      <span class="quiet">Samples to try it with:</span>
      <v-btn v-for="sample in samples" :key="sample.name" size="small" @click="emit('sample', sample.name)">{{ sample.title }}</v-btn>
    </p>
  </section>
</template>

<style scoped>
.guide { padding: 14px 20px 16px; margin-bottom: 22px; border-left: 3px solid var(--verdigris); background: var(--sheet); }
.head { display: flex; align-items: baseline; justify-content: space-between; }
h2 { margin: 0; font-size: 17px; }
ol { list-style: none; margin: 6px 0 10px; padding: 0; }
li { display: flex; gap: 8px; padding: 2px 0; font-size: 15px; line-height: 1.4; }
li.done { color: var(--quiet); }
li.done :deep(.v-icon) { color: var(--verdigris); }
li:not(.done, .next) b { font-weight: 400; }
.samples { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; margin: 0; font-size: 14.5px; }
</style>

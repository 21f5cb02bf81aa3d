<script setup lang="ts">
import type { FaultView } from '#shared/api'
import { useProduction } from '~/stores/production'
import { count } from '~/utils/format'

// What a reading could not read: where it is, why, and the way to try again.

const props = defineProps<{
  faults: readonly FaultView[], busy: boolean
  /** Whether the reading went through to its end. */
  complete: boolean
}>()
const emit = defineEmits<{ retry: [keys: readonly string[] | null] }>()
const { page } = useProduction()
const shown = computed(() => props.faults.slice(0, 100))
</script>

<template>
  <section class="faults" aria-labelledby="faults-head">
    <div class="head">
      <h2 id="faults-head">{{ count(faults.length, 'sentence') }} could not be read</h2>
      <v-btn size="small" :disabled="busy" @click="emit('retry', null)">Try {{ faults.length === 1 ? 'it' : `all ${faults.length}` }} again</v-btn>
    </div>
    <p class="quiet">{{ complete ? 'Everything else is read' : 'The other sentences wait' }}. Try again, or open the sentence and write it in another way. The files of the other parts can be made meanwhile: <NuxtLink :to="page('delivery')">to the delivery</NuxtLink>.</p>
    <table class="plain rows">
      <thead><tr><th scope="col">Part</th><th scope="col">Sentence</th><th scope="col">What happened, what to do</th><th scope="col"><span class="sr-only">Try again</span></th></tr></thead>
      <tbody>
        <tr v-for="fault in shown" :key="fault.key">
          <td data-label="Part" class="quiet">{{ fault.partLabel }}</td>
          <td data-label="Sentence"><NuxtLink :to="page('script', { part: fault.partId, sentence: fault.key })">{{ fault.text.slice(0, 120) }}{{ fault.text.length > 120 ? '…' : '' }}</NuxtLink></td>
          <td data-label="What to do" class="fault-text">{{ fault.problem.message }}</td>
          <td data-label=""><v-btn size="small" :disabled="busy" :aria-label="`Try again: ${fault.text.slice(0, 60)}`" @click="emit('retry', [fault.key])">Try again</v-btn></td>
        </tr>
      </tbody>
    </table>
    <p v-if="faults.length > shown.length" class="quiet">and {{ faults.length - shown.length }} more</p>
  </section>
</template>

<style scoped>
.faults { margin-bottom: 30px; padding: 4px 0 0 14px; border-left: 3px solid var(--vermilion); }
.head { display: flex; align-items: baseline; gap: 16px; flex-wrap: wrap; }
.head h2, .faults > p { margin: 0; }
.faults > p { margin: 2px 0 6px; }
</style>

<script setup lang="ts">
import type { Finding } from '#core/delivery/conformance'
import { clock } from '#core/estimate/clock'
import { useProduction } from '~/stores/production'

// Whether a finished file keeps its profile; where it does not, what, where, and what to do.

const { findings, partOf = {} } = defineProps<{
  readonly findings: readonly Finding[] | null
  /** The parts of passages that faults have places in. */
  readonly partOf?: Readonly<Record<string, string>>
}>()
const { page } = useProduction()
const place = ({ atMs }: Finding): string => atMs === null ? '' : ` at ${clock(atMs)}`

/** Where in the script a fault is, as far as that is still there. */
function scriptPlace({ place: said }: Finding): { to: string, text: string } | null {
  const part = said === undefined ? undefined : partOf[said.passageId]
  return said === undefined || part === undefined ? null : { to: page('script', { part, sentence: said.key }), text: said.text }
}
const shown = computed(() => (findings ?? []).map(finding => ({ finding, said: scriptPlace(finding) })))
</script>

<template>
  <span v-if="findings === null" class="quiet">not measured</span>
  <span v-else-if="findings.length === 0" class="done-text">passes</span>
  <ul v-else>
    <li v-for="{ finding, said } in shown" :key="finding.code + finding.atMs">
      <b class="fault-text">Fails{{ place(finding) }}.</b> {{ finding.message }}
      <NuxtLink v-if="said !== null" :to="said.to">“{{ said.text.slice(0, 80) }}{{ said.text.length > 80 ? '…' : '' }}”</NuxtLink>
      {{ ' ' }}<span class="quiet">{{ finding.remedy }}</span>{{ ' ' }}
      <slot :finding="finding" />
    </li>
  </ul>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; }
</style>

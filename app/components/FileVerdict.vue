<script setup lang="ts">
import type { Finding } from '#core/delivery/conformance'
import { clock } from '#core/estimate/clock'

// Whether a finished file keeps its profile; where it does not, what, where, and what to do.

const { findings } = defineProps<{ readonly findings: readonly Finding[] | null }>()
const place = ({ atMs }: Finding): string => atMs === null ? '' : ` at ${clock(atMs)}`
</script>

<template>
  <span v-if="findings === null" class="quiet">not measured</span>
  <span v-else-if="findings.length === 0" class="done-text">passes</span>
  <ul v-else>
    <li v-for="finding in findings" :key="finding.code + finding.atMs"><b class="fault-text">Fails{{ place(finding) }}.</b> {{ finding.message }} <span class="quiet">{{ finding.remedy }}</span></li>
  </ul>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; }
</style>

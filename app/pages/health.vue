<script setup lang="ts">
import { mdiAlertCircleOutline, mdiAlertOutline, mdiCheck } from '@mdi/js'
import type { HealthReport } from '#core/health'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { count, dayAndTime } from '~/utils/format'

// What the work needs, whether it is there, and what went wrong last.

useHead({ title: 'Health – Orator Quill' })
const notices = useNotices()
const report = ref<HealthReport | null>(null)
const checking = ref(false)

const looks = {
  good: { text: 'in order', look: 'done-text', icon: mdiCheck },
  poor: { text: 'look after it', look: 'stale-text', icon: mdiAlertOutline },
  bad: { text: 'must be mended', look: 'fault-text', icon: mdiAlertCircleOutline },
} as const
const amiss = computed(() => report.value?.findings.filter(finding => finding.state !== 'good').length ?? 0)

async function check(): Promise<void> {
  checking.value = true
  report.value = await notices.attempt(() => ask<HealthReport>('/api/health/report')) ?? report.value
  checking.value = false
}
void check()
</script>

<template>
  <AppMasthead />
  <main class="narrow">
    <div class="head">
      <h1>Health</h1>
      <p v-if="report !== null" role="status" :class="amiss === 0 ? 'done-text' : 'fault-text'">{{ amiss === 0 ? 'All is in order' : `${count(amiss, 'thing')} to look after` }}</p>
      <v-btn :loading="checking" @click="check">Check again</v-btn>
    </div>

    <template v-if="report !== null">
      <table class="plain rows">
        <thead><tr><th scope="col">What</th><th scope="col">Found</th><th scope="col">State</th><th scope="col">What to do</th></tr></thead>
        <tbody>
          <tr v-for="finding in report.findings" :key="finding.subject">
            <td data-label="What"><b>{{ finding.subject }}</b></td>
            <td data-label="Found">{{ finding.found }}</td>
            <td data-label="State"><span class="state" :class="looks[finding.state].look"><v-icon :icon="looks[finding.state].icon" size="16" /> {{ looks[finding.state].text }}</span></td>
            <td data-label="What to do">{{ finding.remedy ?? '–' }}</td>
          </tr>
        </tbody>
      </table>

      <h2>Last errors</h2>
      <p v-if="report.errors.length === 0" class="quiet">None in the logs.</p>
      <table v-else class="plain rows">
        <thead><tr><th scope="col">When</th><th scope="col">Where</th><th scope="col">What</th><th scope="col">Request or job</th></tr></thead>
        <tbody>
          <tr v-for="error in report.errors" :key="`${error.at}${error.request ?? error.job}`">
            <td data-label="When" class="when">{{ dayAndTime(error.at) }}</td>
            <td data-label="Where">{{ error.process }}</td>
            <td data-label="What">{{ error.message }}</td>
            <td data-label="Request or job" class="mono">{{ error.request ?? error.job ?? '–' }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet">The whole logs are in <span class="mono">var/log</span>. On the command line, <span class="mono">bin/quill doctor</span> shows the same.</p>
    </template>
  </main>
</template>

<style scoped>
.state { white-space: nowrap; }
.when { white-space: nowrap; }
h2 { margin: 32px 0 8px; }
.mono { overflow-wrap: anywhere; }
</style>

<script setup lang="ts">
import type { ComparisonView } from '#shared/api'
import { ask } from '~/utils/api'
import { count } from '~/utils/format'
import { windowName } from '~/utils/window-name'

// A new version of the manuscript, compared with the script before it is taken over.

const { desk, notices, id, page, ready } = useDeskPage('New version')
const manuscriptId = String(useRoute().params['manuscript'])
const { document, found, readAgain, stop } = useIntake(manuscriptId)
const comparison = ref<ComparisonView | null>(null)
const kept = ref<ReadonlySet<string>>(new Set())
const taking = ref(false)
const shownRows = 500

watch(found, async now => {
  if (now === null) return
  comparison.value = await notices.attempt(() => ask<ComparisonView>(`/api/editions/${id}/comparison`, 'POST', { manuscriptId }))
  // What was changed here stays, unless it is chosen otherwise.
  kept.value = new Set((comparison.value?.rows ?? []).flatMap(row => row.conflict && row.passageId !== null ? [row.passageId] : []))
})

const summary = computed(() => {
  const { counts } = comparison.value!
  return `${count(counts.same, 'passage')} the same, ${counts.edited} edited, ${counts.moved} moved, ${counts.new} new, ${counts.gone} gone`
})
const taken = computed(() => comparison.value!.rows.filter(row => row.passageId === null || !kept.value.has(row.passageId)).length)

function keep(passageId: string | null, keeps: boolean): void {
  if (passageId === null) return
  const next = new Set(kept.value)
  if (keeps) next.add(passageId)
  else next.delete(passageId)
  kept.value = next
}

async function takeOver(): Promise<void> {
  taking.value = true
  const done = await notices.attempt(async () => ask(`/api/editions/${id}/version`, 'POST', { manuscriptId, window: await windowName(), keep: [...kept.value] }))
  taking.value = false
  if (done !== null) await navigateTo(page('script'))
}
</script>

<template>
  <AppMasthead />
  <IntakeWait v-if="document !== null && document.state !== 'ready'" :document="document" @stop="stop" @again="readAgain($event === null ? {} : { encoding: $event })" />
  <main v-else-if="ready && desk.desk !== null && comparison !== null" class="version">
    <div class="head">
      <h1>A new version</h1>
      <p class="mono">{{ comparison.fileName }}</p>
      <p>{{ summary }}.</p>
      <p v-if="comparison.conflicts > 0" class="stale-text">{{ count(comparison.conflicts, 'passage') }} changed on both sides: the script’s text stays unless you take the new one.</p>
      <p class="quiet">What is the same keeps its directions, edits and readings. Undo brings everything back.</p>
      <div class="actions">
        <v-btn v-if="comparison.rows.length > 0" color="primary" variant="flat" size="large" :loading="taking" @click="takeOver">Take over {{ count(taken, 'change') }}</v-btn>
        <v-btn :to="page('script')">{{ comparison.rows.length > 0 ? 'Leave the script as it is' : 'Nothing has changed: back to the script' }}</v-btn>
      </div>
    </div>
    <table v-if="comparison.rows.length > 0" class="plain rows">
      <thead><tr><th scope="col">What</th><th scope="col">In the script</th><th scope="col">In the new version</th><th scope="col">Take over</th></tr></thead>
      <tbody>
        <ComparedPassage v-for="(row, index) in comparison.rows.slice(0, shownRows)" :key="index" :row="row" :kept="row.passageId !== null && kept.has(row.passageId)" @keep="keep(row.passageId, $event)" />
      </tbody>
    </table>
    <p v-if="comparison.rows.length > shownRows" class="quiet">and {{ comparison.rows.length - shownRows }} more, which are taken over as well</p>
  </main>
</template>

<style scoped>
.version { max-width: 1180px; width: 100%; margin: 0 auto; padding: 28px 24px 60px; }
.head { margin-bottom: 18px; }
.head p { margin: 4px 0; }
.actions { display: flex; gap: 12px; flex-wrap: wrap; margin-top: 14px; }
table { background: var(--sheet); table-layout: fixed; }
th:first-child { width: 130px; }
th:last-child { width: 120px; }
table.plain th, table.plain :deep(td) { padding-left: 12px; }
table.plain :deep(td) { vertical-align: top; }
@media (max-width: 639px) { table { table-layout: auto; } }
</style>

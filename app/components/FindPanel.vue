<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { FindPlace } from '#core/script/find'
import type { FindHit, FindView } from '#shared/api'
import type { Operation } from '#shared/operations'
import { ask, messageOf } from '~/utils/api'
import { count } from '~/utils/format'

// Find and replace over the whole production: every hit in its sentence, replaced one by one or all at once.

const props = defineProps<{ editionId: string, scoreTick: number }>()
const emit = defineEmits<{ open: [hit: FindHit], replace: [operation: Extract<Operation, { op: 'replace' }>], close: [] }>()

const query = reactive({ what: '', place: 'text' as FindPlace, matchCase: false, wholeWord: false, isPattern: false })
const replacement = ref('')
const view = ref<FindView | null>(null)
const problem = ref<string | null>(null)
const places: readonly { value: FindPlace, title: string }[] = [{ value: 'text', title: 'the text' }, { value: 'spoken', title: 'what is spoken instead' }, { value: 'directions', title: 'directions' }]
const field = ref<HTMLInputElement | null>(null)
onMounted(() => field.value?.focus())

let asked = 0
async function look(): Promise<void> {
  const mine = ++asked
  if (query.what === '') {
    view.value = null
    problem.value = null
    return
  }
  try {
    const found = await ask<FindView>(`/api/editions/${props.editionId}/find`, 'POST', { query: { ...query } })
    if (mine === asked) [view.value, problem.value] = [found, null]
  } catch (error) {
    if (mine === asked) [view.value, problem.value] = [null, messageOf(error)]
  }
}
watch(query, useDebounceFn(look, 200))
watch(() => props.scoreTick, () => void look())

function replace(hit?: FindHit): void {
  emit('replace', {
    op: 'replace', query: { ...query }, replacement: replacement.value,
    ...(hit === undefined ? {} : { only: { passageId: hit.passageId, revision: hit.revision, start: hit.start, ...(hit.directionId === undefined ? {} : { directionId: hit.directionId }) } }),
  })
}
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <section class="find" aria-label="Find and replace" @keydown.esc.stop="emit('close')">
    <form @submit.prevent="look">
      <div class="line">
        <input ref="field" v-model="query.what" type="search" aria-label="Find" placeholder="Find in the whole production">
        <label class="in">in <select v-model="query.place" aria-label="Find in"><option v-for="each in places" :key="each.value" :value="each.value">{{ each.title }}</option></select></label>
        <label><input v-model="query.matchCase" type="checkbox"> Capitals and small letters differ</label>
        <label><input v-model="query.wholeWord" type="checkbox"> Whole words</label>
        <label><input v-model="query.isPattern" type="checkbox"> Pattern</label>
      </div>
      <div class="line">
        <input v-model="replacement" type="text" aria-label="Replace with" placeholder="Replace with">
        <v-btn size="small" color="primary" variant="flat" :disabled="view === null || view.count === 0" @click="replace()">Replace {{ view === null ? 'all' : view.count === 1 ? 'the one' : `all ${view.count.toLocaleString('en')}` }}</v-btn>
        <span class="count" :class="{ problem }" role="status">{{ problem ?? (view === null ? '' : view.count === 0 ? 'Not found.' : `${count(view.count, 'hit')} in ${count(view.passages, 'passage')}`) }}</span>
        <v-btn size="small" variant="text" @click="emit('close')">Close</v-btn>
      </div>
    </form>
    <ol v-if="view !== null && view.count > 0">
      <li v-for="hit in view.hits" :key="`${hit.passageId} ${hit.start} ${hit.directionId ?? ''}`">
        <button type="button" class="hit" @click="emit('open', hit)">
          <span class="part">{{ hit.part }}</span>
          <span class="context">{{ hit.before.length < 40 ? '' : '… ' }}{{ hit.before }}<mark>{{ hit.found }}</mark>{{ hit.after }}{{ hit.after.length < 40 ? '' : ' …' }}</span>
        </button>
        <v-btn size="x-small" variant="text" :aria-label="`Replace ${hit.found} in ${hit.part}`" @click="replace(hit)">Replace</v-btn>
      </li>
      <li v-if="view.count > view.hits.length" class="more">and {{ (view.count - view.hits.length).toLocaleString('en') }} more</li>
    </ol>
  </section>
</template>

<style scoped>
.find { border-bottom: 1px solid var(--gall); background: var(--paper); padding: 10px 20px 6px; font-size: 14px; max-height: 46%; display: flex; flex-direction: column; min-height: 0; flex: none; }
.line { display: flex; align-items: center; gap: 8px 12px; flex-wrap: wrap; margin-bottom: 6px; }
input[type='search'], input[type='text'] { font: inherit; flex: 1 1 150px; min-width: 0; color: var(--ink); background: var(--sheet); border: 1px solid var(--line); border-radius: 3px; padding: 4px 8px; }
select { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--line); border-radius: 3px; padding: 3px 4px; }
label { white-space: nowrap; }
.count { flex: 1 1 120px; color: var(--quiet); }
.count.problem { color: var(--vermilion); }
ol { list-style: none; margin: 0 -8px; padding: 0; overflow-y: auto; min-height: 0; }
li { display: flex; align-items: center; gap: 8px; border-top: 1px solid var(--line); }
.hit { flex: 1; min-width: 0; display: grid; grid-template-columns: 132px 1fr; gap: 10px; align-items: baseline; text-align: left; border: 0; background: none; font: inherit; color: var(--ink); padding: 4px 8px; cursor: pointer; }
.hit:hover { background: var(--lit); }
.part { color: var(--quiet); font-size: 13px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.context { font-family: var(--serif); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
mark { background: var(--lit); color: var(--ink); font-weight: 600; border-radius: 2px; padding: 0 1px; }
.more { padding: 4px 8px; color: var(--quiet); }
@media (max-width: 639px) { .hit { grid-template-columns: 1fr; gap: 0; } }
</style>

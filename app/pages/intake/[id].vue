<script setup lang="ts">
import { clock } from '#core/estimate/clock'
import type { ManuscriptProposal } from '#shared/api'
import type { ProductionRequest } from '#shared/schemas'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { count, spokenLength } from '~/utils/format'
import { kindNames } from '~/utils/words'

// What was found in a document, before it becomes a production: its parts beside their text.

const notices = useNotices()
const id = String(useRoute().params['id'])
const proposal = ref<ManuscriptProposal | null>(null)
const title = ref('')
const author = ref('')
const language = ref('')
const shown = ref(0)
const accepting = ref(false)

useHead({ title: () => `Intake, ${proposal.value?.fileName ?? ''} – Orator Quill` })

void notices.attempt(async () => {
  const found = await ask<ManuscriptProposal>(`/api/manuscripts/${id}`)
  proposal.value = found
  title.value = found.title
  author.value = found.author ?? ''
  language.value = found.language
})
const { languages } = useLanguages(true, computed(() => proposal.value?.language))

const levels = computed(() => [
  ...(proposal.value?.levels ?? []).map(({ level, count: times }) => ({
    title: level === 0 ? `Title style (${times})` : `Heading ${level} (${times})`, value: level,
  })),
  ...(proposal.value?.levels.some(({ level }) => level === 0) ? [] : [{ title: 'Nowhere: one part', value: 0 }]),
])
const part = computed(() => proposal.value?.parts[shown.value])
const totalMs = computed(() => proposal.value?.parts.reduce((sum, each) => sum + each.durationMs, 0) ?? 0)
const words = computed(() => proposal.value?.parts.reduce((sum, each) => sum + each.words, 0) ?? 0)
const languageHint = computed(() => {
  const found = proposal.value
  if (found === null || language.value !== found.language) return 'chosen by you'
  return { chosen: '', declared: 'as the document says', detected: 'recognised from the text', assumed: 'assumed: too little text to tell. Check it.' }[found.languageSource]
})

async function split(level: number): Promise<void> {
  const found = await notices.attempt(() => ask<ManuscriptProposal>(`/api/manuscripts/${id}?level=${level}`))
  if (found === null) return
  proposal.value = found
  shown.value = 0
}

async function accept(): Promise<void> {
  const found = proposal.value
  if (found === null) return
  accepting.value = true
  const request: ProductionRequest = { manuscriptId: id, title: title.value, author: author.value, language: language.value, level: found.level }
  const made = await notices.attempt(() => ask<{ editionId: string }>('/api/editions', 'POST', request))
  accepting.value = false
  if (made !== null) await navigateTo(`/productions/${made.editionId}/script`)
}
</script>

<template>
  <AppMasthead />
  <main v-if="proposal !== null" class="intake">
    <aside>
      <h1>Intake</h1>
      <p class="mono file">{{ proposal.fileName }}</p>
      <v-text-field v-model="title" label="Title" maxlength="300" />
      <v-text-field v-model="author" label="Author" placeholder="not given" persistent-placeholder maxlength="300" />
      <v-autocomplete v-model="language" :items="languages" label="Language" :hint="languageHint" persistent-hint />
      <v-select :model-value="proposal.level" :items="levels" label="A part begins at" hint="and at every heading above it" persistent-hint @update:model-value="split" />
      <v-btn color="primary" variant="flat" size="large" :loading="accepting" :disabled="title.trim() === ''" @click="accept">
        Accept {{ count(proposal.parts.length, 'part') }}
      </v-btn>
      <p class="quiet">{{ count(words, 'word') }}, about {{ spokenLength(totalMs) }} to listen to. Nothing is read yet; everything can be changed later.</p>
    </aside>

    <section class="parts" aria-label="Parts found">
      <table class="plain">
        <thead><tr><th class="number" scope="col">No</th><th scope="col">Part</th><th class="number" scope="col">Words</th><th class="number" scope="col">Minutes</th></tr></thead>
        <tbody>
          <tr v-for="(each, index) in proposal.parts" :key="index" :class="{ shown: index === shown }" @click="shown = index">
            <td class="number quiet">{{ index + 1 }}</td>
            <td><button type="button" :aria-pressed="index === shown" @click.stop="shown = index">{{ each.label }}</button></td>
            <td class="number">{{ each.words.toLocaleString('en') }}</td>
            <td class="number">~ {{ clock(each.durationMs) }}</td>
          </tr>
        </tbody>
      </table>
    </section>

    <section v-if="part" class="text" aria-label="Text of the part">
      <div v-for="(passage, index) in part.passages" :key="index" class="row">
        <span class="kind">{{ kindNames[passage.kind] }}</span>
        <p :class="passage.kind">{{ passage.text }}</p>
      </div>
      <p v-if="part.passageCount > part.passages.length" class="quiet more">and {{ part.passageCount - part.passages.length }} more passages</p>
    </section>
  </main>
</template>

<style scoped>
.intake { display: grid; grid-template-columns: 290px minmax(300px, 1fr) minmax(320px, 1.15fr); height: calc(100vh - var(--masthead) - 1px); }
aside { padding: 22px 20px; display: flex; flex-direction: column; gap: 14px; border-right: 1px solid var(--line); overflow-y: auto; }
aside h1 { margin: 0; }
aside > * { flex: none; }
.file { margin: -10px 0 4px; overflow-wrap: anywhere; color: var(--quiet); }
aside .quiet { font-size: 13.5px; margin: 0; }
.parts { overflow-y: auto; background: var(--sheet); padding: 8px 8px 30px 4px; }
.parts tr { cursor: pointer; }
.parts tr.shown td { background: var(--lit); }
.parts td, .parts th { padding-left: 10px; }
.parts button { border: 0; background: none; font: inherit; color: inherit; text-align: left; padding: 0; cursor: pointer; }
.text { overflow-y: auto; padding: 16px 24px 40px 14px; border-left: 1px solid var(--line); background: var(--sheet); }
.row { display: grid; grid-template-columns: 78px 1fr; gap: 12px; align-items: baseline; margin-bottom: 9px; }
.kind { font-size: 12.5px; color: var(--quiet); text-align: right; }
.row p { margin: 0; font-family: var(--serif); font-size: 15.5px; line-height: 1.55; }
.row p.title { font-size: 20px; font-weight: 600; }
.row p.heading { font-weight: 600; }
.row p.quotation { font-style: italic; }
.more { margin-left: 90px; font-size: 14px; }
@media (max-width: 1000px) { .intake { display: block; height: auto; } aside { border-right: 0; } .text { border-left: 0; border-top: 1px solid var(--line); padding-left: 8px; } }
@media (max-width: 639px) { .row { grid-template-columns: 1fr; gap: 0; } .kind { text-align: left; } .more { margin-left: 0; } }
</style>

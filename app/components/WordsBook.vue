<script setup lang="ts">
import { mdiCheck, mdiPencilOutline, mdiPlay, mdiTrashCanOutline, mdiTrayArrowUp } from '@mdi/js'
import { v7 as uuidv7 } from 'uuid'
import type { Content } from '#core/script/content'
import { readingOf, type WordEntry } from '#core/words/wordbook'
import type { WordImport, WordsView, WordView } from '#shared/api'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { ask, sendFile } from '~/utils/api'
import { count, languageName } from '~/utils/format'
import { heardContent, wholePlace } from '~/utils/said'
import { windowName } from '~/utils/window-name'
import { speechNames } from '~/utils/words'

// How words are said: the wordbook of the production, and the one that all productions share.

const props = defineProps<{ editionId: string }>()
const id = props.editionId
const desk = useDesk()
const notices = useNotices()
const sample = useSample()
const words = shallowRef<readonly WordView[]>([])
const filter = ref('')
const edited = shallowRef<WordView | null>(null)
/** Renews the form after each word that is kept. */
const formTick = ref(0)
const problems = shallowRef<WordImport['problems']>([])
const file = ref<HTMLInputElement | null>(null)

const load = async (): Promise<void> => { words.value = (await ask<WordsView>(`/api/editions/${id}/words`)).words }
void notices.attempt(load)
watch(() => desk.scoreTick, () => void load().catch(() => undefined))

const shown = computed(() => {
  const wanted = filter.value.trim().toLowerCase()
  return wanted === '' ? words.value : words.value.filter(({ entry }) => [...entry.graphemes, entry.note ?? '', saidText(entry)].some(text => text.toLowerCase().includes(wanted)))
})
const exports = [
  { query: 'format=pls&shared=no', title: 'PLS lexicon' }, { query: 'format=csv&shared=no', title: 'CSV table' },
  { query: 'format=pls&shared=yes', title: 'Shared wordbook, PLS lexicon' }, { query: 'format=csv&shared=yes', title: 'Shared wordbook, CSV table' },
] as const
const unused = computed(() => words.value.filter(word => word.uses === 0).length)

function saidText(entry: WordEntry): string {
  const said = readingOf(entry)
  return said.by === 'letters' ? 'letter by letter' : said.text
}

async function set(word: string, shared: boolean, entry: Omit<WordEntry, 'id'> | null): Promise<void> {
  await notices.attempt(async () => {
    await desk.operate([{ op: 'setWord', id: word, shared, entry }])
    await load()
  })
}

async function keep(entry: Omit<WordEntry, 'id'>, shared: boolean): Promise<void> {
  await set(edited.value?.entry.id ?? uuidv7(), shared, entry)
  edited.value = null
  formTick.value += 1
}

function withoutId({ id: _, ...entry }: WordEntry): Omit<WordEntry, 'id'> {
  return entry
}

function toggleHeard({ entry, shared }: WordView): void {
  const { heard, ...rest } = withoutId(entry)
  void set(entry.id, shared, heard === true ? rest : { ...rest, heard: true })
}

function hear(content: Content): void {
  void notices.attempt(() => sample.hearPassages(id, { passages: [{ kind: 'paragraph', content, language: null, role: null }] }))
}

async function bringIn(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  input.value = ''
  if (chosen === undefined) return
  await notices.attempt(async () => {
    const { added, problems: found } = await sendFile<WordImport>(`/api/editions/${id}/words/import?name=${encodeURIComponent(chosen.name)}&window=${await windowName()}&shared=no`, chosen)
    problems.value = found
    notices.show(`${count(added, 'word')} added from ${chosen.name}.`)
    await desk.refresh()
  })
}
</script>

<template>
  <div v-if="desk.desk !== null" class="book">
    <section class="form">
      <WordForm
        :key="`${edited?.entry.id} ${formTick}`" :entry="edited === null ? null : withoutId(edited.entry)" :shared="edited?.shared ?? false" :language="desk.desk.language" :languages="desk.desk.languages"
        @keep="keep" @hear="hear" @cancel="edited = null"
      />
    </section>

    <section class="list" aria-label="Wordbook">
      <div class="tools">
        <v-text-field v-model="filter" label="Find a word" clearable max-width="280" />
        <v-btn class="first" :prepend-icon="mdiTrayArrowUp" @click="file?.click()">Bring in</v-btn>
        <input ref="file" type="file" accept=".pls,.xml,.csv" hidden aria-label="File of a wordbook" @change="bringIn">
        <v-menu>
          <template #activator="{ props: menu }"><v-btn v-bind="menu">Export</v-btn></template>
          <v-list density="compact">
            <v-list-item v-for="each in exports" :key="each.title" :href="`/api/editions/${id}/words/export?${each.query}`" :title="each.title" download />
          </v-list>
        </v-menu>
      </div>
      <div v-if="problems.length > 0" class="problems" role="alert">
        <p><b>{{ count(problems.length, 'line') }} of the file could not be used as they are.</b> <v-btn size="small" variant="text" @click="problems = []">Close</v-btn></p>
        <ul><li v-for="problem in problems.slice(0, 20)" :key="`${problem.line} ${problem.column}`">line {{ problem.line }}: {{ problem.message }}</li></ul>
      </div>
      <p v-if="words.length === 0" class="quiet empty">No words yet. Add a name or a term that the voice says wrong: it is then said right wherever it stands, and only its sentences are read again.</p>
      <template v-else>
        <p class="quiet">{{ count(words.length, 'word') }}<template v-if="unused > 0"> · {{ unused }} not in this script</template></p>
        <table class="plain rows">
          <thead><tr><th scope="col">Written</th><th scope="col">Said</th><th scope="col">Places</th><th scope="col">Wordbook</th><th scope="col">Checked by ear</th><th scope="col"><span class="sr-only">Actions</span></th></tr></thead>
          <tbody>
            <tr v-for="word in shown" :key="word.entry.id" :class="{ used: edited?.entry.id === word.entry.id }">
              <td class="serif name" data-label="Written">
                {{ word.entry.graphemes.join(', ') }}
                <span v-if="word.entry.beside !== undefined" class="quiet small">beside {{ [...word.entry.beside.before ?? [], ...word.entry.beside.after ?? []].join(', ') }}</span>
                <span v-if="word.entry.partsOfSpeech !== undefined" class="quiet small">as {{ word.entry.partsOfSpeech.map(part => speechNames[part]).join(', ') }}</span>
                <span v-if="word.conflict" class="stale-text small">twice here: only the first counts</span>
                <span v-if="word.entry.note !== undefined" class="quiet small">{{ word.entry.note }}</span>
              </td>
              <td data-label="Said">{{ saidText(word.entry) }} <span v-if="word.ipa !== null && readingOf(word.entry).by !== 'ipa'" class="quiet serif">/{{ word.ipa }}/</span></td>
              <td class="figure" data-label="Places">{{ word.uses }}</td>
              <td data-label="Wordbook">{{ word.shared ? 'shared' : 'this production' }}<span class="quiet small">{{ languageName(word.entry.language) }}</span></td>
              <td data-label="Checked by ear"><button type="button" class="heard" :aria-pressed="word.entry.heard === true" :aria-label="`${word.entry.graphemes[0]} is checked by ear`" @click="toggleHeard(word)"><v-icon v-if="word.entry.heard === true" :icon="mdiCheck" size="18" /></button></td>
              <td class="actions">
                <IconButton :icon="mdiPlay" :name="`Hear ${word.entry.graphemes[0]}`" @click="hear(heardContent(wholePlace(word.entry.graphemes[0]!), readingOf(word.entry), word.ipa))" />
                <IconButton :icon="mdiPencilOutline" :name="`Change ${word.entry.graphemes[0]}`" @click="edited = word" />
                <IconButton :icon="mdiTrashCanOutline" :name="`Remove ${word.entry.graphemes[0]}`" @click="set(word.entry.id, word.shared, null)" />
              </td>
            </tr>
          </tbody>
        </table>
      </template>
    </section>
  </div>
</template>

<style scoped>
.quiet.serif { font-weight: 400; }
.book { display: grid; grid-template-columns: minmax(0, 1fr) 320px; height: 100%; }
.form { order: 2; padding: 20px 22px 0; border-left: 1px solid var(--line); overflow-y: auto; }
.list { padding: 16px 26px; background: var(--sheet); overflow-y: auto; }
.list > p { margin: 10px 0 6px; font-size: 14.5px; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }
.tools .v-text-field { flex: 1 1 180px; }
.first { margin-left: auto; }
.empty { max-width: 560px; }
.problems { border: 1px solid var(--vermilion); border-left-width: 4px; padding: 8px 14px; margin-top: 12px; font-size: 14px; }
.problems p, .problems ul { margin: 0; }
.name { font-size: 16px; }
.small { display: block; font: 400 13px var(--sans); }
.figure { font-variant-numeric: tabular-nums; }
.heard { display: inline-grid; place-items: center; vertical-align: middle; width: 24px; height: 24px; border: 1px solid var(--line); border-radius: 3px; background: var(--sheet); color: var(--verdigris); cursor: pointer; }
.actions { text-align: right; white-space: nowrap; }
tr.used td { background: var(--lit); }
@media (max-width: 1000px) { .book { display: block; height: auto; } .form { border-left: 0; padding: 16px 22px 0; } }
</style>

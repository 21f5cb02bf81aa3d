<script setup lang="ts">
import { useHistory } from '~/stores/history'

// What may be said wrong, and what is done about it: the census, the wordbook, the house style, the narrator check.

const { desk, notices, id, page, loading, ready } = useDeskPage('Words')
const history = useHistory()
const route = useRoute()
const router = useRouter()
const words = useWords(id)
useCommands('edits', { undo: () => history.step('undo'), redo: () => history.step('redo') })

const views = [
  { key: 'census', title: 'Census' }, { key: 'wordbook', title: 'Wordbook' }, { key: 'style', title: 'House style' }, { key: 'narrator', title: 'Narrator check' },
] as const
type View = (typeof views)[number]['key']
const view = computed<View>({
  get: () => views.find(each => each.key === route.query['view'])?.key ?? 'census',
  set: key => void router.replace(page('words', key === 'census' ? {} : { view: key })),
})

const show = (key: View) => () => { view.value = key }
useCommands('words', { census: show('census'), wordbook: show('wordbook'), style: show('style'), narrator: show('narrator') })

/** Counts how often the script was loaded into the worker. */
const tick = ref(0)
const reload = (): Promise<void> => words.open().then(() => { tick.value += 1 })
void loading.then(() => notices.attempt(async () => {
  await reload()
  await history.load()
}))
watch(() => desk.scoreTick, () => {
  // The first load is above.
  if (tick.value > 0) void Promise.all([reload(), history.load()]).catch(() => undefined)
})
</script>

<template>
  <AppMasthead />
  <main v-if="ready && desk.desk !== null" class="words">
    <h1 class="sr-only">Words: {{ views.find(each => each.key === view)!.title }}</h1>
    <nav class="views" aria-label="Words">
      <button v-for="each in views" :key="each.key" type="button" :aria-current="view === each.key ? 'page' : undefined" @click="view = each.key">{{ each.title }}</button>
      <EditState class="state" @step="history.step" />
    </nav>
    <div class="view">
      <WordsBook v-if="view === 'wordbook'" :edition-id="id" />
      <WordsStyle v-else-if="view === 'style'" :edition-id="id" :words="words" :tick="tick" />
      <WordsNarrator v-else-if="view === 'narrator'" :edition-id="id" :words="words" :tick="tick" />
      <WordsCensus v-else :edition-id="id" :words="words" :tick="tick" @view="view = $event" />
    </div>
  </main>
</template>

<style scoped>
.words { position: relative; display: grid; grid-template-rows: auto minmax(0, 1fr); height: calc(100vh - var(--masthead) - 1px); }
.views { display: flex; flex-wrap: wrap; align-items: center; gap: 2px; padding: 0 14px; border-bottom: 1px solid var(--line); }
.views > button:not(.v-btn) { padding: 10px 12px 8px; border: 0; border-bottom: 2px solid transparent; background: none; font: inherit; font-size: 15px; color: var(--ink); cursor: pointer; }
.views > button[aria-current] { border-bottom-color: var(--verdigris); font-weight: 650; }
.state { margin-left: auto; }
.view { min-height: 0; }
@media (max-width: 1000px) { .words { display: block; height: auto; } }
</style>

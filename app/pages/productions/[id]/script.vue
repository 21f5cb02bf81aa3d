<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import type { PassageKind } from '#core/script/script'
import type { PartSummary } from '#shared/api'
import { usePage } from '~/stores/page'
import { count, spokenLength } from '~/utils/format'

// The desk: spine, page, margin, reel.

const { desk, notices, id, loading, ready } = useDeskPage('Script')
const pages = usePage()
const route = useRoute()
const router = useRouter()

const partId = computed(() => pages.page?.part.id ?? null)
const utterances = computed(() => pages.page?.utterances ?? [])
const listening = useListening(partId, utterances)
const passageId = ref<string | null>(null)
const drawer = ref<'none' | 'spine' | 'margin'>('none')

const kind = computed<PassageKind | null>(() => pages.page?.passages.find(passage => passage.id === passageId.value)?.kind ?? null)
const counts = computed(() => {
  const result: Partial<Record<PassageKind, number>> = {}
  for (const passage of pages.page?.passages ?? []) result[passage.kind] = (result[passage.kind] ?? 0) + 1
  return result
})
const summary = computed(() => desk.parts.find(part => part.id === partId.value))
const unreadMs = computed(() => utterances.value.filter(utterance => !utterance.read).reduce((sum, utterance) => sum + utterance.durationMs, 0))

watch(() => route.query['part'], wanted => void openPart(wanted))
void loading.then(() => openPart(route.query['part']))
watch(() => desk.scoreTick, () => void pages.refresh().catch(() => undefined))
onBeforeUnmount(() => void pages.flush())
useEventListener(window, 'beforeunload', event => {
  if (pages.status === 'saved') return
  void pages.flush()
  event.preventDefault()
})

async function openPart(wanted: unknown): Promise<void> {
  const part = desk.parts.find(each => each.id === wanted) ?? desk.parts[0]
  if (part === undefined || part.id === partId.value) return
  listening.stop()
  listening.select(0)
  passageId.value = null
  await notices.attempt(() => pages.open(id, part.id))
}

function choose(chosen: string): void {
  drawer.value = 'none'
  void router.replace({ query: { part: chosen } })
}

function operate(operation: Parameters<typeof desk.operate>[0][number]): void {
  void notices.attempt(() => desk.operate([operation]))
}

/** What is written and not yet saved is part of what one wants to hear. */
async function hear(index: number, onwards: boolean): Promise<void> {
  await pages.flush()
  await listening.play(index, onwards ? Number.POSITIVE_INFINITY : index)
}

function caret(utterance: number | null, passage: string | null): void {
  passageId.value = passage
  if (utterance !== null) listening.select(utterance)
}

function stepPart(by: -1 | 1): void {
  const index = desk.parts.findIndex(part => part.id === partId.value)
  const next = desk.parts[index + by]
  if (next !== undefined) choose(next.id)
}

function stepSentence(by: -1 | 1): void {
  const next = Math.max(0, Math.min(utterances.value.length - 1, (listening.current.value ?? 0) + by))
  if (listening.playing.value) void hear(next, true)
  else listening.select(next)
}

const regions = ['spine', 'page', 'margin', 'reel']

/** Sentence level: keys that act while no text is being typed. */
const keys: Readonly<Record<string, () => void>> = {
  Space: () => { if (listening.playing.value) listening.stop(); else void hear(listening.current.value ?? 0, true) },
  ArrowLeft: () => stepSentence(-1),
  ArrowRight: () => stepSentence(1),
  PageUp: () => stepPart(-1),
  PageDown: () => stepPart(1),
  Enter: () => document.querySelector<HTMLElement>('.ProseMirror')?.focus(),
}

useEventListener(window, 'keydown', event => {
  if (event.code === 'F6') {
    event.preventDefault()
    moveRegion(event.shiftKey ? -1 : 1)
    return
  }
  const target = event.target as HTMLElement
  if (event.ctrlKey || event.metaKey || event.altKey || target.closest('input, textarea, button, a, select, [contenteditable="true"], [role="menu"], [role="dialog"]') !== null) return
  const act = keys[event.code]
  if (act === undefined) return
  event.preventDefault()
  act()
})

function moveRegion(by: 1 | -1): void {
  const here = regions.indexOf((document.activeElement?.closest('[data-region]') as HTMLElement | null)?.dataset['region'] ?? 'reel')
  const next = regions[(here + by + regions.length) % regions.length]!
  document.querySelector<HTMLElement>(`[data-region="${next}"] :is(button, input, [contenteditable="true"], a)`)?.focus()
}

const statusText = computed(() => ({
  saved: 'Saved', saving: 'Saving …', offline: 'Not saved: the server does not answer. Your text is kept here and sent again.', conflict: 'Not saved: changed in another window',
})[pages.status])

function rename(part: PartSummary, label: string): void { operate({ op: 'renamePart', partId: part.id, revision: part.revision, label }) }
function include(part: PartSummary, included: boolean): void { operate({ op: 'includePart', partId: part.id, revision: part.revision, included }) }
function move(part: PartSummary, afterPartId: string | null): void { operate({ op: 'movePart', partId: part.id, revision: part.revision, afterPartId }) }
</script>

<template>
  <div v-if="ready && desk.desk !== null" class="desk">
    <AppMasthead />
    <div class="tools">
      <v-btn size="small" :aria-expanded="drawer === 'spine'" @click="drawer = drawer === 'spine' ? 'none' : 'spine'">Parts</v-btn>
      <v-btn size="small" :aria-expanded="drawer === 'margin'" @click="drawer = drawer === 'margin' ? 'none' : 'margin'">Rests</v-btn>
    </div>
    <SpineList
      class="spine-column" :class="{ drawn: drawer === 'spine' }" :parts="desk.parts" :current="partId" :total-ms="desk.totalMs"
      @choose="choose" @rename="rename" @include="include" @move="move"
    />

    <main class="page-column" data-region="page">
      <section v-for="conflict in pages.conflicts" :key="conflict.passageId" class="conflict" role="alert">
        <p><b>This passage was changed in another window.</b> Choose the text that stays.</p>
        <div><p class="serif">{{ conflict.mine.runs.map(run => run.text).join('') }}</p><v-btn size="small" @click="pages.resolve(conflict, 'mine')">Keep the text of this window</v-btn></div>
        <div><p class="serif">{{ conflict.theirs.runs.map(run => run.text).join('') }}</p><v-btn size="small" @click="pages.resolve(conflict, 'theirs')">Take the other text</v-btn></div>
      </section>
      <ScriptPage
        v-if="pages.page !== null" :key="pages.page.part.id" :page="pages.page" :load-tick="pages.loadTick" :house-style="desk.desk.houseStyle"
        :lit="listening.current.value" @edit="pages.edit" @caret="caret" @hear="hear" @leave="listening.stop()"
      />
      <p v-if="summary !== undefined && !summary.included" class="left-out-note">This part is left out: it makes no audio and no file.</p>
    </main>

    <aside class="margin-column" :class="{ drawn: drawer === 'margin' }" aria-label="Margin" data-region="margin">
      <p class="status" :class="{ bad: pages.status === 'offline' || pages.status === 'conflict' }" role="status">{{ statusText }}</p>
      <section v-if="summary !== undefined && summary.included && summary.missing > 0 && desk.running === null" class="card stale-card">
        <h3>{{ summary.state === 'stale' ? `${count(summary.missing, 'sentence')} stale` : `${count(summary.missing, 'sentence')} to read` }}</h3>
        <p class="quiet">{{ summary.state === 'stale' ? 'changed since the part was read' : 'in this part' }} · {{ spokenLength(unreadMs) }}</p>
      </section>
      <RestCard :house-style="desk.desk.houseStyle" :kind="kind" :counts="counts" @change="patch => notices.attempt(() => desk.setHouseStyle(patch))" />
      <section class="card keys">
        <h3>Keys</h3>
        <p><kbd>Ctrl</kbd> <kbd>Enter</kbd> hear this sentence<br><kbd>Ctrl</kbd> <kbd>Shift</kbd> <kbd>Enter</kbd> hear from here<br><kbd>Esc</kbd> leave the text, then<br><kbd>Space</kbd> play or stop · <kbd>←</kbd> <kbd>→</kbd> sentence<br><kbd>F6</kbd> next area</p>
      </section>
    </aside>

    <ReelStrip
      class="reel-row" :utterances="utterances" :peaks="pages.peaks" :current="listening.current.value" :elapsed="listening.elapsed.value"
      :playing="listening.playing.value" @play="from => hear(from, true)" @stop="listening.stop()"
    >
      <b>Narrator</b> · {{ desk.desk.casting.wordsPerMinute }} words a minute<br>
      <template v-if="desk.missing > 0 && desk.running === null">
        <v-btn color="primary" variant="flat" size="small" @click="notices.attempt(desk.read)">Read {{ count(desk.missing, 'sentence') }}</v-btn>
      </template>
      <span v-else-if="desk.running !== null" class="quiet">{{ desk.running.made }} of {{ count(desk.running.total, 'sentence') }} read</span>
      <span v-else class="done-text">Everything is read</span>
    </ReelStrip>
  </div>
</template>

<style scoped>
.desk { display: grid; grid-template: 'masthead masthead masthead' auto 'spine page margin' minmax(0, 1fr) 'reel reel reel' auto / 236px minmax(0, 1fr) 274px; height: 100vh; }
.desk > :deep(.masthead) { grid-area: masthead; }
.tools { display: none; }
.spine-column { grid-area: spine; overflow-y: auto; background: var(--paper); border-right: 1px solid var(--line); }
.page-column { grid-area: page; overflow-y: auto; background: var(--sheet); }
.margin-column { grid-area: margin; overflow-y: auto; background: var(--paper); border-left: 1px solid var(--line); padding: 14px 16px 24px; display: flex; flex-direction: column; gap: 18px; }
.margin-column > * { flex: none; }
.reel-row { grid-area: reel; }
.status { margin: 0; font-size: 13px; color: var(--quiet); }
.status.bad { color: var(--vermilion); font-weight: 600; }
.card { border-left: 3px solid var(--line); padding: 2px 0 2px 10px; }
.card h3 { margin: 0; font-size: 14.5px; font-weight: 600; }
.card p { margin: 0; font-size: 13px; }
.stale-card { border-left-color: var(--ochre); }
.keys p { line-height: 1.9; color: var(--quiet); }
kbd { font: 500 11.5px var(--sans); border: 1px solid var(--line); border-radius: 3px; padding: 0 4px; background: var(--sheet); color: var(--ink); }
.left-out-note { position: sticky; bottom: 0; margin: 0; padding: 8px 24px; background: var(--stale-wash); font-size: 14px; text-align: center; }
.conflict { margin: 14px 24px; padding: 12px 16px; border: 1px solid var(--vermilion); border-left-width: 4px; display: grid; grid-template-columns: 1fr 1fr; gap: 10px 18px; }
.conflict > p { grid-column: 1 / -1; margin: 0; }
.conflict .serif { font-weight: 400; margin: 0 0 8px; }
@media (max-width: 1000px) {
  .desk { grid-template: 'masthead' auto 'tools' auto 'page' minmax(0, 1fr) 'reel' auto / minmax(0, 1fr); }
  .tools { grid-area: tools; display: flex; gap: 8px; padding: 6px 12px; background: var(--paper); border-bottom: 1px solid var(--line); }
  .spine-column, .margin-column { display: none; grid-area: page; z-index: 2; border: 0; }
  .spine-column.drawn { display: block; }
  .margin-column.drawn { display: flex; }
}
</style>

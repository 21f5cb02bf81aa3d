<script setup lang="ts">
import { useEventListener, useMediaQuery } from '@vueuse/core'
import type { PassageKind } from '#core/script/script'
import type { PartSummary } from '#shared/api'
import { writtenText } from '#core/script/content'
import { useHistory } from '~/stores/history'
import { usePage, type PageConflict } from '~/stores/page'
import { count, spokenLength } from '~/utils/format'

// The desk: spine, page, margin, reel.

const { desk, notices, id, loading, ready } = useDeskPage('Script')
const pages = usePage()
const history = useHistory()
const narrow = useMediaQuery('(max-width: 1000px)')
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
watch(() => desk.scoreTick, () => void Promise.all([pages.refresh(), history.load()]).catch(() => undefined))
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
  const sentence = utterances.value.findIndex(utterance => utterance.key === route.query['sentence'])
  if (sentence >= 0) listening.select(sentence)
}

function choose(chosen: string): void {
  drawer.value = 'none'
  void router.replace({ query: { part: chosen } })
}

async function stepEdits(direction: 'undo' | 'redo'): Promise<void> {
  const changed = await history.step(direction)
  if (changed === null) return
  if (changed === partId.value) await pages.refresh()
  else if (desk.parts.some(part => part.id === changed)) choose(changed)
}

const conflictChoices = (conflict: PageConflict) => [
  { key: 'mine', title: 'In this window', text: writtenText(pages.unsaved.get(conflict.passageId)!), action: 'Keep the text of this window' },
  { key: 'theirs', title: 'In the other window', text: writtenText(conflict.theirs), action: 'Take the other text' },
]
const undoChoices = computed(() => {
  const [conflict] = history.refused?.conflicts ?? []
  if (conflict === undefined) return []
  const wanted = `What ${history.refused!.direction} would put ${history.refused!.direction === 'undo' ? 'back' : 'there'}`
  return [
    { key: 'now', title: 'What is there now', text: conflict.now, action: 'Keep what is there' },
    { key: 'back', title: wanted, text: conflict.wanted, action: conflict.content === null ? null : 'Put this text there' },
  ]
})

/** The passage that holds the caret, when a part can begin with it. */
const splittable = computed(() => {
  const index = pages.page?.passages.findIndex(passage => passage.id === passageId.value) ?? -1
  return index > 0 ? pages.page!.passages[index]! : null
})

async function split(): Promise<void> {
  const passage = splittable.value!
  await pages.flush()
  const part = summary.value!
  const opening = writtenText(passage.content).trim()
  const label = passage.kind === 'title' || passage.kind === 'heading' ? opening.slice(0, 300) : `${part.label.slice(0, 290)}, continued`
  operate({ op: 'splitPart', partId: part.id, revision: part.revision, passageId: passage.id, label })
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
  const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, [contenteditable="true"]') !== null
  if ((event.ctrlKey || event.metaKey) && !event.altKey && !typing && (event.code === 'KeyZ' || event.code === 'KeyY')) {
    event.preventDefault()
    void stepEdits(event.code === 'KeyY' || event.shiftKey ? 'redo' : 'undo')
    return
  }
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

function rename(part: PartSummary, label: string): void { operate({ op: 'renamePart', partId: part.id, revision: part.revision, label }) }
function include(part: PartSummary, included: boolean): void { operate({ op: 'includePart', partId: part.id, revision: part.revision, included }) }
function merge(part: PartSummary): void {
  const next = desk.parts[desk.parts.findIndex(other => other.id === part.id) + 1]
  if (next !== undefined) operate({ op: 'mergePart', partId: part.id, revision: part.revision, nextPartId: next.id })
}
function move(part: PartSummary, afterPartId: string | null): void { operate({ op: 'movePart', partId: part.id, revision: part.revision, afterPartId }) }
</script>

<template>
  <div v-if="ready && desk.desk !== null" class="desk">
    <AppMasthead />
    <div class="tools">
      <v-btn size="small" :aria-expanded="drawer === 'spine'" @click="drawer = drawer === 'spine' ? 'none' : 'spine'">Parts</v-btn>
      <v-btn size="small" :aria-expanded="drawer === 'margin'" @click="drawer = drawer === 'margin' ? 'none' : 'margin'">Margin</v-btn>
      <EditState v-if="narrow" class="narrow-state" @step="stepEdits" />
    </div>
    <SpineList
      class="spine-column" :class="{ drawn: drawer === 'spine' }" :parts="desk.parts" :current="partId" :total-ms="desk.totalMs"
      @choose="choose" @rename="rename" @include="include" @move="move" @merge="merge"
    />

    <main class="page-column" data-region="page">
      <div class="conflicts">
        <TextConflict
          v-for="conflict in pages.conflicts" :key="conflict.passageId" heading="This passage was changed in another window. Choose the text that stays."
          :choices="conflictChoices(conflict)" @choose="key => pages.resolve(conflict, key === 'mine' ? 'mine' : 'theirs')"
        />
        <TextConflict
          v-if="history.refused !== null" :heading="`The ${history.refused.direction} was refused: this was changed since. Choose what stays.`" :choices="undoChoices"
          @choose="key => notices.attempt(key === 'back' ? history.putBack : history.keepThatIsThere)"
        />
      </div>
      <ScriptPage
        v-if="pages.page !== null" :key="pages.page.part.id" :page="pages.page" :load-tick="pages.loadTick" :house-style="desk.desk.houseStyle"
        :lit="listening.current.value" @edit="pages.edit" @caret="caret" @hear="hear" @leave="listening.stop()" @step="stepEdits"
      />
      <p v-if="summary !== undefined && !summary.included" class="left-out-note">This part is left out: it makes no audio and no file.</p>
    </main>

    <aside class="margin-column" :class="{ drawn: drawer === 'margin' }" aria-label="Margin" data-region="margin">
      <EditState v-if="!narrow" @step="stepEdits" />
      <section v-if="summary !== undefined && summary.included && summary.missing > 0 && desk.running === null" class="card stale-card">
        <h3>{{ summary.state === 'stale' ? `${count(summary.missing, 'sentence')} stale` : `${count(summary.missing, 'sentence')} to read` }}</h3>
        <p class="quiet">{{ summary.state === 'stale' ? 'changed since the part was read' : 'in this part' }} · {{ spokenLength(unreadMs) }}</p>
      </section>
      <RestCard :house-style="desk.desk.houseStyle" :kind="kind" :counts="counts" @change="patch => notices.attempt(() => desk.setHouseStyle(patch))" />
      <section v-if="splittable !== null" class="card">
        <h3>Divide the part</h3>
        <p class="quiet">before “{{ writtenText(splittable.content).slice(0, 40) }}{{ writtenText(splittable.content).length > 40 ? '…' : '' }}”</p>
        <v-btn size="small" class="card-action" @mousedown.prevent @click="split">Begin a new part here</v-btn>
      </section>
      <section class="card keys">
        <h3>Keys</h3>
        <p><kbd>Ctrl</kbd> <kbd>Enter</kbd> hear this sentence<br><kbd>Ctrl</kbd> <kbd>Shift</kbd> <kbd>Enter</kbd> hear from here<br><kbd>Esc</kbd> leave the text, then<br><kbd>Space</kbd> play or stop · <kbd>←</kbd> <kbd>→</kbd> sentence<br><kbd>Ctrl</kbd> <kbd>Z</kbd> undo · <kbd>Ctrl</kbd> <kbd>Y</kbd> redo<br><kbd>F6</kbd> next area</p>
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
/* Above the text wherever it is scrolled to. */
.conflicts { position: sticky; top: 0; z-index: 1; max-height: 75%; overflow-y: auto; background: var(--sheet); }
.margin-column { grid-area: margin; overflow-y: auto; background: var(--paper); border-left: 1px solid var(--line); padding: 14px 16px 24px; display: flex; flex-direction: column; gap: 18px; }
.margin-column > * { flex: none; }
.reel-row { grid-area: reel; }
.card { border-left: 3px solid var(--line); padding: 2px 0 2px 10px; }
.card h3 { margin: 0; font-size: 14.5px; font-weight: 600; }
.card p { margin: 0; font-size: 13px; }
.card-action { margin-top: 6px; }
.stale-card { border-left-color: var(--ochre); }
.keys p { line-height: 1.9; color: var(--quiet); }
kbd { font: 500 11.5px var(--sans); border: 1px solid var(--line); border-radius: 3px; padding: 0 4px; background: var(--sheet); color: var(--ink); }
.left-out-note { position: sticky; bottom: 0; margin: 0; padding: 8px 24px; background: var(--stale-wash); font-size: 14px; text-align: center; }
@media (max-width: 1000px) {
  .desk { grid-template: 'masthead' auto 'tools' auto 'page' minmax(0, 1fr) 'reel' auto / minmax(0, 1fr); }
  .tools { grid-area: tools; display: flex; gap: 8px; padding: 6px 12px; background: var(--paper); border-bottom: 1px solid var(--line); }
  .narrow-state { flex: 1; justify-content: flex-end; }
  .spine-column, .margin-column { display: none; grid-area: page; z-index: 2; border: 0; }
  .spine-column.drawn { display: block; }
  .margin-column.drawn { display: flex; }
}
</style>

<script setup lang="ts">
import { useEventListener, useLocalStorage, useMediaQuery } from '@vueuse/core'
import type { FileMark } from '#core/runsheet/split'
import type { PassageKind } from '#core/script/script'
import type { FindHit, PartSummary } from '#shared/api'
import type { Operation, WholePassage } from '#shared/operations'
import { joinContents, sliceContent, writtenText, type Content } from '#core/script/content'
import type { PlacedDirection } from '~/editor/commands'
import type { Light } from '~/editor/overlay'
import ScriptPage from '~/components/ScriptPage.vue'
import type { DirectionCard } from '~/composables/useDirectionCards'
import { v7 as uuidv7 } from 'uuid'
import { useHistory } from '~/stores/history'
import { usePage, type PageConflict } from '~/stores/page'
import { ask } from '~/utils/api'
import { count, spokenLength } from '~/utils/format'

// The desk: spine, page, margin, reel.

const { desk, notices, id, page: addressOf, loading, ready } = useDeskPage('Script')
const pages = usePage()
const history = useHistory()
const narrow = useMediaQuery('(max-width: 1000px)')
const route = useRoute()
const router = useRouter()

const partId = computed(() => pages.page?.part.id ?? null)
const utterances = computed(() => pages.page?.utterances ?? [])
const listening = useListening(partId, utterances)
const sample = useSample()
const scroller = ref<HTMLElement | null>(null)
const place = usePlace(id, { partId, utterances, current: listening.current, scroller })
const passageId = ref<string | null>(null)
const sheet = ref<InstanceType<typeof ScriptPage> | null>(null)
const cards = shallowRef<readonly DirectionCard[]>([])
const spokenForm = ref<'written' | 'both' | 'spoken'>('both')
const finding = ref(false)
const drawer = ref<'none' | 'spine' | 'margin'>('none')

const kind = computed<PassageKind | null>(() => pages.page?.passages.find(passage => passage.id === passageId.value)?.kind ?? null)
const counts = computed(() => {
  const result: Partial<Record<PassageKind, number>> = {}
  for (const passage of pages.page?.passages ?? []) result[passage.kind] = (result[passage.kind] ?? 0) + 1
  return result
})
const light = computed<Light | null>(() => {
  const utterance = listening.current.value === null ? undefined : utterances.value[listening.current.value]
  return utterance === undefined ? null : { passageId: utterance.passageId, start: utterance.start, end: utterance.end, word: listening.word.value }
})
const passages = computed(() => pages.page?.passages ?? [])
const passage = computed(() => passages.value.find(each => each.id === passageId.value) ?? null)
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

/** A page that was left keeps its part in the store; it is opened all the same, at its place. */
let isOpen = false
async function openPart(wanted: unknown): Promise<void> {
  // Where nothing is asked for, one goes on where one was; a part that is left out is nobody's beginning.
  const before = place.last()
  const part = [wanted, before?.partId].map(sought => desk.parts.find(each => each.id === sought)).find(each => each !== undefined) ?? desk.included[0] ?? desk.parts[0]
  if (part === undefined || isOpen && part.id === partId.value) return
  isOpen = true
  await place.open(async () => {
    listening.stop()
    listening.select(0)
    passageId.value = null
    await notices.attempt(() => pages.open(id, part.id))
    const asked = utterances.value.findIndex(utterance => utterance.key === route.query['sentence'])
    listening.select(asked >= 0 ? asked : place.sentenceOf(before))
    return asked < 0 ? before : null
  })
}

function choose(chosen: string): void {
  drawer.value = 'none'
  void router.replace(addressOf('script', { part: chosen }))
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

const dividing = ref(false)

/** Several changes as one edit, after what is being written has been saved. */
function operateAll(operations: Operation[]): void {
  if (operations.length === 0) return
  void notices.attempt(async () => {
    await pages.flush()
    await desk.operate(operations)
    if (!desk.parts.some(part => part.id === partId.value)) await openPart(null)
  })
}

/** Changes of passages, after what is being written has been saved. */
async function operatePassages(make: () => Operation[]): Promise<void> {
  await notices.attempt(async () => {
    await pages.flush()
    const operations = make()
    if (operations.length > 0) await desk.operate(operations)
    await pages.refresh()
  })
}

function setRole(passageIds: readonly string[], role: string | null): void {
  void operatePassages(() => passages.value.filter(each => passageIds.includes(each.id) && each.role !== role).map(each => ({ op: 'setPassage', passageId: each.id, revision: each.revision, role })))
}

/** All passages of the part as they are to be. */
function setPassages(next: readonly WholePassage[]): Operation[] {
  return [{
    op: 'setPassages', partId: partId.value!, seen: passages.value.map(({ id: seenId, revision }) => ({ id: seenId, revision })),
    passages: next.map(({ id: own, kind: ownKind, content, language, role }) => ({ id: own, kind: ownKind, content, language, role })),
  }]
}

/** Begins a new passage at the caret. */
async function splitPassage(split: string, at: number): Promise<void> {
  const made = uuidv7()
  await operatePassages(() => setPassages(passages.value.flatMap(each => {
    if (each.id !== split) return [each]
    const end = writtenText(each.content).length
    const rest = sliceContent(each.content, at, end)
    return [{ ...each, content: sliceContent(each.content, 0, at) }, { ...each, id: made, kind: each.kind === 'title' || each.kind === 'heading' ? 'paragraph' as const : each.kind, content: rest }]
  })))
  goOn(made, 0)
}

/** Puts a passage behind the one before it. */
async function joinPassage(joined: string): Promise<void> {
  const index = passages.value.findIndex(each => each.id === joined)
  const before = passages.value[index - 1]
  if (before === undefined) return goOn(joined, 0)
  const end = writtenText(pages.unsaved.get(before.id) ?? before.content).length
  await operatePassages(() => setPassages(passages.value.flatMap((each, at) => at === index ? [] : at === index - 1 ? [{ ...each, content: joinContents(each.content, passages.value[index]!.content) }] : [each])))
  goOn(before.id, end)
}

/** Puts the caret where typing goes on, and what was typed meanwhile with it. */
function goOn(at: string, offset: number): void {
  void nextTick(() => {
    sheet.value?.goTo(at, offset)
    sheet.value?.typeHeld()
  })
}

function hearContent(heard: string, content: Content): void {
  const own = passages.value.find(each => each.id === heard)
  if (own === undefined) return
  listening.stop()
  void notices.attempt(() => sample.hearPassages(id, { passages: [{ kind: own.kind, content, language: own.language, role: own.role }] }))
}

const { ssml, ssmlSource, openSsml, takeSsml, closeSsml, pasted, pastedContent, pasteAs } = useSsml({
  sheet, passages, part: summary, language: () => desk.desk!.language, roles: () => desk.desk!.roles, operate: desk.operate, operatePassages, setPassages, before: () => { finding.value = false },
})

// Find and replace.

async function openHit(hit: FindHit): Promise<void> {
  ssml.value = null
  if (hit.partId !== partId.value) {
    choose(hit.partId)
    await openPart(hit.partId)
  }
  void nextTick(() => sheet.value?.goTo(hit.passageId, hit.start, hit.end))
}

async function replace(operation: Operation): Promise<void> {
  await notices.attempt(async () => {
    await pages.flush()
    const { replaced } = await desk.operate([operation])
    await pages.refresh()
    if (replaced === undefined) return
    const refused = replaced.refused === 0 ? '' : ` ${count(replaced.refused, 'value')} stayed: the new text is no value there.`
    notices.show(`Replaced ${count(replaced.count, 'hit')} in ${count(replaced.passages, 'passage')}.${refused} Ctrl+Z takes it back.`)
  })
}

/** Says whether a file begins at the passage of the caret. */
function setFileMark(mark: FileMark | null): void {
  const marked = passage.value!.id
  void notices.attempt(async () => {
    await pages.flush()
    await ask(`/api/editions/${id}/file-marks`, 'PUT', { marks: [{ passageId: marked, mark }] })
    await pages.refresh()
  })
}

const isMakingRoles = ref(false)

async function makeRoles(): Promise<void> {
  isMakingRoles.value = true
  await operatePassages(() => [{ op: 'dialogue', roles: desk.desk!.speakers.map(({ label, role }) => ({ label, role })) }])
  isMakingRoles.value = false
}

/** Makes a role, to be chosen where it is needed. */
async function makeRole(name: string): Promise<string | null> {
  const id = uuidv7()
  return await notices.attempt(() => desk.operate([{ op: 'makeRole', id, name }])) === null ? null : id
}

const bringSound = (file: File, name?: string): Promise<string | null> => notices.attempt(() => desk.addSound(file, name))

function editDirection(placed: PlacedDirection): void {
  drawer.value = 'none'
  sheet.value?.edit(placed)
}

/** What is written and not yet saved is part of what one wants to hear. */
async function hear(index: number, onwards: boolean): Promise<void> {
  await pages.flush()
  await listening.play(index, onwards ? Number.POSITIVE_INFINITY : index)
}

async function resume(): Promise<void> {
  await pages.flush()
  await listening.resume()
}

/** Who speaks where it plays. */
const speaker = computed(() => {
  const { roles } = desk.desk!
  const spoken = listening.current.value === null ? null : utterances.value[listening.current.value]?.role ?? null
  return roles.find(each => each.id === spoken) ?? roles[0]!
})

/** The word that was chosen last, by the caret or by listening. */
const word = shallowRef<{ readonly passageId: string, readonly start: number, readonly end: number } | null>(null)
watch(light, lit => { if (lit?.word) word.value = { passageId: lit.passageId, start: lit.word.start, end: lit.word.end } })
const wordText = computed(() => {
  const own = passages.value.find(each => each.id === word.value?.passageId)
  return own === undefined || word.value === null ? '' : writtenText(pages.unsaved.get(own.id) ?? own.content).slice(word.value.start, word.value.end)
})

const answered = ref(false)
const { margin, answer, top: answerTop, find: findLine } = useAnswerPlace(word, () => word.value === null ? null : sheet.value?.lineTop(word.value.passageId, word.value.start) ?? null)

function caret(utterance: number | null, passage: string | null, at: readonly [start: number, end: number] | null): void {
  passageId.value = passage
  word.value = passage === null || at === null ? null : { passageId: passage, start: at[0], end: at[1] }
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

const exports = [
  { format: 'ssml', title: 'SSML' }, { format: 'txt', title: 'Plain text' }, { format: 'md', title: 'Markdown' }, { format: 'docx', title: 'Word document' },
] as const
const exportAddress = (format: typeof exports[number]['format']): string => `/api/editions/${id}/script?format=${format}`
const exportAs = (format: typeof exports[number]['format']) => () => navigateTo(exportAddress(format), { external: true })

const marginTabs = [['here', 'Here'], ['rests', 'Rests'], ['keys', 'Keys']] as const
const marginTab = useLocalStorage<typeof marginTabs[number][0]>('margin', 'here')

const regions = ['spine', 'page', 'margin', 'reel']

useCommands('edits', { undo: () => stepEdits('undo'), redo: () => stepEdits('redo') })
useCommands('script', {
  hear: () => sheet.value?.hear(false),
  hearOn: () => sheet.value?.hear(true),
  play: () => { if (listening.playing.value) listening.stop(); else void resume() },
  previousSentence: () => stepSentence(-1),
  nextSentence: () => stepSentence(1),
  previousPart: () => stepPart(-1),
  nextPart: () => stepPart(1),
  enterText: () => sheet.value?.focus(),
  leaveText: () => sheet.value?.leave(),
  directions: () => { if (ssml.value === null) sheet.value?.openMenu() },
  find: () => { finding.value = true },
  nextArea: () => moveRegion(1),
  previousArea: () => moveRegion(-1),
  ssml: () => { if (ssml.value === null) openSsml(); else closeSsml() },
  written: () => { spokenForm.value = 'written' },
  bothForms: () => { spokenForm.value = 'both' },
  spoken: () => { spokenForm.value = 'spoken' },
  beginPart: () => splittable.value === null ? notices.show('Put the caret into the passage that the new part is to begin with; the first one begins this part already.') : void split(),
  divide: () => { dividing.value = true },
  exportSsml: exportAs('ssml'),
  exportText: exportAs('txt'),
  exportMarkdown: exportAs('md'),
  exportWord: exportAs('docx'),
  read: () => void notices.attempt(desk.read),
})

function moveRegion(by: 1 | -1): void {
  const here = regions.indexOf((document.activeElement?.closest('[data-region]') as HTMLElement | null)?.dataset['region'] ?? 'reel')
  const next = regions[(here + by + regions.length) % regions.length]!
  const region = document.querySelector<HTMLElement>(`[data-region="${next}"]`)
  // The page is entered where its text is.
  const first = region?.querySelector<HTMLElement>('[contenteditable="true"]') ?? region?.querySelector<HTMLElement>(':is(button, input, a)')
  first?.focus()
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
      @operate="operateAll" @divide="dividing = true"
    />
    <DivideDialog v-model="dividing" :edition-id="id" :parts="desk.parts" @operate="operateAll" />

    <main class="page-column" data-region="page">
      <h1 class="sr-only">Script: {{ summary?.label ?? desk.desk.title }}</h1>
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
      <div class="page-tools" role="toolbar" aria-label="Page">
        <div class="switch" role="group" aria-label="Shows">
          <button v-for="each in (['written', 'both', 'spoken'] as const)" :key="each" type="button" :aria-pressed="spokenForm === each" @click="spokenForm = each">{{ each === 'written' ? 'Written' : each === 'both' ? 'Both' : 'Spoken' }}</button>
        </div>
        <v-btn size="small" :disabled="ssml !== null" @mousedown.prevent @click="sheet?.openMenu()">Directions</v-btn>
        <v-btn size="small" :aria-pressed="ssml !== null" @mousedown.prevent @click="ssml === null ? openSsml() : closeSsml()">SSML</v-btn>
        <v-btn size="small" :aria-pressed="finding" @click="finding = !finding">Find and replace</v-btn>
        <v-menu>
          <template #activator="{ props: menu }"><v-btn size="small" v-bind="menu">Export</v-btn></template>
          <v-list density="compact">
            <v-list-item v-for="each in exports" :key="each.format" :href="exportAddress(each.format)" :title="each.title" download />
          </v-list>
        </v-menu>
      </div>
      <FindPanel v-if="finding" :edition-id="id" :score-tick="desk.scoreTick" @open="openHit" @replace="replace" @close="finding = false" />
      <div v-if="pasted !== null" class="pasted" role="alertdialog" aria-label="SSML was pasted">
        <p>{{ pastedContent === null ? 'What you paste looks like SSML, but has errors in it.' : 'What you paste is SSML.' }}</p>
        <v-btn size="small" color="primary" variant="flat" :disabled="pastedContent === null" :autofocus="pastedContent !== null" @click="pasteAs('directions')">Paste as directions</v-btn>
        <v-btn size="small" :autofocus="pastedContent === null" @click="pasteAs('text')">Paste as text</v-btn>
        <v-btn size="small" variant="text" @click="pasted = null">Cancel</v-btn>
      </div>
      <SsmlView
        v-if="ssml !== null" :key="`${partId} ${ssml.scope} ${ssml.passageId}`" :source="ssmlSource" :scope="ssml.scope" :roles="desk.desk.roles.map(role => role.name)"
        :surroundings="{ casting: desk.desk.casting, engine: desk.engineOf(desk.desk.casting), language: passage?.language ?? desk.desk.language, languages: desk.desk.languages, sounds: desk.desk.sounds.map(each => each.name) }"
        @change="takeSsml" @scope="openSsml" @close="closeSsml"
      />
      <div v-show="ssml === null" ref="scroller" class="page-scroll">
        <AnnouncedLines :texts="pages.page?.announced.before ?? []" :to="addressOf('delivery')" />
        <ScriptPage
          v-if="pages.page !== null" ref="sheet" :key="pages.page.part.id" :page="pages.page" :load-tick="pages.loadTick" :house-style="desk.desk.houseStyle"
          :language="desk.desk.language" :casting="desk.desk.casting" :engines="desk.desk.engines" :roles="desk.desk.roles" :languages="desk.desk.languages" :sounds="desk.desk.sounds" :bring-sound="bringSound" :make-role="makeRole" :light="light" :spoken-form="spokenForm"
          @edit="pages.edit" @caret="caret" @hear="hear" @hear-content="hearContent" @leave="listening.stop()" @cards="shown => { cards = shown; findLine() }"
          @role="setRole" @split="splitPassage" @join="joinPassage" @ssml="text => pasted = text"
        />
        <AnnouncedLines :texts="pages.page?.announced.after ?? []" :to="addressOf('delivery')" />
        <p v-if="summary !== undefined && !summary.included" class="left-out-note">This part is left out: it makes no audio and no file.</p>
      </div>
    </main>

    <aside ref="margin" class="margin-column" :class="{ drawn: drawer === 'margin', leveled: cards.length > 0 && ssml === null }" aria-label="Margin" data-region="margin">
      <EditState v-if="!narrow" @step="stepEdits" />
      <DirectionCards v-if="cards.length > 0 && ssml === null" class="direction-cards" :cards="cards" @edit="editDirection" />
      <div class="tabs" role="tablist" aria-label="Margin">
        <button v-for="[key, title] in marginTabs" :id="`margin-${key}`" :key="key" type="button" role="tab" :aria-selected="marginTab === key" aria-controls="margin-panel" @mousedown.prevent @click="marginTab = key">{{ title }}</button>
      </div>
      <div id="margin-panel" class="work" role="tabpanel" :aria-labelledby="`margin-${marginTab}`" tabindex="0">
        <template v-if="marginTab === 'here'">
          <section v-if="partId !== null && word !== null && wordText.trim() !== '' && !listening.playing.value && ssml === null" ref="answer" class="card" :class="{ answer: answered }" :style="answered ? { top: `${answerTop}px` } : {}">
            <h2>“{{ wordText.length > 40 ? `${wordText.slice(0, 40)}…` : wordText }}”</h2>
            <WhyCard v-model:open="answered" :part-id="partId" :place="word" :tick="desk.scoreTick" />
          </section>
          <section v-if="summary !== undefined && summary.included && summary.missing > 0 && desk.running === null" class="card stale-card">
            <h2>{{ summary.state === 'stale' ? `${count(summary.missing, 'sentence')} stale` : `${count(summary.missing, 'sentence')} to read` }}</h2>
            <p class="quiet">{{ summary.state === 'stale' ? 'changed since the part was read' : 'in this part' }} · {{ spokenLength(unreadMs) }}</p>
          </section>
          <section v-if="desk.desk.speakers.length > 0" class="card speakers-card">
            <h2>This is a dialogue</h2>
            <p class="quiet">Each speaker can have a voice. The names before their lines are not spoken then: {{ desk.desk.speakers.map(each => `${each.label} (${each.count})`).join(', ') }}.</p>
            <v-btn size="small" class="card-action" :loading="isMakingRoles" @click="makeRoles">Make {{ count(desk.desk.speakers.length, 'role') }}</v-btn>
          </section>
          <AboutCard v-if="summary !== undefined && summary.about !== null && Object.keys(summary.about).length > 0" :about="summary.about" />
          <section v-if="splittable !== null" class="card">
            <h2>Divide the part</h2>
            <p class="quiet">before “{{ writtenText(splittable.content).slice(0, 40) }}{{ writtenText(splittable.content).length > 40 ? '…' : '' }}”</p>
            <v-btn size="small" class="card-action" @mousedown.prevent @click="split">Begin a new part here</v-btn>
          </section>
          <FileMarkCard v-if="passage !== null" :mark="pages.page?.fileMarks[passage.id] ?? null" @set="setFileMark" />
        </template>
        <RestCard v-else-if="marginTab === 'rests'" :house-style="desk.desk.houseStyle" :kind="kind" :counts="counts" @change="patch => operate({ op: 'setHouseStyle', patch })" />
        <KeyCard v-else :ids="['hear', 'hearOn', 'directions', 'find', 'leaveText', 'play', 'previousSentence', 'nextSentence', 'undo', 'redo', 'nextArea']" />
      </div>
    </aside>

    <ReelStrip
      class="reel-row" :utterances="utterances" :peaks="pages.peaks" :current="listening.current.value" :elapsed="listening.elapsed.value"
      :playing="listening.playing.value" @play="from => hear(from, true)" @resume="resume" @stop="listening.stop()"
    >
      <b>{{ speaker.name }}</b> · {{ speaker.casting.wordsPerMinute }} words a minute<br>
      <template v-if="desk.missing > 0 && desk.running === null">
        <v-btn color="primary" variant="flat" size="small" title="Makes the audio of every sentence that has none. Deliveries are made of it." @click="notices.attempt(desk.read)">Read {{ count(desk.missing, 'sentence') }}</v-btn>
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
.page-column { grid-area: page; display: flex; flex-direction: column; min-height: 0; background: var(--sheet); }
.page-scroll { flex: 1; min-height: 0; overflow-y: auto; }
.page-tools { display: flex; flex-wrap: wrap; align-items: center; gap: 6px; padding: 7px 20px; border-bottom: 1px solid var(--line); }
.switch { display: flex; margin-right: auto; border: 1px solid var(--line); border-radius: 4px; overflow: hidden; }
.switch button { border: 0; background: none; font: inherit; font-size: 13.5px; color: var(--quiet); padding: 3px 10px; cursor: pointer; }
.switch button[aria-pressed='true'] { background: var(--paper); color: var(--ink); font-weight: 600; }
.pasted { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; padding: 8px 20px; background: var(--lit); font-size: 14.5px; }
.pasted p { margin: 0; flex: 1 1 200px; }
/* Above the text wherever it is scrolled to. */
.conflicts { flex: none; max-height: 75%; overflow-y: auto; background: var(--sheet); }
.margin-column { grid-area: margin; position: relative; min-height: 0; background: var(--paper); border-left: 1px solid var(--line); padding: 14px 16px 0; display: flex; flex-direction: column; gap: 12px; }
.margin-column > * { flex: none; }
/* The directions are level with the lines of the page; what one works with has a place of its own below, whatever stands above. */
.direction-cards { flex: 1 1 0; min-height: 0; overflow-y: auto; }
.tabs { display: flex; gap: 4px; border-bottom: 1px solid var(--line); }
.tabs button { padding: 3px 10px; border: 0; border-bottom: 2px solid transparent; background: none; font: inherit; font-size: 13.5px; color: var(--quiet); cursor: pointer; }
.tabs button[aria-selected='true'] { border-bottom-color: var(--verdigris); color: var(--ink); font-weight: 600; }
.work { flex: 1 1 auto; min-height: 0; overflow-y: auto; display: flex; flex-direction: column; gap: 18px; padding-bottom: 24px; }
.work > * { flex: none; }
.leveled { padding-top: 6px; }
.leveled .work { flex: 0 1 auto; max-height: 42%; }
.answer { position: absolute; left: 16px; right: 12px; z-index: 2; max-height: calc(100% - 16px); overflow-y: auto; padding: 6px 8px 6px 10px; background: var(--sheet); border: 1px solid var(--line); border-left: 3px solid var(--verdigris); border-radius: 0 4px 4px 0; }
.reel-row { grid-area: reel; }
.card { border-left: 3px solid var(--line); padding: 2px 0 2px 10px; }
.card h2 { margin: 0; font-family: var(--sans); font-size: 14.5px; font-weight: 600; }
.card p { margin: 0; font-size: 13px; }
.card-action { margin-top: 6px; }
.stale-card { border-left-color: var(--ochre); }
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

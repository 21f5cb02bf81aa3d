<script setup lang="ts">
import { mdiPlay } from '@mdi/js'
import { useDebounceFn, useVirtualList } from '@vueuse/core'
import { v7 as uuidv7 } from 'uuid'
import { anchorAt } from '#core/script/anchor'
import { plainContent, writtenText, type Content } from '#core/script/content'
import { withDirection } from '#core/script/edit'
import type { Passage } from '#core/script/script'
import { censusReasons, isDecided, readingIn, toBeRead, type CensusReason } from '#core/words/census'
import type { Said, WordEntry } from '#core/words/wordbook'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { count } from '~/utils/format'
import { directionOf, type HeardPlace } from '~/utils/said'
import { reasonNames, speechNames } from '~/utils/words'
import type { CensusPlaceView, CensusRow } from '~/workers/words.worker'
import { useProduction } from '~/stores/production'

// Every word and token that the voice may say wrong, what hurts most first, and what is done about it.

const props = defineProps<{ editionId: string, words: ReturnType<typeof useWords>, tick: number }>()
const { page } = useProduction()
const emit = defineEmits<{ view: [view: 'wordbook' | 'style' | 'narrator'] }>()
const desk = useDesk()
const notices = useNotices()
const sample = useSample()

const entries = shallowRef<readonly CensusRow[]>([])
const places = shallowRef<readonly CensusPlaceView[]>([])
const looking = ref(true)
const hasDictionary = ref(true)
const reason = ref<CensusReason | 'all' | 'left'>('all')
const chosenKey = ref<string | null>(null)
const said = shallowRef<{ readonly said: Said, readonly ipa: string | null } | null>(null)
const ipa = shallowRef<ReadonlyMap<string, string>>(new Map())
const most = ref(40)

const keyOf = ({ reason: why, key }: Pick<CensusRow, 'reason' | 'key'>): string => `${why} ${key}`

watch(() => props.tick, () => void notices.attempt(async () => {
  if (props.tick === 0) return
  performance.mark('census asked')
  entries.value = await props.words.ask<readonly CensusRow[]>({ ask: 'census', voice: desk.desk?.casting.voice ?? '' }, first => {
    performance.mark('census first')
    if (entries.value.length === 0) entries.value = first
  })
  performance.mark('census done')
  looking.value = false
  hasDictionary.value = await props.words.ask<boolean>({ ask: 'dictionary' })
  await loadPlaces()
}), { immediate: true })

const notLeft = computed(() => entries.value.filter(entry => entry.left === null))
const openEntries = computed(() => notLeft.value.filter(entry => !isDecided(entry)))
const leftEntries = computed(() => entries.value.filter(entry => entry.left !== null))
const shown = computed(() => reason.value === 'left' ? leftEntries.value : reason.value === 'all' ? openEntries.value : notLeft.value.filter(entry => entry.reason === reason.value))
const reasons = computed(() => [
  { key: 'all' as const, title: 'All that is open', count: openEntries.value.length, main: true },
  ...censusReasons.map(key => ({ key, title: reasonNames[key], count: notLeft.value.filter(entry => entry.reason === key).length })),
  { key: 'left' as const, title: 'Left as it is', count: leftEntries.value.length },
])
const settled = computed(() => entries.value.length - openEntries.value.length)
const chosen = computed(() => shown.value.find(entry => keyOf(entry) === chosenKey.value) ?? shown.value[0] ?? null)
const chosenIpa = computed(() => chosen.value === null ? undefined : ipa.value.get(keyOf(chosen.value)))

/** The places of the chosen entry are asked for when it is chosen. */
async function loadPlaces(): Promise<void> {
  const entry = chosen.value
  if (entry === null) return
  const found = await props.words.ask<readonly CensusPlaceView[]>({ ask: 'places', reason: entry.reason, key: entry.key, most: most.value })
  if (chosen.value === entry) places.value = found
}
watch([chosen, most], () => void loadPlaces().catch(() => undefined))

const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(shown, { itemHeight: 46, overscan: 8 })

// How the voice says what is in view is asked for as it comes into view.
const askIpa = useDebounceFn(async () => {
  const wanted = [...list.value.map(({ data }) => data), ...(chosen.value === null ? [] : [chosen.value])].filter(entry => entry.reason !== 'long-sentence' && entry.spokenAs.trim() !== '' && !ipa.value.has(keyOf(entry))).slice(0, 60)
  if (wanted.length === 0) return
  const answer = await ask<{ readonly ipa: readonly string[] }>(`/api/editions/${props.editionId}/words/ipa`, 'POST', { texts: wanted.map(toBeRead) }).catch(() => null)
  if (answer === null) return
  ipa.value = new Map([...ipa.value, ...wanted.map((entry, index) => [keyOf(entry), readingIn(entry, answer.ipa[index] ?? '')] as const)])
}, 60)
watch(list, () => void askIpa(), { immediate: true, deep: true })
watch(() => [desk.desk?.casting.voice, props.tick], () => { ipa.value = new Map(); void askIpa() })

const canSet = computed(() => chosen.value !== null && chosen.value.reason !== 'long-sentence' && chosen.value.reason !== 'all-capitals')
const start = computed(() => ({ written: chosen.value!.text, by: chosen.value!.reason === 'acronym' ? 'letters' as const : ['number', 'date', 'roman-numeral', 'symbol', 'rule-in-doubt', 'said-by-rule'].includes(chosen.value!.reason) ? 'alias' as const : 'respelling' as const, partOfSpeech: chosen.value!.partOfSpeech }))

function choose(entry: CensusRow): void {
  chosenKey.value = keyOf(entry)
  most.value = 40
}

/** Goes on with the entry behind the one that is done with. */
function goOn(done: CensusRow): void {
  const at = shown.value.findIndex(entry => keyOf(entry) === keyOf(done))
  const next = shown.value[at + 1] ?? shown.value[at - 1]
  chosenKey.value = next === undefined ? null : keyOf(next)
}

async function setForAll(entry: Omit<WordEntry, 'id'>, shared: boolean): Promise<void> {
  const done = chosen.value!
  const kept = await notices.attempt(() => desk.operate([{ op: 'setWord', id: uuidv7(), shared, entry }]))
  if (kept !== null) goOn(done)
}

async function leave(entry: CensusRow): Promise<void> {
  const known = entry.left
  await notices.attempt(() => desk.operate([known === null
    ? { op: 'decide', id: uuidv7(), decision: { about: 'census', reason: entry.reason, key: entry.key.slice(0, 300) } }
    : { op: 'decide', id: known, decision: null }]))
  goOn(entry)
}

type StoredPassage = Passage & { readonly revision: number }

async function leaveHere(entry: CensusRow, { passageId, start: from, end }: CensusPlaceView): Promise<void> {
  await notices.attempt(async () => {
    const passage = await props.words.ask<StoredPassage>({ ask: 'passage', passageId })
    await desk.operate([{ op: 'decide', id: uuidv7(), decision: { about: 'census', reason: entry.reason, key: entry.key.slice(0, 300), at: anchorAt(passageId, writtenText(passage.content), from, end) } }])
  })
}

/** Says one place as the form has it: a direction in the script. */
async function sayHere(entry: CensusRow, { passageId, start: from, end }: CensusPlaceView): Promise<void> {
  const direction = directionOf(said.value!.said, said.value!.ipa)
  await notices.attempt(async () => {
    const passage = await props.words.ask<StoredPassage>({ ask: 'passage', passageId })
    await desk.operate([{ op: 'setContent', passageId, revision: passage.revision, content: withDirection(passage.content, { ...direction, id: uuidv7() }, from, end) }])
  })
}

/** The first place in its sentence. */
const sentencePlace = computed((): HeardPlace | undefined => {
  const [place] = places.value
  return place === undefined ? undefined : { text: place.sentence, start: place.start - place.sentenceAt, end: place.end - place.sentenceAt }
})

function hearContent(content: Content): void {
  void notices.attempt(() => sample.hearPassages(props.editionId, { passages: [{ kind: 'paragraph', content, language: null, role: null }] }))
}

const hear = (text: string): void => hearContent(plainContent(text))

function step(by: 1 | -1): void {
  const at = Math.max(0, Math.min(shown.value.length - 1, shown.value.findIndex(entry => entry === chosen.value) + by))
  if (shown.value[at] === undefined) return
  choose(shown.value[at])
  if (!list.value.slice(1, -8).some(({ index }) => index === at)) scrollTo(Math.max(0, at - 3))
}

const panel = ref<HTMLElement | null>(null)
useCommands('census', {
  previousEntry: () => step(-1),
  nextEntry: () => step(1),
  hearWord: () => { if (chosen.value !== null) hear(chosen.value.text) },
  hearItsSentence: () => { if (places.value[0] !== undefined) hear(places.value[0].sentence) },
  leaveWord: () => { if (chosen.value !== null) void leave(chosen.value) },
  setWord: () => panel.value?.querySelector<HTMLElement>('.pronunciation .first')?.focus(),
})
</script>

<template>
  <div class="census">
    <nav class="reasons" aria-label="Why it is listed">
      <p class="label">{{ looking ? 'Taking the census …' : 'Census' }}</p>
      <div class="bar" role="img" :aria-label="`${settled} of ${entries.length} settled`"><span :style="{ width: `${entries.length === 0 ? 0 : settled / entries.length * 100}%` }" /></div>
      <p class="quiet small" role="status">{{ leftEntries.length }} left as they are · {{ count(openEntries.length, 'entry', 'entries') }} open</p>
      <ReasonList v-model="reason" :reasons="reasons" />
      <p v-if="!hasDictionary" class="quiet small">There is no dictionary of this language here: words that none has are not listed.</p>
      <KeyCard class="keys" :ids="['previousEntry', 'nextEntry', 'hearWord', 'hearItsSentence', 'setWord', 'leaveWord']" />
    </nav>

    <section class="entries" aria-label="Census">
      <div class="head" aria-hidden="true"><span>Written</span><span>Said now</span><span>Places</span><span>For example</span></div>
      <p v-if="shown.length === 0 && !looking" class="quiet empty">{{ reason === 'all' ? 'Nothing doubtful is open.' : 'Nothing here.' }}</p>
      <div v-bind="containerProps" class="scroller">
        <div v-bind="wrapperProps" class="rows" data-keys="list">
          <button v-for="{ data, index } in list" :key="keyOf(data)" type="button" class="row" :aria-pressed="data === chosen" :data-index="index" @click="choose(data)">
            <span class="text serif">{{ data.reason === 'long-sentence' ? `${data.text.slice(0, 40)}…` : data.text }}{{ ' ' }}<span v-if="data.partOfSpeech !== null" class="part">{{ speechNames[data.partOfSpeech] }}</span><span class="sr-only">{{ reasonNames[data.reason] }}, {{ count(data.count, 'place') }}. </span></span>
            <span class="said"><template v-if="data.spokenAs.trim() !== data.text && data.reason !== 'long-sentence'">{{ data.spokenAs.trim() || 'unspoken' }} </template><span v-if="ipa.get(keyOf(data))" class="serif">/{{ ipa.get(keyOf(data)) }}/</span></span>
            <span class="figure" aria-hidden="true">{{ data.count.toLocaleString('en') }}</span>
            <span class="example">{{ data.example.before.slice(-24).replace(/^\S*\s/u, '') }}<mark>{{ data.example.written.slice(0, 40) }}</mark>{{ data.example.after }}</span>
          </button>
        </div>
      </div>
    </section>

    <section v-if="chosen !== null" ref="panel" class="detail" aria-label="The entry">
      <p class="quiet small">{{ reasonNames[chosen.reason] }}</p>
      <h2 class="serif">{{ chosen.reason === 'long-sentence' ? 'A long sentence' : chosen.text }}<span v-if="chosen.partOfSpeech !== null" class="part">{{ speechNames[chosen.partOfSpeech] }}</span></h2>
      <p v-if="chosenIpa" class="now"><span class="serif ipa">/{{ chosenIpa }}/</span> as the voice says it now</p>
      <p v-if="chosen.proposal !== null" class="small">{{ chosen.reason === 'heteronym' ? 'Two pronunciations' : 'Proposed' }}: {{ chosen.proposal }}</p>
      <div class="buttons">
        <v-btn v-if="chosen.reason !== 'long-sentence'" size="small" :prepend-icon="mdiPlay" @click="hear(chosen.text)">As it is now <KeyCaps id="hearWord" class="caps" /></v-btn>
        <v-btn size="small" :prepend-icon="mdiPlay" :disabled="places.length === 0" @click="hear(places[0]!.sentence)">Its sentence <KeyCaps id="hearItsSentence" class="caps" /></v-btn>
        <v-btn size="small" @click="leave(chosen)">{{ reason === 'left' ? 'Open it again' : 'Leave as it is' }} <KeyCaps id="leaveWord" class="caps" /></v-btn>
      </div>
      <WordForm v-if="canSet" :key="keyOf(chosen)" :entry="null" :shared="false" :language="desk.desk!.language" :languages="desk.desk!.languages" :sentence="sentencePlace" :start="start" :places="chosen.count" @keep="setForAll" @hear="hearContent" @said="(each, sounds) => { said = each === null ? null : { said: each, ipa: sounds } }" />
      <h2>{{ count(chosen.count, 'place') }}</h2>
      <ul class="places">
        <li v-for="place in places" :key="`${place.passageId} ${place.start}`">
          <p class="serif"><template v-if="chosen.reason !== 'long-sentence'">{{ place.before }}</template><b>{{ place.written }}</b><template v-if="chosen.reason !== 'long-sentence'">{{ place.after }}</template></p>
          <WhyCard :part-id="place.partId" :place="place" :tick="tick" />
          <div class="place-actions">
            <NuxtLink :to="page('script', { part: place.partId })" class="quiet">{{ place.partLabel }}</NuxtLink>
            <v-btn v-if="canSet" size="small" variant="text" :disabled="said === null" @click="sayHere(chosen, place)">Set only here</v-btn>
            <v-btn size="small" variant="text" @click="leaveHere(chosen, place)">Leave here</v-btn>
          </div>
        </li>
      </ul>
      <v-btn v-if="chosen.count > most" size="small" variant="text" @click="most += 40">Show more</v-btn>
      <v-btn v-if="chosen.reason === 'symbol' || chosen.reason === 'number'" size="small" variant="text" @click="emit('view', 'style')">Set by a rule of the house style</v-btn>
    </section>
  </div>
</template>

<style scoped>
.serif { font-weight: 400; }
.census { display: grid; grid-template-columns: 216px minmax(0, 1fr) 330px; height: 100%; }
.reasons { padding: 16px 14px; border-right: 1px solid var(--line); overflow-y: auto; }
.label { margin: 0 0 6px; }
.bar { height: 7px; background: var(--line); }
.bar span { display: block; height: 100%; background: var(--verdigris); }
.small { font-size: 13.5px; margin: 4px 0 10px; }
.keys { margin-top: 18px; line-height: 1.9; }
.caps { margin-left: 6px; }
.entries { display: grid; grid-template-rows: auto auto minmax(0, 1fr); background: var(--sheet); min-width: 0; }
.head, .row { display: grid; grid-template-columns: minmax(90px, 3fr) minmax(110px, 4fr) 52px minmax(0, 5fr); gap: 12px; align-items: center; padding: 0 18px; }
.head { height: 36px; font-size: 13.5px; font-weight: 600; color: var(--quiet); border-bottom: 1px solid var(--ink); }
.head span:nth-child(3) { text-align: right; }
.scroller { grid-row: 3; }
.empty { grid-row: 2; padding: 18px; margin: 0; }
.row { width: 100%; height: 46px; border: 0; border-bottom: 1px solid var(--line); background: none; font: inherit; font-size: 14.5px; text-align: left; color: var(--ink); cursor: pointer; }
.row[aria-pressed='true'] { background: var(--lit); box-shadow: inset 3px 0 0 var(--verdigris); }
.row > span { overflow: hidden; white-space: nowrap; text-overflow: ellipsis; }
.text.serif { font-size: 17px; font-weight: 600; }
.part { margin-left: 6px; font: 13px var(--sans); color: var(--quiet); }
.said { color: var(--dusk); font-style: italic; }
.said .serif, .ipa { font-style: normal; }
.figure { text-align: right; font-variant-numeric: tabular-nums; }
.example { color: var(--quiet); font-size: 14px; }
.example mark { background: var(--lit); color: var(--ink); }
.detail { padding: 16px 20px 24px; border-left: 1px solid var(--line); overflow-y: auto; }
.detail > .small { margin: 0 0 4px; }
h2.serif { font-family: var(--serif); margin: 0; color: var(--ink); font-size: 25px; font-weight: 600; overflow-wrap: anywhere; line-height: 1.2; }
h2 { font-family: var(--sans); margin: 18px 0 4px; font-size: 14.5px; color: var(--quiet); }
.now { margin: 4px 0; font-size: 14px; color: var(--quiet); }
.ipa { font-size: 17px; color: var(--dusk); }
.buttons { display: flex; flex-wrap: wrap; gap: 6px; margin: 8px 0 14px; }
.places { list-style: none; margin: 0; padding: 0; }
.places li { border-bottom: 1px solid var(--line); padding: 8px 0 4px; }
.places p { margin: 0; font-size: 15px; line-height: 1.4; overflow-wrap: anywhere; }
.places b { font-weight: 600; box-shadow: 0 1.5px 0 var(--vermilion); }
.place-actions { display: flex; align-items: center; gap: 4px; font-size: 13.5px; }
.place-actions a { margin-right: auto; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; }
@media (max-width: 1000px) {
  .census { display: block; height: auto; }
  .reasons, .detail { border: 0; }
  .scroller { max-height: 60vh; }
}
@media (max-width: 640px) { .head { display: none; } .row { grid-template-columns: minmax(0, 1fr) 40px; } .said, .example { display: none; } }
</style>

<script setup lang="ts">
import { useDebounceFn, useEventListener } from '@vueuse/core'
import { respellingOf, vowelSpellings } from '#core/words/respelling'
import { soundsOf } from '#core/words/sounds-of'
import type { Said } from '#core/words/wordbook'
import type { Pronunciations, ProposedPronunciation } from '#shared/api'
import type { PronunciationsRequest } from '#shared/schemas'
import type { CommandId } from '~/keys/tables'
import { useKeys } from '~/stores/keys'
import { useDesk } from '~/stores/desk'
import { ask } from '~/utils/api'
import { languageName } from '~/utils/format'
import { saidWays, usualWay } from '~/utils/said'

// How words are said: by syllables, in IPA, as another language says it, as other words or letter by letter. It begins with what is said now, and proposes others to be heard by number keys.

const props = defineProps<{ written: string, language: string, languages: readonly string[] }>()
const said = defineModel<Said>({ required: true })
const emit = defineEmits<{ hear: [] }>()
const desk = useDesk()
const keys = useKeys()

const way = ref<Said['by'] | 'language'>(said.value.by)
const text = computed({
  get: () => said.value.by === 'letters' ? '' : said.value.text,
  set: written => { if (said.value.by !== 'letters') said.value = { by: said.value.by, text: written } },
})
const root = ref<HTMLElement | null>(null)
const field = ref<HTMLInputElement | null>(null)
const found = shallowRef<Pronunciations | null>(null)
/** What stands there because it is said so now: it changes with the word until somebody writes. */
const filled = ref<string | null>(null)
const touched = ref(said.value.by === 'letters' || said.value.text !== '')

const { fault, ipa } = useSaid(said, () => props.language)
const hint = computed(() => saidWays.find(each => each.by === way.value)!.hint)
const ways = computed(() => saidWays.filter(each => each.by !== 'respelling' || usualWay(props.language) === 'respelling' || way.value === 'respelling'))
const languageOptions = computed(() => [...new Set(props.languages)].map(tag => ({ tag, name: languageName(tag) })).sort((a, b) => a.name.localeCompare(b.name)))
const otherLanguage = ref('')

/** A pronunciation in the way that is chosen, where it can be written so, otherwise in IPA. */
function withSounds(sounds: string): Said {
  const syllables = way.value === 'respelling' ? respellingOf(sounds, props.language) : null
  return syllables === null ? { by: 'ipa', text: sounds } : { by: 'respelling', text: syllables }
}

function take(next: Said): void {
  said.value = next
  if (way.value !== 'language' || next.by !== 'ipa') way.value = next.by
}

const asked = computed(() => /\p{L}/u.test(props.written) && props.written.length <= 100 ? props.written : null)
const request = (more: object = {}): Promise<Pronunciations | null> => {
  const body: PronunciationsRequest = { word: asked.value!, language: props.language, ...more }
  return ask<Pronunciations>(`/api/editions/${desk.editionId}/words/pronunciations`, 'POST', body).catch(() => null)
}
const propose = useDebounceFn(async () => {
  const word = asked.value
  const answer = word === null ? null : await request()
  if (word !== asked.value) return
  found.value = answer
  begin()
}, 200)
watch([asked, () => props.language], () => {
  found.value = null
  void propose()
}, { immediate: true })

/** Begins with what is said now, as long as nobody has written anything. */
function begin(): void {
  const now = found.value?.now ?? ''
  if (touched.value || now === '' || said.value.by !== 'respelling' && said.value.by !== 'ipa') return
  const saidNow = withSounds(now)
  take(saidNow)
  filled.value = 'text' in saidNow ? saidNow.text : null
  void nextTick(() => { if (document.activeElement === field.value) field.value?.select() })
}

function write(written: string): void {
  touched.value = true
  text.value = written
}

function chooseWay(next: Said['by'] | 'language'): void {
  const sounds = ipa.value
  way.value = next
  if (next === 'language') return
  if (next === 'letters') said.value = { by: 'letters' }
  else if (next === 'alias') said.value = { by: 'alias', text: '' }
  else if (next === 'ipa') said.value = { by: 'ipa', text: sounds ?? '' }
  else said.value = { by: 'respelling', text: sounds === null ? '' : respellingOf(sounds, props.language) ?? '' }
  if (next !== 'alias' && text.value === '') begin()
}

async function sayAs(language: string): Promise<void> {
  otherLanguage.value = language
  touched.value = true
  const [proposal] = asked.value === null ? [] : (await request({ as: language }))?.proposals ?? []
  if (proposal !== undefined && otherLanguage.value === language) said.value = { by: 'ipa', text: proposal.ipa }
}

function choose({ by, ipa: sounds }: ProposedPronunciation): void {
  touched.value = true
  if (way.value === 'language') way.value = 'ipa'
  take(by === 'letters' ? { by: 'letters' } : withSounds(sounds))
  void nextTick(() => emit('hear'))
}

function isChosen({ by, ipa: sounds }: ProposedPronunciation): boolean {
  const proposed: Said = by === 'letters' ? { by } : withSounds(sounds)
  return said.value.by === proposed.by && text.value === (proposed.by === 'letters' ? '' : proposed.text)
}
const nameOf = ({ by, of }: ProposedPronunciation): string => by === 'letters' ? 'letter by letter' : by === 'language' ? `as ${languageName(of!)} says it` : `like “${of}”`

/** Numbers hear proposals: neither syllables nor IPA have any. */
useEventListener(window, 'keydown', event => {
  const proposal = found.value?.proposals[Number(keys.match('pronunciation', event)?.slice('proposal'.length) ?? 0) - 1]
  if (proposal === undefined) return
  const isTyping = (event.target as HTMLElement).closest('input:not([type="checkbox"]), textarea, select, [contenteditable="true"], [role="listbox"], [role="combobox"]') !== null
  if (isTyping && !event.altKey && (event.target !== field.value || way.value === 'alias')) return
  event.preventDefault()
  choose(proposal)
})

const fieldName = computed(() => way.value === 'alias' ? 'Spoken instead' : way.value === 'ipa' ? 'Sounds, IPA' : 'Syllables')
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div ref="root" class="pronunciation">
    <label>How it is said
      <select :value="way" @change="chooseWay(($event.target as HTMLSelectElement).value as Said['by'])"><option v-for="each in ways" :key="each.by" :value="each.by">{{ each.title }}</option></select>
    </label>
    <label v-if="way === 'language'">Language
      <select :value="otherLanguage" @change="sayAs(($event.target as HTMLSelectElement).value)">
        <option value="" disabled>choose</option>
        <option v-for="each in languageOptions" :key="each.tag" :value="each.tag">{{ each.name }}</option>
      </select>
    </label>
    <label v-else-if="way !== 'letters'">{{ fieldName }}
      <input ref="field" :value="text" class="first" :class="{ serif: way === 'ipa' }" :aria-describedby="hint === '' ? undefined : 'said-hint'" spellcheck="false" autocomplete="off" @input="write(($event.target as HTMLInputElement).value)">
    </label>
    <p v-if="fault !== null && touched && way !== 'language'" class="fault" role="status">{{ fault }}</p>
    <p v-else-if="way === 'language'" class="quiet" role="status"><template v-if="otherLanguage === ''">Its sounds are taken as near as the voice has them.</template><template v-else>/<b class="serif">{{ text }}</b>/</template></p>
    <p v-else-if="text !== '' && text === filled" class="quiet" role="status">This is how it is said now<template v-if="way === 'respelling'">: <b class="serif">/{{ ipa }}/</b></template>.</p>
    <p v-else-if="way === 'respelling' && ipa !== null" class="quiet" role="status">in IPA <b class="serif">/{{ ipa }}/</b></p>
    <p v-else-if="hint !== ''" id="said-hint" class="quiet">{{ hint }}</p>
    <div v-if="way === 'ipa'" class="sounds" role="group" aria-label="Sounds of the language">
      <button v-for="sound in soundsOf(language)" :key="sound.ipa" type="button" :title="sound.as" :aria-label="`${sound.ipa}, ${sound.as}`" @click="write(text + sound.ipa)">{{ sound.ipa }}</button>
    </div>
    <details v-if="way === 'respelling'"><summary>Spellings of vowels</summary><p class="quiet vowels"><span v-for="each in vowelSpellings" :key="each.spelling"><b>{{ each.spelling }}</b> /{{ each.ipa }}/</span></p></details>
    <ol v-if="found !== null && found.proposals.length > 0" aria-label="Proposals">
      <li v-for="(proposal, index) in found.proposals" :key="index">
        <button type="button" :aria-pressed="isChosen(proposal)" @click="choose(proposal)"><KeyCaps v-if="index < 9" :id="`proposal${index + 1}` as CommandId" /> <span class="serif">/{{ proposal.ipa }}/</span> <span class="quiet">{{ nameOf(proposal) }}</span></button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.pronunciation { display: flex; flex-direction: column; gap: 6px; font-size: 14.5px; }
label { display: grid; grid-template-columns: 104px minmax(0, 1fr); align-items: center; gap: 8px; color: var(--quiet); }
input, select { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--line); border-radius: 3px; padding: 4px 6px; min-width: 0; width: 100%; }
.serif { font-family: var(--serif); }
p { margin: 0; font-size: 13.5px; line-height: 1.4; }
.fault { color: var(--vermilion); }
.sounds { display: flex; flex-wrap: wrap; gap: 3px; }
.sounds button { min-width: 26px; padding: 0 4px; border: 1px solid var(--line); border-radius: 3px; background: var(--sheet); font: 16px var(--serif); color: var(--ink); cursor: pointer; }
summary { cursor: pointer; font-size: 13.5px; color: var(--quiet); }
.vowels { display: flex; flex-wrap: wrap; gap: 2px 12px; margin-top: 4px; }
ol { list-style: none; margin: 2px 0 0; padding: 0; border-top: 1px solid var(--line); }
li { border-bottom: 1px solid var(--line); }
li button { display: block; width: 100%; padding: 3px 2px; border: 0; background: none; font: inherit; color: var(--ink); text-align: left; cursor: pointer; overflow-wrap: anywhere; }
li button[aria-pressed='true'] { background: var(--lit); }
</style>

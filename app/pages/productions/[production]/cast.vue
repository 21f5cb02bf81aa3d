<script setup lang="ts">
import { mdiPlay, mdiStop } from '@mdi/js'
import { primaryLanguage } from '#core/language/abbreviations'
import { within } from '#core/score/cast'
import type { Page, SoundView, VoiceView } from '#shared/api'
import type { CastingRequest } from '#shared/schemas'
import { ask } from '~/utils/api'
import { count, languageName, money, speechName } from '~/utils/format'

// Who speaks: voice, pace, pitch and volume of each role, each heard before it is chosen.

const { desk, notices, loading, ready } = useDeskPage('Cast')
const { voices, languages } = useLanguages(false, ref(undefined))
const sentence = ref('')
const language = ref('')
const casting = ref<CastingRequest | null>(null)
const sample = useSample()
const languagePicker = ref<{ focus: () => void } | null>(null)

void loading.then(() => notices.attempt(async () => {
  if (desk.desk === null) return
  casting.value = current()
  language.value = primaryLanguage(desk.desk.language)
  const part = desk.included.find(each => each.words > 100) ?? desk.included[0]
  if (part === undefined) return
  const page = await ask<Page>(`/api/parts/${part.id}`)
  const utterance = page.utterances.find(each => each.end - each.start > 60) ?? page.utterances[0]
  const passage = page.passages.find(each => each.id === utterance?.passageId)
  sentence.value = passage?.content.runs.map(run => run.text).join('').slice(utterance!.start, utterance!.end).slice(0, 500) ?? ''
}))

const roleId = ref<string | null>(null)
const role = computed(() => desk.desk?.roles.find(each => each.id === roleId.value) ?? desk.desk!.roles[0]!)
function choose(id: string): void {
  roleId.value = id
  casting.value = current()
}

function current(): CastingRequest {
  const { engine, voice, wordsPerMinute, pitchSemitones, gainDb } = role.value.casting
  return { engine, voice, wordsPerMinute, pitchSemitones, gainDb }
}

/** What the engine of the chosen voice can do. */
const capable = computed(() => desk.engineOf({ engine: casting.value?.engine ?? role.value.casting.engine }))
const isUsed = (voice: VoiceView): boolean => voice.engine === capable.value.id && voice.id === voiceId.value
const keyOf = ({ engine, id }: VoiceView): string => `${engine} ${id}`

const offered = computed(() => voices.value?.voices.filter(voice => primaryLanguage(voice.language) === language.value) ?? [])
const voiceId = computed(() => casting.value?.voice.split('+')[0] ?? '')
const variant = computed(() => casting.value?.voice.split('+')[1] ?? '')
const variants = computed(() => [
  { title: 'As it is', value: '' },
  ...(voices.value?.variants ?? []).filter(each => each.engine === capable.value.id).map(each => ({ title: `${each.name} (${each.gender})`, value: each.id })),
])
const speaksAnother = computed(() => desk.desk !== null && language.value !== '' && language.value !== primaryLanguage(desk.desk.language))

function withVariant(id: string, variantId: string): string {
  return variantId === '' ? id : `${id}+${variantId}`
}

function set(change: Partial<CastingRequest>): void {
  if (casting.value === null) return
  casting.value = { ...casting.value, ...change }
  void notices.attempt(() => desk.setCasting({ ...casting.value!, roleId: role.value.id }))
}

/** A casting with another voice: one of another engine has no variants of this one, and its own limits. */
function withVoice(from: CastingRequest, { engine, id }: VoiceView): CastingRequest {
  if (engine === capable.value.id) return { ...from, voice: withVariant(id, variant.value) }
  const limits = desk.engineOf({ engine })
  return {
    ...from, engine, voice: id,
    wordsPerMinute: within(limits.wordsPerMinute, from.wordsPerMinute), pitchSemitones: within(limits.pitchSemitones, from.pitchSemitones), gainDb: within(limits.gainDb, from.gainDb),
  }
}

function use(voice: VoiceView): void {
  if (casting.value !== null) set(withVoice(casting.value, voice))
}

/** While a slider moves only the number follows; what is set is what it comes to rest on. */
function preview(change: Partial<CastingRequest>): void {
  if (casting.value !== null) casting.value = { ...casting.value, ...change }
}

function hear(voice: VoiceView): void {
  if (casting.value === null || desk.desk === null) return
  if (sample.playing.value === keyOf(voice)) return sample.stop()
  void notices.attempt(() => sample.hear(keyOf(voice), { ...withVoice(casting.value!, voice), language: desk.desk!.language, text: sentence.value }))
}

function hearSound({ id: soundId }: SoundView): void {
  if (sample.playing.value === soundId) return sample.stop()
  void notices.attempt(() => sample.hearSound(desk.editionId!, soundId))
}

/** Goes to the role before or after this one; round and round. */
function step(by: 1 | -1): void {
  const roles = desk.desk!.roles
  choose(roles.at((roles.findIndex(each => each.id === role.value.id) + by) % roles.length)!.id)
}

useCommands('cast', {
  hearVoice: () => {
    const used = voices.value?.voices.find(isUsed)
    if (used !== undefined) hear(used)
  },
  previousRole: () => step(-1),
  nextRole: () => step(1),
  pickLanguage: () => languagePicker.value?.focus(),
})

const signed = (value: number): string => value > 0 ? `+${value}` : String(value).replace('-', '−')
</script>

<template>
  <AppMasthead />
  <main v-if="ready && desk.desk !== null && casting !== null" class="cast">
    <section class="settings" :aria-label="role.name">
      <ul v-if="desk.desk.roles.length > 1" class="roles" aria-label="Roles">
        <li v-for="each in desk.desk.roles" :key="each.id"><button type="button" :aria-pressed="each.id === role.id" @click="choose(each.id)">{{ each.name }} <span class="quiet">{{ count(each.passages, 'passage') }}</span></button></li>
      </ul>
      <h1>{{ role.name }}</h1>
      <p class="quiet now">{{ voices?.voices.find(isUsed)?.name ?? voiceId }}<template v-if="variant !== ''">, {{ variants.find(each => each.value === variant)?.title }}</template></p>

      <div v-if="desk.desk.warnings.length > 0" role="status" aria-label="What the voices cannot say">
        <ul class="cannot"><li v-for="warning in desk.desk.warnings" :key="warning.code"><b>{{ warning.place }}:</b> {{ warning.message }}</li></ul>
      </div>

      <label for="pace">Pace <b>{{ casting.wordsPerMinute }} words a minute</b></label>
      <v-slider id="pace" :model-value="casting.wordsPerMinute" v-bind="capable.wordsPerMinute" :step="1" aria-label="Pace, words a minute" @update:model-value="preview({ wordsPerMinute: $event })" @end="set({ wordsPerMinute: $event })" @keyup="set({})" />
      <p class="quiet hint">Audiobooks: 150 to 160. Learners: a little slower.</p>

      <label for="pitch">Pitch <b>{{ signed(casting.pitchSemitones) }} semitones</b></label>
      <v-slider id="pitch" :model-value="casting.pitchSemitones" v-bind="capable.pitchSemitones" :step="0.5" aria-label="Pitch, semitones" @update:model-value="preview({ pitchSemitones: $event })" @end="set({ pitchSemitones: $event })" @keyup="set({})" />

      <label for="volume">Volume <b>{{ signed(casting.gainDb) }} dB</b></label>
      <v-slider id="volume" :model-value="casting.gainDb" v-bind="capable.gainDb" :step="0.5" aria-label="Volume, dB below full level" @update:model-value="preview({ gainDb: $event })" @end="set({ gainDb: $event })" @keyup="set({})" />
      <p class="quiet hint">0 dB is the engine’s full level; −3 leaves room for encoding.</p>

      <v-select :model-value="variant" :items="variants" label="Variant of the voice" hint="the same voice with another timbre" persistent-hint @update:model-value="set({ voice: withVariant(voiceId, $event) })" />
      <p v-if="desk.missing > 0" class="stale-text">{{ desk.missing }} sentences are to be read with these settings.</p>
      <p v-else class="done-text">Everything is read with these settings.</p>
    </section>

    <section class="voices" aria-label="Voices">
      <v-textarea v-model="sentence" label="The same sentence in every voice" rows="2" auto-grow maxlength="500" counter />
      <div class="pick">
        <v-autocomplete ref="languagePicker" v-model="language" :items="languages" label="Voices of" max-width="320" />
        <p v-if="speaksAnother" class="stale-text">The text is {{ languageName(desk.desk.language) }}; these voices speak {{ languageName(language) }}.</p>
      </div>
      <table class="plain">
        <thead><tr><th scope="col">Voice</th><th scope="col">Speaks</th><th scope="col">Engine</th><th scope="col">Hear</th><th scope="col">{{ role.name }}</th></tr></thead>
        <tbody>
          <tr v-for="voice in offered" :key="keyOf(voice)" :class="{ used: isUsed(voice) }">
            <td class="serif name">{{ voice.name }}<p v-if="voice.warning !== undefined" class="stale-text">{{ voice.warning }}</p></td>
            <td>{{ speechName(voice.language) }} <span class="mono quiet">{{ voice.id }}</span></td>
            <td>{{ desk.engineOf(voice).name }} <span class="quiet rate">{{ desk.engineOf(voice).sampleRate / 1000 }} kHz</span><p v-if="voice.price !== undefined" class="quiet price">{{ voice.tier }}: {{ money(voice.price.microsPerMillion, voice.price.currency) }} a million characters</p></td>
            <td>
              <v-btn
                size="small" :prepend-icon="sample.playing.value === keyOf(voice) ? mdiStop : mdiPlay" :disabled="sentence.trim() === ''"
                :aria-label="`${sample.playing.value === keyOf(voice) ? 'Stop' : 'Hear'} ${voice.name}`" @click="hear(voice)"
              >
                {{ sample.playing.value === keyOf(voice) ? 'Stop' : 'Hear' }}
              </v-btn>
            </td>
            <td>
              <b v-if="isUsed(voice)" class="done-text">speaks</b>
              <v-btn v-else size="small" :aria-label="`Use this voice: ${voice.name}`" @click="use(voice)">Use this voice</v-btn>
            </td>
          </tr>
        </tbody>
      </table>
      <SoundList :sounds="desk.desk.sounds" :playing="sample.playing.value" @add="file => notices.attempt(() => desk.addSound(file))" @hear="hearSound" @remove="sound => notices.attempt(() => desk.removeSound(sound.id))" />
    </section>
  </main>
</template>

<style scoped>
.cast { display: grid; grid-template-columns: 300px minmax(0, 1fr); height: calc(100vh - var(--masthead) - 1px); }
.settings { padding: 24px 22px; border-right: 1px solid var(--line); overflow-y: auto; display: flex; flex-direction: column; gap: 6px; }
.settings > * { flex: none; margin: 0; }
.settings h1 { margin: 0; }
.roles { list-style: none; padding: 0; margin: 0 0 14px; border-bottom: 1px solid var(--line); padding-bottom: 12px; }
.roles button { display: flex; justify-content: space-between; width: 100%; border: 0; border-left: 3px solid transparent; background: none; font: inherit; color: var(--ink); padding: 3px 10px; text-align: left; cursor: pointer; }
.roles button[aria-pressed='true'] { border-left-color: var(--verdigris); background: var(--sheet); font-weight: 600; }
.now { margin-bottom: 12px; }
.settings label { margin-top: 10px; display: flex; justify-content: space-between; }
.hint { font-size: 13px; }
.settings .v-select { margin: 16px 0 8px; }
.voices { padding: 24px 26px; background: var(--sheet); overflow-y: auto; }
.pick { display: flex; align-items: center; gap: 18px; margin: 12px 0 8px; flex-wrap: wrap; }
.pick .v-autocomplete { flex: 0 1 320px; }
.pick p { margin: 0; }
.name { font-size: 16px; }
.name p { margin: 2px 0 0; font: 13.5px var(--sans); max-width: 260px; }
.price { margin: 0; font-size: 13px; white-space: nowrap; }
.rate { white-space: nowrap; }
tr.used td { background: var(--lit); }
td:first-child, th:first-child { padding-left: 10px; }
@media (max-width: 1000px) { .cast { display: block; height: auto; } .settings { border-right: 0; } }
.cannot { list-style: none; margin: 0 0 14px; padding: 6px 10px; max-height: 190px; overflow-y: auto; border-left: 3px solid var(--ochre); background: var(--stale-wash); font-size: 13.5px; }
.cannot li { padding: 3px 0; overflow-wrap: anywhere; }
</style>

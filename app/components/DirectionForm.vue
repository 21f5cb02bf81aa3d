<script setup lang="ts">
import { mdiTrayArrowUp } from '@mdi/js'
import { dateFormats, timeFormats } from '#core/language/say-as'
import type { Support } from '#core/score/cast'
import { isIpa } from '#core/script/ssml/values'
import { emphasisLevels, restStrengths, type Direction, type DirectionKind, type DirectionOf, type DirectionValue } from '#core/script/directions'
import type { Said } from '#core/words/wordbook'
import type { RoleView, SoundView } from '#shared/api'
import { valueOf } from '~/editor/schema'
import HearBoth, { type HeardScope } from '~/components/HearBoth.vue'
import { languageName, seconds } from '~/utils/format'
import { quickValues, sayAsChoices, type AddedKind } from '~/utils/directions'
import { directionOf, usualWay } from '~/utils/said'
import { directionNames } from '~/utils/words'

// The value of one direction. Enter applies it, Escape gives it up.

const props = defineProps<{
  kind: DirectionKind
  /** What it is about; empty where it stands at a point. */
  words: string
  direction: Direction | null, language: string, roles: readonly RoleView[], languages: readonly string[], sounds: readonly SoundView[]
  bringSound: (file: File, name?: string) => Promise<string | null>
  makeRole: (name: string) => Promise<string | null>
  support: (value: DirectionValue) => Support
}>()
const emit = defineEmits<{ apply: [value: DirectionValue], hear: [value: DirectionValue | null, scope: HeardScope], remove: [], close: [] }>()

const value = ref<DirectionValue>(props.direction === null ? props.kind === 'role' ? { kind: 'role', role: props.roles[0]?.id ?? '' } : { ...quickValues[props.kind as AddedKind] } : valueOf(props.direction))
const as = <K extends DirectionKind>(_: K): DirectionOf<K> => value.value as DirectionOf<K>
const set = (change: object): void => { value.value = { ...value.value, ...change } as DirectionValue }

const form = ref<HTMLElement | null>(null)
onMounted(() => (form.value?.querySelector<HTMLElement>('.first') ?? form.value?.querySelector<HTMLElement>('input, select'))?.focus())

/** How the words are said, where they are a pronunciation in IPA. */
const saysSounds = props.kind === 'phoneme' && (props.direction?.kind !== 'phoneme' || isIpa(props.direction.alphabet))
const said = ref<Said>(saidAtFirst())
function saidAtFirst(): Said {
  const { direction } = props
  return direction?.kind === 'phoneme' ? { by: 'ipa', text: direction.ph } : { by: usualWay(props.language), text: '' }
}
const { fault: saidProblem, ipa: saidIpa } = useSaid(said, () => props.language)
if (saysSounds) watch(said, now => { value.value = directionOf(now, saidIpa.value) })

/** A rest is a number of ms or a strength. */
const restBy = computed(() => 'ms' in value.value ? 'ms' : 'strength')
function setRest(by: string): void { value.value = by === 'ms' ? { kind: 'rest', ms: 500 } : { kind: 'rest', strength: 'medium' } }

const prosody = reactive({ rate: '', pitch: '', range: '', volume: '' })
if (value.value.kind === 'prosody') {
  const { rate, pitch, range, volume } = value.value
  Object.assign(prosody, {
    rate: rate?.replace(/%$/u, '') ?? '', pitch: pitch?.replace(/^\+|st$/gu, '') ?? '', range: range?.replace(/^\+|%$/gu, '') ?? '', volume: volume?.replace(/^\+|dB$/gu, '') ?? '',
  })
}
const signed = (text: string, unit: string): string => /^[-+]?[\d.]+$/u.test(text) ? `${/^[-+]/u.test(text) ? '' : '+'}${text}${unit}` : text
watch(prosody, ({ rate, pitch, range, volume }) => {
  const { contour, duration } = as('prosody')
  value.value = {
    kind: 'prosody',
    ...(rate.trim() === '' ? {} : { rate: /^[\d.]+$/u.test(rate.trim()) ? `${rate.trim()}%` : rate.trim() }),
    ...(pitch.trim() === '' ? {} : { pitch: signed(pitch.trim(), 'st') }),
    ...(range.trim() === '' ? {} : { range: signed(range.trim(), '%') }),
    ...(volume.trim() === '' ? {} : { volume: signed(volume.trim(), 'dB') }),
    ...(contour === undefined ? {} : { contour }), ...(duration === undefined ? {} : { duration }),
  }
})

const soundFile = ref<HTMLInputElement | null>(null)
const isMissing = computed(() => value.value.kind === 'sound' && value.value.sound !== '' && !props.sounds.some(sound => sound.name === as('sound').sound))
const soundLevel = computed({
  get: () => as('sound').attributes?.['soundLevel']?.replace(/^\+|dB$/gu, '') ?? '',
  set: text => {
    const { soundLevel: _, ...others } = as('sound').attributes ?? {}
    const attributes = { ...others, ...(text.trim() === '' ? {} : { soundLevel: signed(text.trim(), 'dB') }) }
    const { attributes: __, ...rest } = as('sound')
    value.value = { ...rest, ...(Object.keys(attributes).length === 0 ? {} : { attributes }) }
  },
})
/** A file that is chosen becomes the sound; for one that is not there it is taken under its name. */
async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file === undefined) return
  const name = await props.bringSound(file, isMissing.value ? as('sound').sound : undefined)
  if (name !== null) set({ sound: name })
}

const newRole = ref('')
const languageOptions = computed(() => [...new Set(props.languages)].map(tag => ({ tag, name: languageName(tag) })).sort((a, b) => a.name.localeCompare(b.name)))

/** What is missing before it can be applied. */
const missing = computed(() => {
  const current = value.value
  if (saysSounds) return saidProblem.value
  switch (current.kind) {
    case 'substitute': return current.alias.trim() === '' ? 'Write the words to be spoken.' : null
    case 'phoneme': return current.ph.trim() === '' ? 'Write its sounds in IPA.' : null
    case 'language': return current.language === '' ? 'Choose a language.' : null
    case 'sound': return current.sound === '' ? props.sounds.length === 0 ? 'The production has no sounds yet. Bring one in: WAV, FLAC, MP3, Ogg, M4A or AIFF.' : 'Choose a sound.' : null
    case 'rest': return 'ms' in current && !(Number.isInteger(current.ms) && current.ms >= 0 && current.ms <= 600_000) ? 'Write a whole number of ms, from 0 to 600,000.' : null
    case 'prosody': return Object.keys(current).length < 2 ? 'Give it a pace, a pitch, a rise and fall or a volume.' : null
    default: return null
  }
})
const { reason: unsayable, settled } = useSayable(computed(() => value.value.kind === 'phoneme' && isIpa(value.value.alphabet) && value.value.ph.trim() !== '' ? value.value.ph.trim() : null), computed(() => props.language))
/** Sounds that the voice says otherwise are taken when they have been heard. */
const heard = ref<string | null>(null)
const isAccepted = computed(() => unsayable.value === null || value.value.kind === 'phoneme' && heard.value === value.value.ph)
const support = computed(() => missing.value !== null || value.value.kind === 'role' ? null : props.support(value.value))

const both = ref<InstanceType<typeof HearBoth> | null>(null)
/** Points are heard between what stands around them. */
const scopes = computed<HeardScope[]>(() => props.words === '' ? ['sentence'] : ['words', 'sentence'])

function hear(isWith: boolean, scope: HeardScope): void {
  if (isWith) heard.value = value.value.kind === 'phoneme' ? value.value.ph : null
  emit('hear', isWith ? value.value : null, scope)
}

async function apply(): Promise<void> {
  if (missing.value !== null) return
  if (value.value.kind === 'phoneme') await settled()
  if (!isAccepted.value) return
  if (value.value.kind === 'role' && value.value.role === '+') {
    const name = newRole.value.trim()
    const role = name === '' ? null : props.roles.find(each => each.name === name)?.id ?? await props.makeRole(name)
    if (role !== null) emit('apply', { kind: 'role', role })
    return
  }
  emit('apply', value.value)
}

/** In a list of choices the browser would open it. */
function enter(event: KeyboardEvent): void {
  if (!(event.target instanceof HTMLSelectElement)) return
  event.preventDefault()
  void apply()
}

const dateNames: Readonly<Record<string, string>> = { dmy: 'day month year', mdy: 'month day year', ymd: 'year month day', dm: 'day month', md: 'month day', ym: 'year month', my: 'month year', d: 'day', m: 'month', y: 'year' }
</script>

<template>
  <div class="direction-form" role="dialog" :aria-label="directionNames[kind]" @keydown.esc.stop.prevent="emit('close')">
    <form ref="form" @submit.prevent="apply" @keydown.enter="enter">
      <h2>{{ directionNames[kind] }}<span v-if="words !== ''" class="about"> “{{ words.length > 60 ? `${words.slice(0, 60)}…` : words }}”</span></h2>

      <PronunciationFields v-if="saysSounds" v-model="said" :written="words" :language="language" :languages="languages" @hear="both?.hear(true)" />

      <template v-else-if="value.kind === 'rest'">
        <label>Given as <select :value="restBy" aria-label="Rest given as" @change="setRest(($event.target as HTMLSelectElement).value)"><option value="ms">milliseconds</option><option value="strength">strength</option></select></label>
        <label v-if="restBy === 'ms'">Length, ms <input type="number" min="0" max="600000" step="50" :value="(value as { ms: number }).ms" aria-label="Length of the rest, ms" @input="set({ ms: Number(($event.target as HTMLInputElement).value) })"></label>
        <label v-else>Strength <select :value="(value as { strength: string }).strength" aria-label="Strength of the rest" @change="set({ strength: ($event.target as HTMLSelectElement).value })"><option v-for="each in restStrengths" :key="each">{{ each }}</option></select></label>
      </template>

      <label v-else-if="value.kind === 'emphasis'">How strong
        <select :value="value.level" aria-label="How strong" @change="set({ level: ($event.target as HTMLSelectElement).value })"><option v-for="each in emphasisLevels" :key="each">{{ each }}</option></select>
      </label>

      <template v-else-if="value.kind === 'sayAs'">
        <label>Say it as
          <select :value="value.interpretAs" aria-label="Say it as" @change="value = { kind: 'sayAs', interpretAs: ($event.target as HTMLSelectElement).value }">
            <option v-for="each in sayAsChoices" :key="each.value" :value="each.value">{{ each.title }}</option>
            <option v-if="!sayAsChoices.some(each => each.value === (value as { interpretAs: string }).interpretAs)" :value="value.interpretAs">{{ value.interpretAs }}</option>
          </select>
        </label>
        <label v-if="value.interpretAs === 'date' || value.interpretAs === 'time'">Written as
          <select :value="value.format ?? ''" aria-label="Written as" @change="set({ format: ($event.target as HTMLSelectElement).value || undefined })">
            <option value="">as it looks</option>
            <option v-for="each in value.interpretAs === 'date' ? dateFormats : timeFormats" :key="each" :value="each">{{ dateNames[each] ?? (each === 'hms12' ? '12 hours' : '24 hours') }}</option>
          </select>
        </label>
        <label v-if="value.interpretAs === 'currency'">Currency <input :value="value.format ?? ''" maxlength="3" placeholder="by its sign" aria-label="Currency, three letters" @input="set({ format: ($event.target as HTMLInputElement).value.toUpperCase() || undefined })"></label>
      </template>

      <label v-else-if="value.kind === 'substitute'">Spoken instead <input :value="value.alias" aria-label="Spoken instead" @input="set({ alias: ($event.target as HTMLInputElement).value })"></label>
      <label v-else-if="value.kind === 'phoneme' && !saysSounds">Sounds, IPA <input :value="value.ph" class="serif-input" aria-label="Sounds in IPA" placeholder="ˈhʌni" @input="set({ ph: ($event.target as HTMLInputElement).value })"></label>

      <template v-else-if="value.kind === 'prosody'">
        <label>Pace, % <input v-model="prosody.rate" inputmode="decimal" aria-label="Pace in per cent of the role’s"></label>
        <label>Pitch, semitones <input v-model="prosody.pitch" inputmode="decimal" placeholder="as it is" aria-label="Pitch in semitones"></label>
        <label>Rise and fall, ± % <input v-model="prosody.range" inputmode="decimal" placeholder="as it is" aria-label="Rise and fall of the pitch, change in per cent"></label>
        <label>Volume, dB <input v-model="prosody.volume" inputmode="decimal" placeholder="as it is" aria-label="Volume in dB"></label>
      </template>

      <label v-else-if="value.kind === 'language'">Language
        <select :value="value.language" aria-label="Language of the words" @change="set({ language: ($event.target as HTMLSelectElement).value })">
          <option value="" disabled>choose</option>
          <option v-if="value.language !== '' && !languages.includes(value.language)" :value="value.language">{{ languageName(value.language) }}</option>
          <option v-for="each in languageOptions" :key="each.tag" :value="each.tag">{{ each.name }}</option>
        </select>
      </label>

      <template v-else-if="value.kind === 'role'">
        <label>Who speaks
          <select :value="value.role" aria-label="Who speaks" @change="set({ role: ($event.target as HTMLSelectElement).value })">
            <option v-for="each in roles" :key="each.id" :value="each.id">{{ each.name }}</option>
            <option value="+">a new role …</option>
          </select>
        </label>
        <label v-if="value.role === '+'">Its name <input v-model="newRole" maxlength="100" aria-label="Name of the new role"></label>
      </template>

      <template v-else-if="value.kind === 'sound'">
        <label>Sound
          <select :value="value.sound" aria-label="Sound" @change="set({ sound: ($event.target as HTMLSelectElement).value })">
            <option value="" disabled>choose</option>
            <option v-if="isMissing" :value="value.sound">{{ value.sound }} (not there)</option>
            <option v-for="each in sounds" :key="each.id" :value="each.name">{{ each.name }}, {{ seconds(each.durationMs) }}</option>
          </select>
        </label>
        <label>Volume, dB <input v-model="soundLevel" inputmode="decimal" placeholder="as it is" aria-label="Volume of the sound, dB"></label>
        <v-btn size="small" :prepend-icon="mdiTrayArrowUp" @click="soundFile?.click()">{{ isMissing ? `Bring in “${value.sound}”` : 'Bring in a sound' }}</v-btn>
        <input ref="soundFile" type="file" accept="audio/*" hidden aria-label="File of a sound" @change="bring">
      </template>
      <p v-else-if="value.kind === 'leftOut'" class="quiet">Written, and not spoken.</p>
      <p v-else class="quiet">It is kept as it came in. It can be changed in the SSML view.</p>

      <p v-if="missing !== null && !saysSounds" class="quiet" role="status">{{ missing }}</p>
      <p v-else-if="unsayable !== null" class="cannot-note" role="status">{{ unsayable }}{{ isAccepted ? '' : ' Hear it before you take it.' }}</p>
      <p v-else-if="support !== null && support.note !== undefined" :class="support.how === 'unavailable' ? 'cannot-note' : 'quiet'" role="status">{{ support.note }}</p>

      <HearBoth v-if="kind !== 'role'" ref="both" class="hear" :scopes="scopes" :disabled="missing !== null" :without="direction === null ? 'Without' : 'As it is'" @hear="hear" />
      <div class="actions">
        <v-btn type="submit" size="small" color="primary" variant="flat" :disabled="missing !== null || !isAccepted">{{ direction === null ? 'Add' : 'Change' }}</v-btn>
        <v-btn v-if="direction !== null" size="small" variant="text" @click="emit('remove')">Remove</v-btn>
        <v-btn v-else size="small" variant="text" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </div>
</template>

<style scoped>
.direction-form { padding: 12px 14px; font-size: 14.5px; }
h2 { font-family: var(--sans); overflow-wrap: anywhere; margin: 0 0 8px; font-size: 15px; font-weight: 600; }
.about { font-weight: 400; }
.hear { margin-top: 12px; }
label { display: grid; grid-template-columns: 118px 1fr; align-items: center; gap: 8px; margin: 5px 0; color: var(--quiet); }
input, select { font: inherit; color: var(--ink); background: var(--paper); border: 1px solid var(--line); border-radius: 3px; padding: 3px 6px; min-width: 0; width: 100%; }
.serif-input { font-family: var(--serif); }
p { margin: 8px 0 0; font-size: 13.5px; line-height: 1.4; }
.cannot-note { color: var(--vermilion); }
.actions { display: flex; flex-wrap: wrap; gap: 6px; margin-top: 8px; }
</style>

<script setup lang="ts">
import { mdiChevronDown, mdiChevronRight } from '@mdi/js'
import { partsOfSpeech, tellsPartsOfSpeech, type PartOfSpeech } from '#core/words/part-of-speech'
import type { Said, WordEntry } from '#core/words/wordbook'
import HearBoth, { type HeardScope } from '~/components/HearBoth.vue'
import { heardContent, usualWay, wholePlace, type HeardPlace } from '~/utils/said'
import { speechNames } from '~/utils/words'
import type { Content } from '#core/script/content'

// One entry of the wordbook: written forms, how they are said, and where that counts. Enter keeps it.

const props = defineProps<{
  entry: Omit<WordEntry, 'id'> | null
  shared: boolean
  language: string
  /** Those that voices speak. */
  languages: readonly string[]
  /** The sentence in which a new entry is heard, and where it stands there. */
  sentence?: HeardPlace
  /** What a new entry begins with. */
  start?: { readonly written: string, readonly by: Said['by'], readonly text?: string, readonly partOfSpeech?: PartOfSpeech | null }
  /** Places that a new entry will speak for. */
  places?: number
}>()
const emit = defineEmits<{ said: [said: Said | null, ipa: string | null], keep: [entry: Omit<WordEntry, 'id'>, shared: boolean], hear: [content: Content], cancel: [] }>()

const first = props.entry?.said.find(said => said.prefer === true) ?? props.entry?.said[0]
const written = ref(props.entry?.graphemes.join(', ') ?? props.start?.written ?? '')
const said = ref<Said>(first === undefined ? beginning() : first.by === 'letters' ? { by: 'letters' } : { by: first.by, text: first.text })
const before = ref(props.entry?.beside?.before?.join(' ') ?? '')
const after = ref(props.entry?.beside?.after?.join(' ') ?? '')
const proposedPart = props.start?.partOfSpeech ?? null
const parts = ref<PartOfSpeech[]>([...props.entry?.partsOfSpeech ?? (proposedPart === null ? [] : [proposedPart])])
const note = ref(props.entry?.note ?? '')
const matchCase = ref(props.entry?.matchCase === true)
const partOfWord = ref(props.entry?.partOfWord === true)
const isShared = ref(props.shared)
const showsWhere = ref(before.value !== '' || after.value !== '' || matchCase.value || partOfWord.value || parts.value.length > 0 || note.value !== '')

const graphemes = computed(() => written.value.split(',').map(each => each.trim()).filter(each => each !== ''))
const language = computed(() => props.entry?.language ?? props.language)
const trimmed = computed<Said>(() => said.value.by === 'letters' ? said.value : { by: said.value.by, text: said.value.text.trim() })
const { fault, ipa } = useSaid(trimmed, language)
const { reason: unsayable, settled } = useSayable(ipa, language)
/** Sounds that the voice says otherwise are kept when they have been heard. */
const heardIpa = ref<string | null>(null)
const isAccepted = computed(() => unsayable.value === null || heardIpa.value === ipa.value)
const canHear = computed(() => graphemes.value.length > 0 && fault.value === null)
const canKeep = computed(() => canHear.value && isAccepted.value)
watch([trimmed, fault], () => emit('said', fault.value === null ? trimmed.value : null, ipa.value), { immediate: true })
const both = ref<InstanceType<typeof HearBoth> | null>(null)

function beginning(): Said {
  const { by = 'respelling', text = '' } = props.start ?? {}
  return by === 'letters' ? { by } : { by: by === 'respelling' ? usualWay(props.language) : by, text }
}

function hear(isWith: boolean, scope: HeardScope): void {
  if (isWith) heardIpa.value = ipa.value
  const place = scope === 'sentence' && props.sentence !== undefined ? props.sentence : wholePlace(graphemes.value[0]!)
  emit('hear', heardContent(place, isWith ? trimmed.value : null, ipa.value))
}

async function keep(): Promise<void> {
  if (!canKeep.value) return
  await settled()
  if (!canKeep.value) return
  const words = (list: string): string[] => list.split(/[\s,]+/u).filter(each => each !== '')
  const beside = { ...(words(before.value).length > 0 ? { before: words(before.value) } : {}), ...(words(after.value).length > 0 ? { after: words(after.value) } : {}) }
  const { said: earlier = [], kept } = props.entry ?? {}
  emit('keep', {
    graphemes: graphemes.value, language: language.value, said: [trimmed.value, ...earlier.filter(each => each !== first).map(({ prefer: _, ...each }) => each)],
    ...(matchCase.value ? { matchCase: true } : {}), ...(partOfWord.value ? { partOfWord: true } : {}),
    ...(Object.keys(beside).length > 0 ? { beside } : {}), ...(parts.value.length > 0 ? { partsOfSpeech: partsOfSpeech.filter(part => parts.value.includes(part)) } : {}), ...(note.value.trim() === '' ? {} : { note: note.value.trim() }), ...(unsayable.value === null ? {} : { heard: true }), ...(kept === undefined ? {} : { kept }),
  }, isShared.value)
}
</script>

<template>
  <form class="word-form" aria-label="How a word is said" @submit.prevent="keep">
    <h2 v-if="start === undefined">{{ entry === null ? 'A new word' : 'Change a word' }}</h2>
    <v-text-field v-model="written" label="Written" hint="several forms with commas" persistent-hint :autofocus="entry !== null" />
    <PronunciationFields v-model="said" :written="graphemes[0] ?? ''" :language="language" :languages="languages" @hear="canHear && both?.hear(true)" />
    <p v-if="fault === null && unsayable !== null" class="fault" role="status">{{ unsayable }}{{ isAccepted ? '' : ' Hear it before you keep it.' }}</p>
    <HearBoth ref="both" :scopes="sentence === undefined ? ['words'] : ['words', 'sentence']" :disabled="!canHear" :empty="graphemes.length === 0" :without="entry === null ? 'Without' : 'As it is'" @hear="hear" />
    <button type="button" class="toggle" :aria-expanded="showsWhere" @click="showsWhere = !showsWhere"><v-icon :icon="showsWhere ? mdiChevronDown : mdiChevronRight" size="16" /> Only in some places</button>
    <div v-if="showsWhere" class="where">
      <v-checkbox v-model="matchCase" label="Only with these capitals" density="compact" hide-details />
      <v-checkbox v-model="partOfWord" label="Within longer words too" density="compact" hide-details />
      <v-select v-if="tellsPartsOfSpeech(language)" v-model="parts" multiple chips closable-chips :items="partsOfSpeech.map(value => ({ value, title: speechNames[value] }))" label="Only as" />
      <v-text-field v-model="before" label="Only after one of these words" />
      <v-text-field v-model="after" label="Or before one of these" />
      <v-text-field v-model="note" label="Note" />
    </div>
    <v-checkbox v-model="isShared" label="In the wordbook that all productions share" density="compact" hide-details />
    <div class="actions">
      <v-btn type="submit" color="primary" variant="flat" :disabled="!canKeep">{{ entry !== null ? 'Keep the change' : places === undefined ? 'Add the word' : places === 1 ? 'Set it' : `Set for all ${places.toLocaleString('en')}` }}</v-btn>
      <v-btn v-if="entry !== null" variant="text" @click="emit('cancel')">Cancel</v-btn>
    </div>
  </form>
</template>

<style scoped>
.word-form { display: flex; flex-direction: column; gap: 10px; }
h2 { margin: 0 0 4px; font-size: 19px; }
p { margin: 0; font-size: 14px; line-height: 1.4; }
.fault { color: var(--vermilion); }
.toggle { cursor: pointer; font: inherit; font-size: 14.5px; color: var(--quiet); text-align: left; border: 0; background: none; padding: 0; }
.where { display: flex; flex-direction: column; gap: 8px; margin-top: 4px; }
.word-form :deep(.v-checkbox .v-label) { font-size: 14.5px; line-height: 1.3; }
.actions { position: sticky; bottom: 0; z-index: 1; display: flex; flex-wrap: wrap; gap: 8px; padding: 8px 0; background: var(--paper); }
</style>

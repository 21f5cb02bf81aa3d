<script setup lang="ts">
import { announcedPlaces, announcementFields, announcementProblem, announcementText, longestAnnouncement, suggestedAnnouncements, unknownFields, type AnnouncedPlace, type AnnouncementField, type Announcements } from '#core/script/announcements'

// What is said and heard around the text: templates with what they say, who speaks them, and sounds.

const announcements = defineModel<Announcements>({ required: true })
const { values, language, partName, roles = [], sounds = [], isOfProduction } = defineProps<{
  /** What fields stand for, by which it is shown what is said. */
  readonly values: Readonly<Record<AnnouncementField, string>>
  /** BCP 47 */
  readonly language: string
  /** What a part is called here. */
  readonly partName: string
  readonly roles?: readonly { readonly id: string, readonly name: string }[]
  /** Names of those that can be played. */
  readonly sounds?: readonly string[]
  /** Roles and sounds are those of a production; a profile has none. */
  readonly isOfProduction: boolean
}>()

const change = (members: Partial<Announcements>): void => { announcements.value = { ...announcements.value, ...members } }

const labels = computed<Readonly<Record<AnnouncedPlace, string>>>(() => ({ opening: 'Before everything', part: `Before each ${partName}`, closing: 'After everything' }))
const fieldNames: Readonly<Record<AnnouncementField, string>> = { number: 'Number', part: 'Title of the part', production: 'Production', author: 'Author', narrator: 'Narrator', year: 'Year', copyright: 'Copyright' }

/** What is said, and what is not known of it. */
function saidOf(place: AnnouncedPlace): string {
  const template = announcements.value[place]
  if (template.trim() === '') return 'Nothing is said.'
  const text = announcementText(template, values)
  const unknown = unknownFields(template, values).map(name => fieldNames[name].toLowerCase())
  const missing = unknown.length === 0 ? '' : ` Not known: ${unknown.join(', ')}. The words before it are left out too.`
  return `${text === '' ? 'Nothing is said.' : `“${text}”`}${missing}`
}

/** Where fields are put in: the template that was written in last. */
const place = ref<AnnouncedPlace>('opening')
const areas = ref<{ readonly $el: HTMLElement }[]>([])

/** Puts a field where the caret is, which stands behind it then. */
async function insert(name: AnnouncementField): Promise<void> {
  const area = areas.value[announcedPlaces.indexOf(place.value)]?.$el.querySelector('textarea') ?? null
  const text = announcements.value[place.value]
  const [start, end] = area === null ? [text.length, text.length] : [area.selectionStart, area.selectionEnd]
  const written = `{${name}}`
  change({ [place.value]: `${text.slice(0, start)}${written}${text.slice(end)}`.slice(0, longestAnnouncement) })
  await nextTick()
  area?.setSelectionRange(start + written.length, start + written.length)
}

/** What is no chapter is not called one. */
function suggest(): void {
  const { part, ...credits } = suggestedAnnouncements(language)
  change({ ...credits, ...(partName === 'slide' || partName === 'article' ? {} : { part }) })
}

const files = [
  { title: 'with what they announce', value: 'none' }, { title: 'credits in own files', value: 'credits' }, { title: 'all in own files', value: 'all' },
] as const
const repeats = [{ title: 'announced all the same', value: 'say' }, { title: 'not announced', value: 'skip' }] as const
const roleItems = computed(() => {
  const known = roles.map(({ id, name }, index) => ({ title: name, value: index === 0 ? null : id }))
  const { role } = announcements.value
  return role === null || roles.some(({ id }) => id === role) ? known : [...known, { title: `${role} (not in the cast: the narrator)`, value: role }]
})
function soundItems(chosen: string | null): { readonly title: string, readonly value: string | null }[] {
  const gone = chosen !== null && !sounds.includes(chosen) ? [{ title: `${chosen} (not there)`, value: chosen }] : []
  return [{ title: 'nothing', value: null }, ...sounds.map(name => ({ title: name, value: name })), ...gone]
}
</script>

<template>
  <div class="announcements">
    <p class="quiet">
      What is said around the text without being in the script. It is read with the part that it stands beside.
      <button type="button" class="plain-link" @click="suggest">Suggest words</button>
    </p>
    <v-textarea
      v-for="each in announcedPlaces" :key="each" ref="areas" :model-value="announcements[each]" :label="labels[each]" :maxlength="longestAnnouncement" rows="1" auto-grow
      :error-messages="announcementProblem(announcements[each], each) ?? []" :hint="saidOf(each)" persistent-hint @focus="place = each" @update:model-value="change({ [each]: $event })"
    />
    <ul class="fields" aria-label="Fields of announcements">
      <li class="quiet">Put in:</li>
      <li v-for="name in announcementFields[place]" :key="name"><button type="button" @mousedown.prevent @click="insert(name)">{{ fieldNames[name] }}</button></li>
    </ul>
    <div class="choices">
      <v-select v-if="isOfProduction" :model-value="announcements.role" :items="roleItems" label="Spoken by" @update:model-value="change({ role: $event })" />
      <v-select :model-value="announcements.ownFiles" :items="files" label="Where" @update:model-value="change({ ownFiles: $event })" />
      <v-select :model-value="announcements.repeats" :items="repeats" :label="`A ${partName} whose title says the same`" @update:model-value="change({ repeats: $event })" />
    </div>
    <div v-if="isOfProduction" class="choices">
      <v-select :model-value="announcements.intro" :items="soundItems(announcements.intro)" label="Play first" @update:model-value="change({ intro: $event })" />
      <v-select :model-value="announcements.outro" :items="soundItems(announcements.outro)" label="Play last" @update:model-value="change({ outro: $event })" />
      <v-select
        :model-value="announcements.soundsOf" :items="[{ title: 'everything', value: 'production' }, { title: `each ${partName}`, value: 'part' }]" label="Sounds are played around"
        @update:model-value="change({ soundsOf: $event })"
      />
      <v-select
        :model-value="announcements.roomTone" :items="soundItems(announcements.roomTone)" label="Room tone" hint="A quiet sound under all speech and silence" persistent-hint
        @update:model-value="change({ roomTone: $event })"
      />
    </div>
    <p v-if="isOfProduction && sounds.length === 0" class="quiet">Sounds are brought in on the Cast page.</p>
  </div>
</template>

<style scoped>
.announcements > p { margin: 0 0 12px; font-size: 14px; }
.v-textarea { margin-bottom: 12px; }
.fields { list-style: none; margin: 0 0 14px; padding: 0; display: flex; flex-wrap: wrap; gap: 6px; align-items: baseline; font-size: 14px; }
.fields button { border: 1px solid var(--line); border-radius: 4px; background: var(--sheet); padding: 2px 8px; cursor: pointer; }
.choices { display: grid; grid-template-columns: repeat(auto-fill, minmax(200px, 1fr)); gap: 12px 10px; margin-bottom: 12px; }
</style>

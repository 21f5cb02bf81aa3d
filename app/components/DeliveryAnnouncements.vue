<script setup lang="ts">
import { announcedKinds, announcementsProblem, announcementText, type AnnouncementField, type Announcements } from '#core/script/announcements'
import type { DeliveryDesk } from '#shared/delivery'
import { useDesk } from '~/stores/desk'
import { count } from '~/utils/format'

// What is said and heard around the text, in short; it is changed in a form.

const { sheet } = defineProps<{ readonly sheet: DeliveryDesk, readonly locked: boolean }>()
const emit = defineEmits<{ readonly save: [announcements: Announcements | null] }>()
const desk = useDesk()

const first = computed(() => desk.included.find(({ kind }) => announcedKinds.has(kind)))
const partName = computed(() => first.value?.kind ?? 'chapter')

const values = computed<Readonly<Record<AnnouncementField, string>>>(() => {
  const { narrator, year, copyright } = sheet.details
  return { production: desk.desk?.title ?? '', author: desk.desk?.author ?? '', narrator, year, copyright, number: '1', part: first.value?.label ?? '' }
})

/** What is said, and in which words for the first part. */
const lines = computed(() => {
  const { opening, part, closing, intro, outro, roomTone, ownFiles } = sheet.announcements
  const said = (what: string, template: string): string[] => {
    const text = announcementText(template, values.value)
    return text === '' ? [] : [`${what}: “${text}”`]
  }
  const sounds = [intro, outro].filter(name => name !== null)
  const all = [...said('First', opening), ...said(`Before each ${partName.value}`, part), ...said('Last', closing), ...(sounds.length === 0 ? [] : [`Sounds: ${sounds.join(', ')}`]), ...(roomTone === null ? [] : [`Room tone: ${roomTone}`])]
  const isApart = ownFiles !== 'none' && opening + closing !== '' || ownFiles === 'all' && part !== ''
  return all.length === 0 ? ['Nothing is said beside the text.'] : isApart ? [...all, ownFiles === 'all' ? 'in files of their own' : 'credits in files of their own'] : all
})

/** Parts that a warning names. */
const named = 2
const warnings = computed(() => {
  const { role, intro, outro, roomTone } = sheet.announcements
  const { roles = [], sounds = [] } = desk.desk ?? {}
  const { doubled } = sheet
  const gone = [intro, outro, roomTone].filter(name => name !== null && !sounds.some(sound => sound.name === name))
  return [
    ...(doubled.length === 0 ? [] : [`${count(doubled.length, 'title is', 'titles are')} said twice, by the announcement and by the ${partName.value} itself: ${doubled.slice(0, named).join(', ')}${doubled.length > named ? ` and ${doubled.length - named} more` : ''}. Announce by number only, or leave these announcements out.`]),
    ...(role === null || roles.some(({ id }) => id === role) ? [] : [`There is no role “${role}” in the cast: the narrator speaks the announcements.`]),
    ...gone.map(name => `The production has no sound “${name}”: nothing is played. Bring it in on the Cast page, or choose another.`),
  ]
})

const draft = shallowRef<Announcements | null>(null)
const problem = computed(() => draft.value === null ? null : announcementsProblem(draft.value))

function save(announcements: Announcements | null): void {
  draft.value = null
  emit('save', announcements)
}
</script>

<template>
  <section class="announced" aria-labelledby="announced-head">
    <p id="announced-head" class="label">Announcements</p>
    <p v-for="line in lines" :key="line" class="line">{{ line }}</p>
    <p v-for="text in warnings" :key="text" class="line stale-text">{{ text }}</p>
    <p class="line acts">
      <button type="button" class="plain-link" :disabled="locked" @click="draft = sheet.announcements">Change the announcements …</button>
      <button v-if="sheet.doubled.length > 0" type="button" class="plain-link" :disabled="locked" @click="save({ ...sheet.announcements, repeats: 'skip' })">Leave {{ sheet.doubled.length === 1 ? 'it' : 'them' }} out</button>
      <button v-if="sheet.isOwnAnnouncements" type="button" class="plain-link" :disabled="locked" @click="save(null)">As the profile says</button>
    </p>
    <v-dialog :model-value="draft !== null" max-width="760" aria-label="Announcements" scrollable @update:model-value="draft = null">
      <v-card v-if="draft !== null && desk.desk !== null" title="Announcements">
        <v-card-text>
          <form id="announcement-form" @submit.prevent="problem === null ? save(draft) : undefined">
            <AnnouncementFields v-model="draft" :values="values" :language="desk.desk.language" :part-name="partName" :roles="desk.desk.roles" :sounds="desk.desk.sounds.map(sound => sound.name)" is-of-production />
          </form>
        </v-card-text>
        <v-card-actions>
          <v-btn @click="draft = null">Leave it as it is</v-btn>
          <v-btn type="submit" form="announcement-form" color="primary" variant="flat" :disabled="problem !== null">Save</v-btn>
        </v-card-actions>
      </v-card>
    </v-dialog>
  </section>
</template>

<style scoped>
.announced { margin: 0 0 18px; }
.label { margin: 0 0 4px; }
.line { font-size: 14px; margin: 0 0 6px; overflow-wrap: anywhere; }
.acts { display: flex; flex-wrap: wrap; gap: 2px 14px; }
form { padding-top: 8px; }
</style>

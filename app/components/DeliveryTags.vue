<script setup lang="ts">
import { mdiTrayArrowUp } from '@mdi/js'
import { detailRemedy, type WorkCover, type WorkDetails } from '#core/delivery/details'
import { size } from '~/utils/format'

// What the tags of the files say besides title, author and language, and the picture on their cover.

const { details, cover, editionId } = defineProps<{
  readonly details: WorkDetails
  readonly cover: WorkCover | null
  readonly editionId: string
  readonly locked: boolean
}>()
const emit = defineEmits<{ readonly save: [changed: Partial<WorkDetails>], readonly bring: [file: File], readonly remove: [] }>()

interface Field {
  readonly name: keyof WorkDetails
  readonly label: string
  readonly placeholder?: string
}

const fields: readonly Field[] = [
  { name: 'narrator', label: 'Narrator' },
  { name: 'year', label: 'Year' },
  { name: 'genre', label: 'Genre', placeholder: 'Audiobook' },
  { name: 'disc', label: 'Disc', placeholder: '1/2' },
  { name: 'copyright', label: 'Copyright' },
  { name: 'comment', label: 'Comment' },
]

/** What was typed and is not saved yet, or cannot be. */
const typed = ref<Partial<Record<keyof WorkDetails, string>>>({})
const valueOf = (name: keyof WorkDetails): string => typed.value[name] ?? details[name]
const problemOf = (name: keyof WorkDetails): string | null => detailRemedy(name, valueOf(name).trim())

function save(name: keyof WorkDetails): void {
  const value = valueOf(name).trim()
  if (problemOf(name) === null && value !== details[name]) emit('save', { [name]: value })
}
// What is saved is no longer typed; what was typed in other fields meanwhile stays.
watch(() => details, saved => {
  typed.value = Object.fromEntries(Object.entries(typed.value).filter(([name, value]) => value.trim() !== saved[name as keyof WorkDetails]))
})

const input = ref<HTMLInputElement | null>(null)
function chosen(event: Event): void {
  const target = event.target as HTMLInputElement
  const [file] = target.files ?? []
  if (file !== undefined) emit('bring', file)
  target.value = ''
}

/** Most shops ask for a square of so many pixels at least (*common practice*). */
const leastPixels = 1400
const notes = computed(() => cover === null
  ? []
  : [
      ...(cover.width === cover.height ? [] : ['It is no square: players cut it or leave bands.']),
      ...(Math.min(cover.width, cover.height) >= leastPixels ? [] : [`It is small: shops ask for ${leastPixels} × ${leastPixels} pixels or more.`]),
    ])
</script>

<template>
  <details class="tags">
    <summary class="label">Tags and cover</summary>
    <div class="cover">
      <img v-if="cover !== null" :src="`/api/editions/${editionId}/cover?version=${cover.sha256}`" alt="The cover" width="96" height="96">
      <div v-else class="none quiet">no cover</div>
      <div>
        <v-btn size="small" :prepend-icon="mdiTrayArrowUp" :disabled="locked" @click="input?.click()">{{ cover === null ? 'Bring in a cover' : 'Another one' }}</v-btn>
        <v-btn v-if="cover !== null" size="small" variant="text" :disabled="locked" aria-label="Remove the cover" @click="$emit('remove')">Remove</v-btn>
        <p v-if="cover === null" class="small quiet">JPEG or PNG, a square of {{ leastPixels }} pixels or more</p>
        <p v-else class="small quiet">{{ cover.width }} × {{ cover.height }}, {{ size(cover.bytes) }}</p>
      </div>
      <input ref="input" type="file" accept="image/jpeg,image/png" hidden aria-label="Picture for the cover" @change="chosen">
    </div>
    <p v-for="text in notes" :key="text" class="small stale-text">{{ text }}</p>
    <v-text-field
      v-for="field in fields" :key="field.name" :model-value="valueOf(field.name)" :label="field.label" :placeholder="field.placeholder ?? ''" :disabled="locked" :error-messages="problemOf(field.name) ?? []"
      @update:model-value="typed[field.name] = $event" @change="save(field.name)"
    />
    <p class="small quiet">Title, author and language are those of the production; each format has what it knows of these.</p>
  </details>
</template>

<style scoped>
.tags { margin: 0 0 16px; }
summary { cursor: pointer; margin-bottom: 10px; }
.cover { display: flex; gap: 12px; align-items: flex-start; margin-bottom: 12px; }
.cover img, .none { width: 96px; height: 96px; flex: none; border: 1px solid var(--line); border-radius: 4px; object-fit: contain; }
.none { display: grid; place-items: center; font-size: 14px; }
.small { font-size: 14px; margin: 4px 0 8px; }
.v-text-field { margin-bottom: 12px; }
</style>

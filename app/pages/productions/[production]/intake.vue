<script setup lang="ts">
import { count, spokenLength } from '~/utils/format'

// What came in, and what the production is called.

const { desk, notices, page, ready } = useDeskPage('Intake')
const { languages } = useLanguages(true, computed(() => desk.desk?.language))

function change(field: 'title' | 'author' | 'language', value: string): void {
  if (field === 'title' && value.trim() === '') return
  if (value === (desk.desk?.[field] ?? '')) return
  void notices.attempt(() => desk.edit({ [field]: value }))
}
</script>

<template>
  <AppMasthead />
  <main v-if="ready && desk.desk !== null" class="intake">
    <h1>Intake</h1>
    <p>
      From <span class="mono">{{ desk.desk.fileName ?? 'no file' }}</span>:
      {{ count(desk.parts.length, 'part') }}, {{ count(desk.parts.reduce((sum, part) => sum + part.words, 0), 'word') }}, {{ spokenLength(desk.totalMs) }}.
    </p>
    <v-text-field :model-value="desk.desk.title" label="Title: the album of every file" maxlength="300" @change="change('title', ($event.target as HTMLInputElement).value)" />
    <v-text-field :model-value="desk.desk.author ?? ''" label="Author" maxlength="300" @change="change('author', ($event.target as HTMLInputElement).value)" />
    <v-autocomplete :model-value="desk.desk.language" :items="languages" label="Language: where sentences end, and what the files say" @update:model-value="change('language', $event ?? '')" />
    <p class="quiet">Everything here saves itself. Another document begins a new production: <NuxtLink to="/">bring it in on the shelf</NuxtLink>.</p>
    <h2>When the manuscript has changed</h2>
    <DropZone label="Bring in a new version" :leads-to="arrived => page(`version/${arrived}`)">
      <template #text>It is compared with the script first. What did not change keeps its directions, its edits and its readings.</template>
    </DropZone>
  </main>
</template>

<style scoped>
.intake { max-width: 620px; width: 100%; margin: 0 auto; padding: 30px 24px; display: flex; flex-direction: column; gap: 18px; }
.intake > * { flex: none; margin: 0; }
</style>

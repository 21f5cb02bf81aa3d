<script setup lang="ts">
import type { FileMark } from '#core/runsheet/split'

// Whether a delivered file begins at the passage of the caret, where that is set by hand.

const { mark } = defineProps<{ readonly mark: FileMark | null }>()
defineEmits<{ readonly set: [mark: FileMark | null] }>()

const said = computed(() => mark === null ? 'Files begin here as the run sheet divides them.' : mark === 'begins' ? 'A file begins here, whatever the run sheet says.' : 'The file goes on here, whatever the run sheet says.')
</script>

<template>
  <section class="card">
    <h2>Files</h2>
    <p class="quiet" role="status">{{ said }}</p>
    <div class="actions">
      <v-btn v-if="mark !== 'begins'" size="small" @mousedown.prevent @click="$emit('set', 'begins')">Begin a file here</v-btn>
      <v-btn v-if="mark !== 'goesOn'" size="small" @mousedown.prevent @click="$emit('set', 'goesOn')">Let the file go on</v-btn>
      <v-btn v-if="mark !== null" size="small" variant="text" @mousedown.prevent @click="$emit('set', null)">As divided</v-btn>
    </div>
  </section>
</template>

<style scoped>
h2 { margin: 0; font-family: var(--sans); font-size: 14.5px; font-weight: 600; }
p { margin: 0; font-size: 13px; }
.actions { display: flex; flex-wrap: wrap; gap: 6px; margin-top: 6px; }
</style>

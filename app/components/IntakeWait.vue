<script setup lang="ts">
import { encodingNames } from '#core/manuscript/encodings'
import type { ManuscriptView } from '#shared/api'
import { count } from '~/utils/format'

// A document that is being read, or could not be.

const props = defineProps<{ document: ManuscriptView }>()
const emit = defineEmits<{ stop: [], again: [encoding: string | null] }>()

const encoding = ref<string | null>(null)
const isAboutEncoding = computed(() => /^encoding/u.test(props.document.problem?.code ?? ''))
</script>

<template>
  <main class="narrow wait">
    <h1>Intake</h1>
    <p class="mono">{{ document.fileName }}</p>
    <template v-if="document.state === 'reading'">
      <p v-if="document.ahead > 0" role="status">Waiting for its turn: {{ count(document.ahead, 'document') }} before it. It is read as soon as they are, also when this page is closed.</p>
      <p v-else role="status">Reading … {{ Math.round(document.progress * 100) }} %</p>
      <v-progress-linear
        v-if="document.ahead === 0" :model-value="document.progress * 100" :indeterminate="document.progress === 0" color="verdigris" height="6"
        aria-label="Reading the document"
      />
      <v-btn @click="emit('stop')">Stop reading it</v-btn>
    </template>
    <template v-else>
      <p v-if="document.problem !== null" class="fault-text" role="alert">
        {{ document.problem.message }}<template v-if="document.problem.place !== undefined"> ({{ document.problem.place }})</template>
      </p>
      <v-select v-if="isAboutEncoding" v-model="encoding" :items="encodingNames" label="Encoding of the text" />
      <div class="actions">
        <v-btn color="primary" variant="flat" :disabled="isAboutEncoding && encoding === null" @click="emit('again', encoding)">Read it again</v-btn>
        <v-btn to="/">Bring in another document</v-btn>
      </div>
    </template>
  </main>
</template>

<style scoped>
.wait { display: flex; flex-direction: column; gap: 14px; max-width: 640px; }
.wait > * { flex: none; margin: 0; }
.wait .v-btn { align-self: flex-start; }
.actions { display: flex; gap: 10px; flex-wrap: wrap; }
</style>

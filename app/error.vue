<script setup lang="ts">
import type { NuxtError } from '#app'

// What is shown instead of a page that is not there or could not be shown: what happened, and the way back.

const props = defineProps<{ error: NuxtError }>()
const isMissing = computed(() => props.error.statusCode === 404)
useHead({ title: () => `${isMissing.value ? 'Not here' : 'A fault'} – Orator Quill` })
</script>

<template>
  <v-app>
    <main class="nowhere">
      <p class="name">Orator Quill</p>
      <h1>{{ isMissing ? 'There is nothing at this address' : 'This page could not be shown' }}</h1>
      <p v-if="isMissing">{{ error.data === undefined ? 'It may have been mistyped, or what was here has been removed.' : String(error.data) }}</p>
      <p v-else>{{ error.message }} Nothing that was saved is lost.</p>
      <v-btn color="primary" variant="flat" size="large" @click="clearError({ redirect: '/' })">To the shelf</v-btn>
    </main>
  </v-app>
</template>

<style scoped>
.nowhere { max-width: 560px; margin: 14vh auto 0; padding: 0 24px; }
.name { margin: 0 0 18px; font-family: var(--serif); font-weight: 600; color: var(--quiet); }
h1 { margin: 0 0 8px; }
.nowhere p { margin: 0 0 18px; }
</style>

<script setup lang="ts">
import type { PartAbout } from '#core/script/script'

// What is known of a slide or article besides its text.

defineProps<{ about: PartAbout }>()
</script>

<template>
  <section class="about" aria-label="About this part">
    <template v-if="about.onScreen !== undefined && about.onScreen.length > 0">
      <p class="label">On the slide</p>
      <p v-for="(line, index) in about.onScreen" :key="index" class="serif">{{ line }}</p>
    </template>
    <p v-if="about.slide !== undefined" class="quiet">Slide {{ about.slide }} of the deck</p>
    <p v-if="about.hidden === true" class="quiet">The deck does not show this slide.</p>
    <p v-if="about.author !== undefined || about.date !== undefined">{{ [about.author, about.date].filter(each => each !== undefined).join(' · ') }}</p>
    <p v-if="about.source !== undefined" class="quiet">{{ about.source }}</p>
    <p v-if="about.duplicateOf !== undefined" class="stale-text">Same words as “{{ about.duplicateOf }}”.</p>
  </section>
</template>

<style scoped>
.about { border: 1px solid var(--line); background: var(--sheet); padding: 10px 12px; margin-bottom: 14px; font-size: 14px; }
.about p { margin: 0 0 3px; }
.serif { font-weight: 400; }
</style>

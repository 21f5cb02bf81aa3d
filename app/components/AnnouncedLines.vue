<script setup lang="ts">
import type { RouteLocationRaw } from 'vue-router'

// What is announced beside the text of a part, which is not in the script.

defineProps<{ readonly texts: readonly string[], readonly to: RouteLocationRaw }>()
</script>

<template>
  <p v-for="text in texts" :key="text" class="announced">Announced: “{{ text }}” <NuxtLink :to="to">Change</NuxtLink></p>
</template>

<style scoped>
.announced { max-width: 660px; margin: 0 auto; padding: 14px 24px 0 94px; font-size: 14px; color: var(--quiet); overflow-wrap: anywhere; }
@media (max-width: 639px) { .announced { padding-left: 64px; padding-right: 12px; } }
</style>

<script setup lang="ts">
import type { RouteLocationNormalizedLoaded } from 'vue-router'
import { useNotices } from '~/stores/notices'

const notices = useNotices()

/** Another edition is another page. */
const pageKey = (route: RouteLocationNormalizedLoaded): string => JSON.stringify([route.name, route.params, route.query['edition'] ?? null])
</script>

<template>
  <v-app>
    <NuxtPage :page-key="pageKey" />
    <v-snackbar :model-value="notices.current !== null" :timeout="8000" color="gall" location="bottom" @update:model-value="notices.dismiss()">
      <span role="alert">{{ notices.current }}</span>
      <template #actions>
        <v-btn variant="text" @click="notices.dismiss()">Close</v-btn>
      </template>
    </v-snackbar>
  </v-app>
</template>

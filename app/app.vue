<script setup lang="ts">
import { useNotices } from '~/stores/notices'

const notices = useNotices()
</script>

<template>
  <v-app>
    <NuxtPage />
    <v-snackbar :model-value="notices.current !== null" :timeout="8000" color="gall" location="bottom" @update:model-value="notices.dismiss()">
      <span role="alert">{{ notices.current }}</span>
      <template #actions>
        <v-btn variant="text" @click="notices.dismiss()">Close</v-btn>
      </template>
    </v-snackbar>
  </v-app>
</template>

<script setup lang="ts">
import type { RouteLocationNormalizedLoaded } from 'vue-router'
import { useEventListener } from '@vueuse/core'
import { useKeys } from '~/stores/keys'
import { useNotices } from '~/stores/notices'

const notices = useNotices()
const keys = useKeys()
const [showsCommands, showsHelp] = [ref(false), ref(false)]
useEventListener(window, 'keydown', keys.press, { capture: true })
useCommands('everywhere', {
  commands: () => { showsCommands.value = true },
  help: () => { showsHelp.value = true },
  goShelf: () => navigateTo('/'),
  theme: useThemeSwitch().change,
})

/** To the content of the page, past its head. */
function skip(): void {
  const main = document.querySelector<HTMLElement>('main')
  main?.setAttribute('tabindex', '-1')
  main?.focus()
}

/** Another edition is another page. */
const pageKey = (route: RouteLocationNormalizedLoaded): string => JSON.stringify([route.name, route.params, route.query['edition'] ?? null])
</script>

<template>
  <v-app>
    <nav aria-label="Skip"><a href="#" class="skip" @click.prevent="skip">Skip to the content</a></nav>
    <NuxtPage :page-key="pageKey" />
    <CommandList v-model="showsCommands" />
    <HelpDialog v-model="showsHelp" />
    <v-snackbar :model-value="notices.current !== null" :timeout="8000" color="gall" location="bottom" @update:model-value="notices.dismiss()">
      <span role="alert">{{ notices.current }}</span>
      <template #actions>
        <v-btn variant="text" @click="notices.dismiss()">Close</v-btn>
      </template>
    </v-snackbar>
  </v-app>
</template>

<style scoped>
.skip { position: absolute; left: 8px; top: -60px; z-index: 3000; padding: 8px 14px; background: var(--sheet); color: var(--ink); border: 2px solid var(--verdigris); border-radius: 4px; }
.skip:focus { top: 8px; }
</style>

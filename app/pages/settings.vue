<script setup lang="ts">
import type { AccountsView } from '#shared/api'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'

// What holds for all productions: the accounts of the paid speech services.

useHead({ title: 'Settings – Orator Quill' })
const notices = useNotices()
const view = ref<AccountsView | null>(null)

async function load(): Promise<void> {
  view.value = await notices.attempt(() => ask<AccountsView>('/api/accounts')) ?? view.value
}
void load()
</script>

<template>
  <AppMasthead />
  <main class="narrow">
    <h1>Settings</h1>
    <template v-if="view !== null">
      <h2>Speech services</h2>
      <p class="quiet">The voices of a service are among the others on the Cast page once it has an account here. Sentences for these voices are sent to it over the network, and it sends a bill for them. All other voices work on this machine.</p>
      <ServiceAccount v-for="account in view.accounts" :key="`${account.engine} ${account.address}`" :account="account" :simulated="view.simulated" @changed="load" />
    </template>
  </main>
</template>

<style scoped>
h2 { margin: 24px 0 8px; }
</style>

<script setup lang="ts">
import type { AccountCheck, AccountView } from '#shared/api'
import { ask, messageOf } from '~/utils/api'

// The account of one speech service: where it is, under which key, and whether it answers.

const { account, simulated } = defineProps<{
  readonly account: AccountView
  /** Address of the simulated service beside the program. */
  readonly simulated: string | null
}>()
const emit = defineEmits<{ readonly changed: [] }>()

const address = ref(account.address ?? '')
const key = ref('')
/** Offered where nothing else would be lost: the simulated service may have moved to another port. */
const isOffered = computed(() => simulated !== null && account.address !== simulated && (account.address === null || account.address.startsWith('http://127.0.0.1:')))
const isKept = computed(() => account.address !== null && account.address === address.value.trim())
const isBusy = ref(false)
const found = ref<string | null>(null)
const fault = ref<string | null>(null)
const removing = ref(false)

/** Does something with the account, and says what came of it, as far as there is something to say. */
async function attempt(action: () => Promise<AccountCheck | null>): Promise<void> {
  isBusy.value = true
  found.value = null
  fault.value = null
  try {
    const answer = await action()
    if (answer !== null) found.value = `It answers: ${answer.found}.`
  } catch (error) {
    fault.value = messageOf(error)
  }
  isBusy.value = false
}

const path = `/api/accounts/${account.engine}`
const check = (): Promise<void> => attempt(() => ask<AccountCheck>(`${path}/check`, 'POST'))

/** An address that was saved though the service does not answer is kept: the page shows it with the reason. */
async function saving(action: () => Promise<AccountCheck>): Promise<void> {
  await attempt(action)
  key.value = ''
  if (found.value !== null) emit('changed')
}
const save = (): Promise<void> => saving(() => ask<AccountCheck>(path, 'PUT', { address: address.value, ...(key.value === '' ? {} : { key: key.value }) }))
const useSimulated = (): Promise<void> => saving(() => ask<AccountCheck>(`${path}/simulated`, 'POST'))

async function remove(): Promise<void> {
  removing.value = false
  await attempt(async () => {
    await ask(path, 'DELETE')
    return null
  })
  if (fault.value === null) emit('changed')
}
// One that is set up is tried at once, so that the page says how it is.
if (account.address !== null) void check()
</script>

<template>
  <section class="account" :aria-label="account.name">
    <h3>{{ account.name }}</h3>
    <div v-if="isOffered" class="offer">
      <p>A simulated service runs beside this program, to try paid voices without paying. <a :href="simulated!" target="_blank" rel="noopener">What it was asked and has billed</a></p>
      <v-btn :loading="isBusy" @click="useSimulated">Use the simulated service</v-btn>
    </div>
    <form @submit.prevent="save">
      <v-text-field v-model="address" label="Address" placeholder="https://" maxlength="500" autocomplete="off" spellcheck="false" />
      <v-text-field v-model="key" type="password" label="Key" maxlength="500" autocomplete="new-password" :hint="isKept ? 'A key is kept, and not shown. A new one takes its place.' : 'Kept encrypted, and never shown again'" persistent-hint />
      <div class="acts">
        <v-btn type="submit" color="primary" variant="flat" :loading="isBusy" :disabled="address.trim() === '' || (key === '' && !isKept)">Save and try it</v-btn>
        <v-btn v-if="account.address !== null" :disabled="isBusy" @click="check">Try it again</v-btn>
        <v-btn v-if="account.address !== null" :disabled="isBusy" color="error" variant="text" @click="removing = true">Remove the account</v-btn>
      </div>
    </form>
    <p v-if="found !== null" role="status" class="done-text">{{ found }}</p>
    <p v-if="fault !== null" role="alert" class="fault-text">{{ fault }}</p>
    <p v-if="account.address !== null && account.address === simulated" class="quiet">This is the simulated service beside the program: nothing there costs money. <a :href="simulated" target="_blank" rel="noopener">What it was asked and has billed</a></p>
    <ConfirmDialog :title="removing ? 'Remove this account?' : null" act="Remove it" @act="remove" @close="removing = false">
      <p>Its key is forgotten, and its voices are no longer offered. What they have read stays; roles that they speak need another voice before they are read again.</p>
    </ConfirmDialog>
  </section>
</template>

<style scoped>
.account { border: 1px solid var(--line); border-radius: 4px; background: var(--sheet); padding: 14px 18px; margin-top: 14px; }
h3 { margin: 0 0 8px; font-size: 17px; }
.offer { display: flex; gap: 16px; align-items: center; justify-content: space-between; margin-bottom: 14px; }
.offer p { margin: 0; }
form { display: grid; gap: 12px; max-width: 640px; }
.acts { display: flex; gap: 10px; flex-wrap: wrap; }
</style>

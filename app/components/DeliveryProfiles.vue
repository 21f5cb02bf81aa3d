<script setup lang="ts">
import { until, useFileDialog } from '@vueuse/core'
import { profileLines, soundLine, type DeliveryProfile } from '#core/delivery/profile'
import { fileOfProfile } from '#core/delivery/profile-file'
import { profileNames, profiles } from '#core/delivery/profiles'
import type { OwnProfile } from '#shared/delivery'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'

// What the files are made as: the profiles that come with the program and those that were made here, and what the chosen one asks for.

const { chosen } = defineProps<{
  /** A name, or the id of one that was made here. */
  readonly chosen: string
  readonly locked: boolean
}>()
const emit = defineEmits<{ readonly choose: [nameOrId: string], readonly changed: [] }>()
/** Other profiles that files are made to in the same order. */
const also = defineModel<readonly string[]>('also', { required: true })
const notices = useNotices()

const own = ref<readonly OwnProfile[]>([])
const load = async (): Promise<void> => { own.value = await notices.attempt(() => ask<OwnProfile[]>('/api/profiles')) ?? own.value }
watch(() => chosen, () => void load(), { immediate: true })

const all = computed(() => [...profileNames.map(name => ({ id: name as string, profile: profiles[name], isOwn: false })), ...own.value.map(each => ({ ...each, isOwn: true }))])
const current = computed(() => all.value.find(({ id }) => id === chosen) ?? null)
const items = computed(() => all.value.map(({ id, profile, isOwn }) => ({ title: profile.name, value: id, props: { subtitle: `${soundLine(profile)}${isOwn ? ' · made here' : ''}` } })))

const others = computed(() => items.value.filter(({ value }) => value !== chosen))
// What is the profile itself, or gone, is no other one.
watch(others, now => {
  const kept = also.value.filter(id => now.some(({ value }) => value === id))
  if (kept.length < also.value.length) also.value = kept
})

/** The profile in the form: a copy, or the one that was made here. */
const edited = shallowRef<{ readonly id: string | null, readonly profile: DeliveryProfile } | null>(null)

function copy(): void {
  const { profile } = current.value!
  edited.value = { id: null, profile: { ...profile, name: `${profile.name}, ours` } }
}

async function save(profile: DeliveryProfile): Promise<void> {
  const { id } = edited.value!
  const file = fileOfProfile(profile)
  const saved = await notices.attempt(async () => id === null ? (await ask<OwnProfile>('/api/profiles', 'POST', file)).id : ask(`/api/profiles/${id}`, 'PUT', file).then(() => id))
  if (saved === null) return
  edited.value = null
  await load()
  if (saved !== chosen) emit('choose', saved)
  else emit('changed')
}

const { open: openFile, onChange } = useFileDialog({ accept: '.json,application/json', multiple: false, reset: true })
onChange(files => void bring(files?.[0]))

async function bring(file: File | undefined): Promise<void> {
  if (file === undefined) return
  const added = await notices.attempt(async () => ask<OwnProfile>('/api/profiles', 'POST', profileIn(await file.text(), file.name)))
  if (added !== null) emit('choose', added.id)
}

function profileIn(text: string, name: string): unknown {
  try {
    return JSON.parse(text)
  } catch (error) {
    throw new Error(`${name} is no profile: it is not valid JSON (${(error as Error).message}).`, { cause: error })
  }
}

async function remove(): Promise<void> {
  const { id } = current.value!
  emit('choose', 'book')
  // It is in use until then.
  await until(() => chosen).toBe('book')
  await notices.attempt(() => ask(`/api/profiles/${id}`, 'DELETE'))
  await load()
}
</script>

<template>
  <div class="profiles">
    <p class="label">Profile</p>
    <v-select :model-value="chosen" :items="items" label="Files for" :disabled="locked" @update:model-value="emit('choose', $event)" />
    <template v-if="current !== null">
      <ul><li v-for="line in profileLines(current.profile)" :key="line">{{ line }}</li></ul>
      <p class="acts">
        <button v-if="current.isOwn" type="button" class="plain-link" :disabled="locked" @click="edited = current">Change …</button>
        <button type="button" class="plain-link" :disabled="locked" @click="copy">Make a copy …</button>
        <a :href="`/api/profiles/${chosen}/file`" download>Save as a file</a>
        <button type="button" class="plain-link" :disabled="locked" @click="openFile()">Bring in a file</button>
        <button v-if="current.isOwn" type="button" class="plain-link" :disabled="locked" @click="remove">Remove it</button>
      </p>
    </template>
    <v-select v-model="also" :items="others" label="Also for" placeholder="no other profile" persistent-placeholder multiple clearable class="also" :disabled="locked" />
    <v-dialog :model-value="edited !== null" max-width="820" aria-label="Profile" scrollable @update:model-value="edited = null">
      <ProfileForm v-if="edited !== null" :profile="edited.profile" :is-new="edited.id === null" @save="save" @close="edited = null" />
    </v-dialog>
  </div>
</template>

<style scoped>
.profiles { margin: 0 0 18px; }
.label { margin: 0 0 10px; }
ul { list-style: none; margin: 6px 0 0; padding: 0; font-size: 14px; color: var(--quiet); }
.also { margin-top: 14px; }
.acts { display: flex; flex-wrap: wrap; gap: 2px 14px; margin: 6px 0 0; font-size: 14px; }
</style>

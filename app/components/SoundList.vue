<script setup lang="ts">
import { mdiPlay, mdiStop, mdiTrayArrowUp } from '@mdi/js'
import type { SoundView } from '#shared/api'
import { count, seconds } from '~/utils/format'

// The sounds of the production: what a direction can play.

defineProps<{ sounds: readonly SoundView[], playing: string | null }>()
const emit = defineEmits<{ add: [file: File], hear: [sound: SoundView], remove: [sound: SoundView] }>()

const input = ref<HTMLInputElement | null>(null)
function chosen(event: Event): void {
  const target = event.target as HTMLInputElement
  for (const file of target.files ?? []) emit('add', file)
  target.value = ''
}
</script>

<template>
  <section class="sounds" aria-labelledby="sounds-head">
    <h2 id="sounds-head">Sounds</h2>
    <p v-if="sounds.length === 0" class="quiet hint">None yet. A sound that is brought in can be placed in the script: Directions, Sound.</p>
    <table v-else class="plain rows">
      <thead><tr><th scope="col">Sound</th><th scope="col">Played</th><th scope="col"><span class="sr-only">Actions</span></th></tr></thead>
      <tbody>
        <tr v-for="sound in sounds" :key="sound.id">
          <td class="name" data-label="Sound">{{ sound.name }} <span class="quiet">{{ seconds(sound.durationMs) }}</span></td>
          <td data-label="Played">{{ sound.uses === 0 ? 'nowhere' : count(sound.uses, 'place') }}</td>
          <td class="actions">
            <IconButton :icon="playing === sound.id ? mdiStop : mdiPlay" :name="`${playing === sound.id ? 'Stop' : 'Hear'} ${sound.name}`" @click="emit('hear', sound)" />
            <v-btn size="small" variant="text" :aria-label="`Remove ${sound.name} from the library`" @click="emit('remove', sound)">Remove</v-btn>
          </td>
        </tr>
      </tbody>
    </table>
    <v-btn size="small" :prepend-icon="mdiTrayArrowUp" @click="input?.click()">Bring in sounds</v-btn>
    <input ref="input" type="file" accept="audio/*" multiple hidden aria-label="Files of sounds" @change="chosen">
  </section>
</template>

<style scoped>
.sounds { margin-top: 28px; max-width: 640px; }
h2 { font-size: 17px; margin: 0 0 6px; }
table { margin-bottom: 10px; }
.hint { margin: 0 0 10px; font-size: 14px; }
.name { overflow-wrap: anywhere; }
.actions { text-align: right; white-space: nowrap; }
</style>

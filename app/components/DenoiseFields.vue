<script setup lang="ts">
import { mdiPlay, mdiStop } from '@mdi/js'
import { denoiseRange, usualDenoiseDb } from '#core/mastering/denoise'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'

// Noise of recordings that the script plays: by how much it is lowered, heard on and off.

const byDb = defineModel<number | null>({ required: true })
const notices = useNotices()
const desk = useDesk()

const sounds = computed(() => desk.desk?.sounds ?? [])
const chosen = ref<string | null>(null)
const sound = computed(() => chosen.value ?? sounds.value[0]?.id ?? null)
const isOn = ref(true)
const { playing, noiseDb, play, stop } = useDenoisedSound(computed(() => byDb.value ?? usualDenoiseDb), isOn)
const level = computed(() => noiseDb.value === undefined ? '' : noiseDb.value === null ? 'It has no noise that could be told from the rest: it stays as it is.' : `Its noise has ${noiseDb.value.toFixed(0).replace('-', '−')} dB.`)

function change(value: number | null): void {
  byDb.value = Math.min(denoiseRange.most, Math.max(denoiseRange.least, value ?? denoiseRange.least))
}

function hear(): void {
  if (playing.value) stop()
  else void notices.attempt(() => play(`/api/editions/${desk.editionId}/sounds/${sound.value}`))
}
</script>

<template>
  <fieldset class="field-group">
    <legend class="label">Recordings that the script plays</legend>
    <v-checkbox :model-value="byDb !== null" label="Lower their noise" density="compact" hide-details class="wide" @update:model-value="byDb = $event === true ? usualDenoiseDb : null" />
    <template v-if="byDb !== null">
      <ProfileNumber :value="byDb" label="Noise lower by, dB" :step="1" required @change="change" />
      <template v-if="sound !== null">
        <v-select :model-value="sound" :items="sounds.map(({ id, name }) => ({ title: name, value: id }))" label="Heard in" @update:model-value="chosen = $event" />
        <div class="wide hear">
          <v-btn size="small" :prepend-icon="playing ? mdiStop : mdiPlay" @click="hear">{{ playing ? 'Stop' : 'Hear this recording' }}</v-btn>
          <v-switch v-model="isOn" :label="isOn ? 'with less noise' : 'as it is'" density="compact" hide-details color="verdigris" />
          <span class="quiet" role="status">{{ level }}</span>
        </div>
      </template>
      <p v-else class="wide quiet">This production has no sounds to hear it in. They are brought in on the Cast page.</p>
    </template>
  </fieldset>
</template>

<style scoped>
.hear { display: flex; align-items: center; flex-wrap: wrap; gap: 6px 18px; }
</style>

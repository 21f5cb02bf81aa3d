<script setup lang="ts">
import { mdiPlay, mdiStop } from '@mdi/js'
import { bandRange, gentleEqualiser, highPassRange, mostBands, mostGainDb, qRange, type Equaliser, type EqualiserBand } from '#core/mastering/equaliser'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'

// An equaliser for the voice: a high-pass and bands, with a picture of what they do, heard on and off.

const equaliser = defineModel<Equaliser | null>({ required: true })
const notices = useNotices()
const desk = useDesk()

const change = (members: Partial<Equaliser>): void => { equaliser.value = { ...equaliser.value!, ...members } }
const band = (place: number, members: Partial<EqualiserBand>): void => { change({ bands: equaliser.value!.bands.map((each, index) => index === place ? { ...each, ...members } : each) }) }
const within = (value: number | null, least: number, most: number): number => Math.min(most, Math.max(least, value ?? least))

const heard = computed(() => equaliser.value ?? gentleEqualiser)
const isOn = ref(true)
const { playing, play, stop } = useEqualisedVoice(heard, isOn)
/** What is heard: the first part that is not left out. */
const part = computed(() => desk.included.find(({ utterances }) => utterances > 0))
</script>

<template>
  <fieldset class="field-group">
    <legend class="label">Voice</legend>
    <v-checkbox :model-value="equaliser !== null" label="Equaliser" density="compact" hide-details class="wide" @update:model-value="equaliser = $event === true ? gentleEqualiser : null" />
    <template v-if="equaliser !== null">
      <EqualiserCurve class="wide" :equaliser="equaliser" />
      <div v-if="part !== undefined" class="wide hear">
        <v-btn size="small" :prepend-icon="playing ? mdiStop : mdiPlay" @click="playing ? stop() : notices.attempt(() => play(part!.id))">{{ playing ? 'Stop' : 'Hear it' }}</v-btn>
        <v-switch v-model="isOn" :label="isOn ? 'with the equaliser' : 'without it'" density="compact" hide-details color="verdigris" />
      </div>
      <ProfileNumber :value="equaliser.highPassHz" label="Nothing below, Hz" :step="5" @change="change({ highPassHz: $event === null ? null : within($event, highPassRange.least, highPassRange.most) })" />
      <ul class="wide bands">
        <li v-for="({ hz, gainDb, q }, place) in equaliser.bands" :key="place">
          <ProfileNumber :value="hz" label="Around, Hz" :step="10" required @change="band(place, { hz: within($event, bandRange.least, bandRange.most) })" />
          <ProfileNumber :value="gainDb" label="Louder by, dB" :step="0.5" required @change="band(place, { gainDb: within($event, -mostGainDb, mostGainDb) })" />
          <ProfileNumber :value="q" label="Narrowness (Q)" :step="0.1" required @change="band(place, { q: within($event, qRange.least, qRange.most) })" />
          <button type="button" class="plain-link" :aria-label="`Remove band ${place + 1}`" @click="change({ bands: equaliser!.bands.filter((_, index) => index !== place) })">Remove</button>
        </li>
        <li v-if="equaliser.bands.length < mostBands"><button type="button" class="plain-link" @click="change({ bands: [...equaliser!.bands, { hz: 1000, gainDb: 0, q: 1 }] })">Another band</button></li>
      </ul>
    </template>
  </fieldset>
</template>

<style scoped>
.hear { display: flex; align-items: center; gap: 18px; }
.bands { list-style: none; margin: 0; padding: 0; }
.bands li { display: grid; grid-template-columns: repeat(3, minmax(0, 170px)) auto; gap: 10px; align-items: start; justify-content: start; margin-bottom: 10px; }
.bands .plain-link { padding-top: 10px; justify-self: start; }
@media (max-width: 640px) { .bands li { grid-template-columns: 1fr 1fr; } }
</style>

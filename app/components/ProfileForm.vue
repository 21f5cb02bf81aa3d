<script setup lang="ts">
import { audioFormats, formatNames, formatOf, type FormatName } from '#core/delivery/formats'
import { largestHeading } from '#core/delivery/file-split'
import { extraNames, extras, type Extra } from '#core/delivery/lists'
import { profileProblem, type DeliveryProfile, type Limits, type Span } from '#core/delivery/profile'
import { fitting } from '#core/delivery/profile-file'
import { profiles } from '#core/delivery/profiles'
import { fileName, numberLabel } from '#core/runsheet/file-name'
import type { PartKind } from '#core/script/script'
import { announcementFields, noAnnouncements, type AnnouncementField } from '#core/script/announcements'

// All that a profile says. It is saved as a whole.

const { profile, isNew } = defineProps<{ readonly profile: DeliveryProfile, readonly isNew: boolean }>()
const emit = defineEmits<{ readonly save: [profile: DeliveryProfile], readonly close: [] }>()

const draft = shallowRef<DeliveryProfile>(profile)
const problem = computed(() => draft.value.name.trim() === '' ? 'Give it a name.' : profileProblem(draft.value))
const format = computed(() => formatOf(draft.value.format))

const change = (members: Partial<DeliveryProfile>): void => { draft.value = { ...draft.value, ...members } }
const limit = (members: Partial<Limits>): void => { change({ limits: { ...draft.value.limits, ...members } }) }

type SpanName = 'rmsDb' | 'integratedDb' | 'headMs' | 'tailMs'
const spans: readonly { readonly name: SpanName, readonly label: string, readonly scale: number }[] = [
  { name: 'rmsDb', label: 'RMS, dB', scale: 1 }, { name: 'integratedDb', label: 'Loudness, LUFS', scale: 1 }, { name: 'headMs', label: 'Head, s', scale: 1000 }, { name: 'tailMs', label: 'Tail, s', scale: 1000 },
]

/** One end of a span; with neither there is none. */
function limitSpan(name: SpanName, ends: Partial<Span>): void {
  const span = { ...draft.value.limits[name] ?? { least: null, most: null }, ...ends }
  limit({ [name]: span.least === null && span.most === null ? null : span })
}

const items = <T>(values: readonly T[], title: (value: T) => string): { title: string, value: T }[] => values.map(value => ({ title: title(value), value }))
const inOrder = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b)
const formats = items(formatNames, name => audioFormats[name].name)
const measures = [{ title: 'as it is read', value: null }, { title: 'RMS', value: 'rms' }, { title: 'loudness (LUFS)', value: 'integrated' }] as const

/** A target of another measure begins in the middle of its limits. */
function measureBy(measure: 'rms' | 'integrated' | null): void {
  const span = measure === 'rms' ? draft.value.limits.rmsDb : draft.value.limits.integratedDb
  const usual = measure === 'rms' ? -20 : -19
  change({ target: measure === null ? null : { measure, level: span?.least !== undefined && span.least !== null && span.most !== null ? (span.least + span.most) / 2 : usual, tolerance: 0.5 } })
}

/** A profile knows no production: fields are shown as they are written. */
const fieldsAsWritten = Object.fromEntries(announcementFields.part.map(name => [name, `{${name}}`])) as Record<AnnouncementField, string>

/** A file that a name is shown of. */
const exampleFile = { within: '1', title: 'The first part', part: 'Chapter 1', slide: '01', production: 'The production', author: 'The author', language: 'en', voice: 'The voice', role: 'Narrator', date: '2031-01-31' } as const
const exampleCount = 12
const exampleName = computed(() => {
  const { namePattern, nameRules } = draft.value
  return fileName(namePattern, { ...exampleFile, number: numberLabel(nameRules.firstNumber, exampleCount, null, nameRules.digits ?? undefined) }, nameRules) + format.value.extension
})

/** Which kinds of parts there will be is not known. */
const noKinds = new Set<PartKind>()
const headingLevels = Array.from({ length: largestHeading }, (_, index) => index + 1)

/** They lie in the order in which they are listed. */
const withExtra = (extra: Extra, wanted: boolean): void => { change({ extras: extraNames.filter(name => name === extra ? wanted : draft.value.extras.includes(name)) }) }

const target = (members: Partial<NonNullable<DeliveryProfile['target']>>): void => { change({ target: { ...draft.value.target!, ...members } }) }
</script>

<template>
  <v-card :title="isNew ? 'A new profile' : 'Profile'">
    <v-card-text>
      <form id="profile-form" @submit.prevent="problem === null ? emit('save', { ...draft, name: draft.name.trim() }) : undefined">
        <v-text-field :model-value="draft.name" label="Name" maxlength="80" autofocus @update:model-value="change({ name: $event })" />
        <fieldset class="field-group">
          <legend class="label">Sound</legend>
          <v-select :model-value="draft.format" :items="formats" label="Format" @update:model-value="draft = fitting(draft, $event as FormatName)" />
          <v-select v-if="format.bitRates !== null" :model-value="draft.bitRateKbps" :items="items(inOrder(format.bitRates), String)" label="kbit/s" @update:model-value="change({ bitRateKbps: $event })" />
          <v-select v-if="format.bits !== null" :model-value="draft.bits" :items="items(format.bits, String)" label="Bits" @update:model-value="change({ bits: $event })" />
          <v-select :model-value="draft.sampleRate" :items="items(inOrder(format.sampleRates), rate => String(rate / 1000))" label="kHz" @update:model-value="change({ sampleRate: $event })" />
          <v-select :model-value="draft.channels" :items="[{ title: 'mono', value: 1 }, { title: 'stereo, both the same', value: 2 }]" label="Channels" @update:model-value="change({ channels: $event })" />
        </fieldset>
        <fieldset class="field-group">
          <legend class="label">Level</legend>
          <v-select :model-value="draft.target?.measure ?? null" :items="measures" label="Brought to" @update:model-value="measureBy($event)" />
          <template v-if="draft.target !== null">
            <ProfileNumber :value="draft.target.level" label="Level, dB or LUFS" :step="0.1" required @change="target({ level: $event! })" />
            <ProfileNumber :value="draft.target.tolerance" label="To within, dB" :step="0.1" required @change="target({ tolerance: $event! })" />
            <v-select :model-value="draft.gainPer" :items="[{ title: 'all files alike', value: 'production' }, { title: 'each file by itself', value: 'file' }]" label="Gain" @update:model-value="change({ gainPer: $event })" />
          </template>
          <ProfileNumber :value="draft.ceilingDb" label="Peaks held at, dB" :step="0.1" @change="change({ ceilingDb: $event })" />
          <v-checkbox :model-value="draft.dualMono" label="A mono file counts as played on two speakers" density="compact" hide-details class="wide" @update:model-value="change({ dualMono: $event === true })" />
        </fieldset>
        <EqualiserFields :model-value="draft.equaliser" @update:model-value="change({ equaliser: $event })" />
        <DenoiseFields :model-value="draft.denoiseDb" @update:model-value="change({ denoiseDb: $event })" />
        <fieldset class="field-group">
          <legend class="label">Silence, s</legend>
          <ProfileNumber :value="draft.headMs" label="Before the first word" :scale="1000" :step="0.1" required @change="change({ headMs: $event! })" />
          <ProfileNumber :value="draft.tailMs" label="After the last word" :scale="1000" :step="0.1" required @change="change({ tailMs: $event! })" />
          <ProfileNumber :value="draft.partRestMs" label="Between parts in one file" :scale="1000" :step="0.1" required @change="change({ partRestMs: $event! })" />
        </fieldset>
        <p class="quiet">Divided and named so where a production has no ways of its own:</p>
        <RunSheetDivision :split="draft.split" :is-own="false" :marks="0" :levels="headingLevels" :kinds="noKinds" :locked="false" @choose="change({ split: $event ?? profiles.book.split })" />
        <DeliveryNames
          :pattern="draft.namePattern" :rules="draft.nameRules" :example="exampleName" :is-own="false" :locked="false"
          @pattern="change({ namePattern: $event })" @rules="change({ nameRules: { ...draft.nameRules, ...$event } })"
        />
        <fieldset class="field-group">
          <legend class="label">Beside the files, with checksums and manifest.json</legend>
          <v-checkbox v-for="extra in extraNames" :key="extra" :model-value="draft.extras.includes(extra)" :label="extras[extra]" density="compact" hide-details @update:model-value="withExtra(extra, $event === true)" />
        </fieldset>
        <fieldset class="field-group">
          <legend class="label">Files pass with</legend>
          <template v-for="{ name, label, scale } in spans" :key="name">
            <ProfileNumber :value="draft.limits[name]?.least ?? null" :label="`${label}, at least`" :scale="scale" :step="0.1" @change="limitSpan(name, { least: $event })" />
            <ProfileNumber :value="draft.limits[name]?.most ?? null" :label="`${label}, at most`" :scale="scale" :step="0.1" @change="limitSpan(name, { most: $event })" />
          </template>
          <ProfileNumber :value="draft.limits.peakDb" label="Peaks at most, dB" :step="0.1" @change="limit({ peakDb: $event })" />
          <ProfileNumber :value="draft.limits.noiseFloorDb" label="Noise at most, dB" :step="1" @change="limit({ noiseFloorDb: $event })" />
          <ProfileNumber :value="draft.limits.longestMs" label="Minutes at most" :scale="60_000" :step="1" @change="limit({ longestMs: $event })" />
          <ProfileNumber :value="draft.limits.largestBytes" label="MB at most" :scale="1_000_000" :step="1" @change="limit({ largestBytes: $event })" />
          <ProfileNumber :value="draft.limits.longestSilenceMs" label="Silence at most, s" :scale="1000" :step="0.5" @change="limit({ longestSilenceMs: $event })" />
          <v-checkbox :model-value="draft.limits.truePeak" label="Peaks between samples count" density="compact" hide-details class="wide" @update:model-value="limit({ truePeak: $event === true })" />
        </fieldset>
        <fieldset class="field-group">
          <legend class="label">Announcements</legend>
          <v-checkbox :model-value="draft.announcements !== null" label="Say something around the text, where a production has nothing of its own" density="compact" hide-details class="wide" @update:model-value="change({ announcements: $event === true ? noAnnouncements : null })" />
          <AnnouncementFields v-if="draft.announcements !== null" class="wide" :model-value="draft.announcements" :values="fieldsAsWritten" language="en" part-name="part" :is-of-production="false" @update:model-value="change({ announcements: $event })" />
        </fieldset>
      </form>
      <p v-if="problem !== null" class="fault-text" role="alert">{{ problem }}</p>
    </v-card-text>
    <v-card-actions>
      <v-btn @click="emit('close')">Leave it as it is</v-btn>
      <v-btn type="submit" form="profile-form" color="primary" variant="flat" :disabled="problem !== null">{{ isNew ? 'Make this profile' : 'Save' }}</v-btn>
    </v-card-actions>
  </v-card>
</template>

<style scoped>
/* The label of the first field stands above its frame. */
form { padding-top: 8px; }
.fault-text { margin: 12px 0 0; }
</style>

<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Choices } from '#core/manuscript/choices'
import { presetNames, type PresetName } from '#core/style/presets'
import type { IntakeStyle } from '#shared/api'
import type { IntakeStyleRequest } from '#shared/schemas'
import { ask, messageOf } from '~/utils/api'
import { count } from '~/utils/format'
import { presetTexts, ruleTexts } from '~/utils/rules'

// The house style that a document begins with, and how often each of its rules would act.

const houseStyle = defineModel<PresetName | null>({ required: true })
const props = defineProps<{ manuscriptId: string, language: string, choices: Partial<Choices> }>()

const answer = shallowRef<IntakeStyle | null>(null)
const usual = ref<PresetName | null>(null)
const fault = ref('')
const items = presetNames.map(value => ({ value, title: presetTexts[value].split(':')[0]!, subtitle: presetTexts[value].split(': ')[1]! }))
const places = computed(() => (answer.value?.counts ?? []).reduce((sum, each) => sum + each.count, 0))
let asked = 0

/** Asks what the house style would do; the first answer says which one is usual for the document. */
const look = useDebounceFn(async () => {
  if (props.language === '') return
  asked += 1
  const own = asked
  const request: IntakeStyleRequest = { houseStyle: houseStyle.value ?? 'book', language: props.language, choices: props.choices }
  try {
    const found = await ask<IntakeStyle>(`/api/manuscripts/${props.manuscriptId}/house-style`, 'POST', request)
    if (own !== asked) return
    usual.value = found.usual
    // What was counted for another one is counted again for the usual.
    if ((houseStyle.value ?? found.usual) === request.houseStyle) answer.value = found
    fault.value = ''
    houseStyle.value ??= found.usual
  } catch (error) {
    if (own === asked) fault.value = messageOf(error)
  }
}, 150)
watch([houseStyle, () => props.language, () => props.choices], () => void look(), { immediate: true })
</script>

<template>
  <section class="style" aria-label="House style">
    <v-select v-model="houseStyle" :items="items" item-props label="House style: how it is said" :hint="houseStyle === usual ? 'usual for this kind of document' : 'chosen by you'" persistent-hint />
    <p v-if="fault !== ''" class="fault-text" role="alert">{{ fault }}</p>
    <p v-else-if="houseStyle === 'plain'" class="quiet">Everything is said as it is written: figures, signs and addresses as the voice takes them.</p>
    <template v-else-if="answer !== null">
      <details>
        <summary>Acts at {{ count(places, 'place') }}</summary>
        <ul><li v-for="each in answer.counts" :key="each.does"><span>{{ ruleTexts[each.does].name }}</span><span>{{ each.count.toLocaleString('en') }}</span></li></ul>
      </details>
      <button type="button" @click="houseStyle = 'plain'">Say everything as it is written (Plain)</button>
    </template>
    <p v-else class="quiet">Looking at the text …</p>
  </section>
</template>

<style scoped>
.style { font-size: 14px; }
p { margin: 4px 0 0; font-size: 13.5px; }
details { margin-top: 4px; }
summary { cursor: pointer; }
ul { list-style: none; margin: 2px 0 4px; padding: 0; }
li { display: flex; justify-content: space-between; gap: 10px; padding: 2px 0; border-bottom: 1px solid var(--line); font-variant-numeric: tabular-nums; }
button { border: 0; background: none; font: inherit; padding: 2px 0; color: var(--verdigris); cursor: pointer; text-decoration: underline; text-underline-offset: 3px; text-align: left; }
</style>

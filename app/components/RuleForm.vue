<script setup lang="ts">
import { emphasisLevels } from '#core/script/directions'
import { passageKinds } from '#core/script/script'
import type { Rule, RuleOf, RuleScope } from '#core/style/rule'
import { languageName } from '~/utils/format'
import { hows } from '~/utils/rules'
import { kindNames } from '~/utils/words'

// What can be set about a rule. Every change is a draft: what it would do is seen before it is kept.

const props = defineProps<{ rule: Rule, languages: readonly string[] }>()
const emit = defineEmits<{ change: [rule: Rule] }>()

const showsScope = ref(props.rule.scope !== undefined)
const own = computed(() => props.rule.does === 'own' ? props.rule as RuleOf<'own'> : null)
const pace = computed(() => props.rule.does === 'pace' ? props.rule as RuleOf<'pace'> : null)
const primaries = computed(() => [...new Set(props.languages.map(language => language.split('-')[0]!))].map(value => ({ value, title: languageName(value) })).sort((a, b) => a.title < b.title ? -1 : 1))

/** The rule with some values; those that are undefined go. */
function set(values: Record<string, unknown>): void {
  const next = Object.fromEntries(Object.entries({ ...props.rule, ...values }).filter(([, value]) => value !== undefined))
  emit('change', next as unknown as Rule)
}

function setScope(values: Record<string, unknown>): void {
  const scope = Object.fromEntries(Object.entries({ ...props.rule.scope, ...values }).filter(([, value]) => value !== undefined && value !== '' && !(Array.isArray(value) && value.length === 0))) as RuleScope
  set({ scope: Object.keys(scope).length === 0 ? undefined : scope })
}

function ms(text: string): number | undefined {
  const value = Math.round(Number(text))
  return text.trim() === '' || !(value >= 0 && value <= 20_000) ? undefined : value
}

function percent(text: string): number | undefined {
  const value = Math.round(Number(text))
  return value >= 50 && value <= 200 ? value : undefined
}
</script>

<template>
  <div class="rule-form">
    <v-select v-if="'how' in rule" :model-value="rule.how" :items="hows[rule.does]!" label="How" @update:model-value="set({ how: $event })" />
    <v-checkbox
      v-if="rule.does === 'numbers'" :model-value="rule.hundreds === true" label="Say 1500 bees as fifteen hundred" density="compact" hide-details
      @update:model-value="set({ hundreds: $event === true ? true : undefined })"
    />
    <v-text-field v-if="'restMs' in rule" :model-value="String(rule.restMs)" type="number" min="0" max="20000" step="50" label="Rest, ms" @update:model-value="ms($event) === undefined || set({ restMs: ms($event) })" />
    <template v-if="pace !== null">
      <v-text-field :model-value="String(pace.ratePercent)" type="number" min="50" max="200" label="Pace, % of the voice’s" @update:model-value="percent($event) === undefined || set({ ratePercent: percent($event) })" />
      <v-select :model-value="pace.of" :items="[{ value: 'passage', title: 'all of a passage' }, { value: 'numbers', title: 'numbers' }, { value: 'quotations', title: 'quotations' }]" label="What" @update:model-value="set({ of: $event })" />
    </template>
    <template v-if="own !== null">
      <v-text-field :model-value="own.find" label="Find" class="mono" maxlength="500" autofocus @update:model-value="set({ find: $event })" />
      <div class="checks">
        <v-checkbox :model-value="own.isPattern === true" label="Pattern" density="compact" hide-details @update:model-value="set({ isPattern: $event === true ? true : undefined })" />
        <v-checkbox :model-value="own.matchCase === true" label="These capitals" density="compact" hide-details @update:model-value="set({ matchCase: $event === true ? true : undefined })" />
        <v-checkbox :model-value="own.wholeWord === true" label="Whole words" density="compact" hide-details @update:model-value="set({ wholeWord: $event === true ? true : undefined })" />
      </div>
      <v-text-field
        :model-value="own.say ?? ''" label="Say instead" clearable :hint="own.isPattern === true ? '$1 and $<name> are what groups have found' : 'nothing leaves the words as they are'" persistent-hint maxlength="500"
        @update:model-value="set({ say: $event === null || $event === '' ? undefined : $event })"
      />
      <v-checkbox :model-value="own.say === ''" label="Leave it unspoken" density="compact" hide-details @update:model-value="set({ say: $event === true ? '' : undefined })" />
      <div class="pair">
        <v-text-field :model-value="own.restBeforeMs ?? ''" type="number" min="0" max="20000" step="50" label="Rest before, ms" @update:model-value="set({ restBeforeMs: ms(String($event)) })" />
        <v-text-field :model-value="own.restAfterMs ?? ''" type="number" min="0" max="20000" step="50" label="Rest after, ms" @update:model-value="set({ restAfterMs: ms(String($event)) })" />
      </div>
      <div class="pair">
        <v-select :model-value="own.emphasis ?? ''" :items="[{ value: '', title: 'as it is' }, ...emphasisLevels.map(value => ({ value, title: value }))]" label="Emphasis" @update:model-value="set({ emphasis: $event === '' ? undefined : $event })" />
        <v-text-field :model-value="own.ratePercent ?? ''" type="number" min="50" max="200" label="Pace, %" @update:model-value="set({ ratePercent: percent(String($event)) })" />
      </div>
    </template>
    <v-text-field :model-value="rule.note ?? ''" label="Name of your own" maxlength="300" @update:model-value="set({ note: $event === '' ? undefined : $event })" />
    <button type="button" class="toggle" :aria-expanded="showsScope" @click="showsScope = !showsScope">{{ showsScope ? '▾' : '▸' }} {{ rule.scope === undefined ? 'It acts everywhere; only in some places …' : 'It acts only in some places' }}</button>
    <div v-if="showsScope" class="scope">
      <v-select :model-value="rule.scope?.kinds ?? []" multiple chips closable-chips :items="passageKinds.map(value => ({ value, title: kindNames[value] }))" label="Only in" @update:model-value="setScope({ kinds: $event })" />
      <v-select :model-value="rule.scope?.languages ?? []" multiple chips closable-chips :items="primaries" label="Only in these languages" @update:model-value="setScope({ languages: $event })" />
      <v-text-field :model-value="rule.scope?.partLabel ?? ''" label="Only in parts with this in their name" maxlength="300" @update:model-value="setScope({ partLabel: $event })" />
    </div>
  </div>
</template>

<style scoped>
.rule-form, .scope { display: flex; flex-direction: column; gap: 10px; }
.checks { display: flex; flex-wrap: wrap; gap: 0 14px; }
.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.toggle { border: 0; background: none; padding: 0; font: inherit; font-size: 14.5px; color: var(--quiet); text-align: left; cursor: pointer; }
</style>

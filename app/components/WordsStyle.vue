<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiDragVertical, mdiPlus, mdiTrayArrowUp } from '@mdi/js'
import { useDebounceFn } from '@vueuse/core'
import { v7 as uuidv7 } from 'uuid'
import { VueDraggable } from 'vue-draggable-plus'
import { anchorAt } from '#core/script/anchor'
import { writtenText } from '#core/script/content'
import type { Passage } from '#core/script/script'
import { defaultHouseStyle, patchBetween, presetStyle } from '#core/style/house-style'
import { presetNames, type PresetName } from '#core/style/presets'
import { newRule, ruleNames, type Rule } from '#core/style/rule'
import type { RuleHitView } from '#core/score/rule-places'
import { ruleKinds, type RuleKindName } from '#core/style/rules'
import type { HouseStyleSummary } from '#shared/api'
import type { HouseStylePatch } from '#core/style/house-style'
import { useDesk } from '~/stores/desk'
import { useKeys } from '~/stores/keys'
import { useNotices } from '~/stores/notices'
import { ask, sendFile } from '~/utils/api'
import { count } from '~/utils/format'
import { groupNames, presetTexts, ruleSummary, ruleTexts } from '~/utils/rules'
import { windowName } from '~/utils/window-name'
import type { RulesAnswer } from '~/workers/words.worker'

// The house style: its rules in order, what each does to this script, and what it would do.

const props = defineProps<{ editionId: string, words: ReturnType<typeof useWords>, tick: number }>()
const desk = useDesk()
const notices = useNotices()
const keys = useKeys()

const style = computed(() => desk.desk!.houseStyle)
const chosen = ref<string | null>(null)
/** The chosen rule as it is being changed; null while it is as it is kept. */
const draft = shallowRef<Rule | null>(null)
const answer = shallowRef<RulesAnswer>({ counts: {}, hits: [], off: [], kinds: {} })
const looking = ref(false)
const most = ref(100)
const styles = shallowRef<readonly HouseStyleSummary[]>([])
const file = ref<HTMLInputElement | null>(null)
const order = ref<Rule[]>([])

watch(() => style.value.rules, rules => { order.value = [...rules] }, { immediate: true })
const rule = computed<Rule | null>(() => draft.value ?? style.value.rules.find(each => each.id === chosen.value) ?? null)
const others = computed(() => (styles.value.find(each => each.id === desk.desk!.houseStyleId)?.productions ?? 1) - 1)

/** The rules that are looked at: those that are kept, with the draft in its place, which counts even while it is off. */
const looked = computed<readonly Rule[]>(() => {
  const kept = style.value.rules
  if (rule.value === null) return kept
  const tried = { ...rule.value, on: true }
  return kept.some(each => each.id === tried.id) ? kept.map(each => each.id === tried.id ? tried : each) : [...kept, tried]
})

const look = useDebounceFn(async () => {
  if (!props.words.opened.value) return
  looking.value = true
  performance.mark('rules asked')
  try {
    answer.value = await props.words.ask<RulesAnswer>({ ask: 'rules', rules: looked.value, show: rule.value?.id ?? null, most: most.value })
    performance.mark('rules done')
    fault.value = ''
  } catch (error) {
    fault.value = (error as Error).message
  } finally {
    looking.value = false
  }
}, 120)
const fault = ref('')
watch([() => props.tick, looked, most], () => void look(), { immediate: true })
watch(() => props.tick, () => void ask<HouseStyleSummary[]>('/api/house-styles').then(list => { styles.value = list }).catch(() => undefined), { immediate: true })

function change(patch: HouseStylePatch): Promise<unknown> {
  return notices.attempt(() => desk.operate([{ op: 'setHouseStyle', patch }]))
}

function choose(id: string): void {
  draft.value = null
  most.value = 100
  chosen.value = id
}

function showRests(): void {
  draft.value = null
  chosen.value = null
}

async function keep(): Promise<void> {
  if (draft.value === null) return
  const isNew = !style.value.rules.some(each => each.id === draft.value!.id)
  const kept = draft.value
  await change({ rules: { [kept.id]: kept }, ...(isNew ? { order: orderWith(kept) } : {}) })
  chosen.value = kept.id
  draft.value = null
}

/** A new rule stands before those that write out: what these make it would not see. */
function orderWith(added: Rule): string[] {
  const ids = style.value.rules.map(each => each.id)
  const at = ruleKinds[added.does].group === 'expansion' ? ids.length : style.value.rules.findIndex(each => ruleKinds[each.does].group === 'expansion')
  return at < 0 ? [...ids, added.id] : [...ids.slice(0, at), added.id, ...ids.slice(at)]
}

function add(does: RuleKindName): void {
  chosen.value = null
  draft.value = does === 'own' ? { id: uuidv7(), on: true, does: 'own', find: '' } : newRule(uuidv7(), does)
}

function toggle(toggled: Rule): void {
  void change({ rules: { [toggled.id]: { ...toggled, on: !toggled.on } } })
}

function moveByKey(moved: Rule, event: KeyboardEvent): void {
  const by = keys.matches('ruleUp', event) ? -1 : keys.matches('ruleDown', event) ? 1 : null
  if (by === null) return
  event.preventDefault()
  move(moved, by)
}

function move(moved: Rule, by: -1 | 1): void {
  const ids = style.value.rules.map(each => each.id)
  const at = ids.indexOf(moved.id)
  if (at + by < 0 || at + by >= ids.length) return
  ids.splice(at, 1)
  ids.splice(at + by, 0, moved.id)
  void change({ order: ids }).then(() => nextTick(() => document.getElementById(`rule-${moved.id}`)?.focus()))
}

function usePreset(name: PresetName): void {
  showRests()
  void change(patchBetween(style.value, { ...style.value, name: style.value.name === defaultHouseStyle.name ? presetStyle(name).name : style.value.name, rules: presetStyle(name).rules }))
}

async function switchOff({ passageId, start, end }: RuleHitView): Promise<void> {
  await notices.attempt(async () => {
    const passage = await props.words.ask<Passage>({ ask: 'passage', passageId })
    await desk.operate([{ op: 'decide', id: uuidv7(), decision: { about: 'rule', rule: rule.value!.id, at: anchorAt(passageId, writtenText(passage.content), start, end) } }])
  })
}

async function bringIn(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [brought] = input.files ?? []
  input.value = ''
  if (brought === undefined) return
  await notices.attempt(async () => {
    const { rules } = await sendFile<{ readonly rules: number }>(`/api/editions/${props.editionId}/house-style/import?name=${encodeURIComponent(brought.name)}&window=${await windowName()}`, brought)
    notices.show(`${count(rules, 'rule')} taken over from ${brought.name}. Ctrl+Z takes them back.`)
    await desk.refresh()
  })
}

const useStyle = (id: string): Promise<unknown> => notices.attempt(() => desk.operate([{ op: 'chooseHouseStyle', houseStyleId: id }]))
const copy = (): Promise<unknown> => notices.attempt(() => desk.operate([{ op: 'copyHouseStyle' }]))
</script>

<template>
  <div class="style">
    <section class="list" aria-label="House style">
      <div class="tools">
        <v-select :model-value="desk.desk!.houseStyleId" :items="styles.map(each => ({ value: each.id, title: each.name, subtitle: count(each.productions, 'production') }))" label="House style of this production" max-width="300" @update:model-value="useStyle" />
        <v-btn v-if="others > 0" size="small" variant="text" @click="copy">Copy for this production</v-btn>
        <v-menu>
          <template #activator="{ props: menu }"><v-btn v-bind="menu" class="first">Start from</v-btn></template>
          <v-list density="compact"><v-list-item v-for="name in presetNames" :key="name" :title="presetTexts[name]" @click="usePreset(name)" /></v-list>
        </v-menu>
        <v-menu>
          <template #activator="{ props: menu }"><v-btn v-bind="menu" :prepend-icon="mdiPlus">Add a rule</v-btn></template>
          <v-list density="compact" max-height="420">
            <v-list-item title="Own rule: text or pattern" @click="add('own')" />
            <v-list-item v-for="name in ruleNames.filter(each => each !== 'own')" :key="name" :title="ruleTexts[name].name" @click="add(name)" />
          </v-list>
        </v-menu>
        <v-btn :prepend-icon="mdiTrayArrowUp" @click="file?.click()">Bring in</v-btn>
        <input ref="file" type="file" accept=".json,application/json" hidden aria-label="File of a house style" @change="bringIn">
        <v-btn :href="`/api/editions/${editionId}/house-style/export`" download>Export</v-btn>
      </div>
      <p class="quiet small">
        Each rule sees what those above it have made. The written text stays as it is.
        <template v-if="others > 0"><b>{{ count(others, 'other production has', 'other productions have') }} this house style too, and changes with it.</b></template>
      </p>
      <button type="button" class="rule rests" :class="{ chosen: rule === null }" :aria-pressed="rule === null" @click="showRests"><span class="name">Rests between passages and sentences</span><span class="quiet summary">{{ style.sentenceRestMs }} ms between sentences</span></button>
      <VueDraggable v-model="order" tag="ol" class="rules" handle=".grip" :animation="120" :force-fallback="true" @end="change({ order: order.map(each => each.id) })">
        <li v-for="(each, index) in order" :key="each.id" :class="{ chosen: rule?.id === each.id, off: !each.on }">
          <v-icon class="grip" :icon="mdiDragVertical" size="18" aria-hidden="true" />
          <input type="checkbox" :checked="each.on" :aria-label="`${ruleTexts[each.does].name} is on`" @change="toggle(each)">
          <button :id="`rule-${each.id}`" type="button" class="rule" :aria-pressed="rule?.id === each.id" @click="choose(each.id)" @keydown="moveByKey(each, $event)">
            <span class="name">{{ each.note ?? ruleTexts[each.does].name }}</span>
            <span class="quiet summary">{{ ruleSummary(each) }}</span>
          </button>
          <span class="hits" :title="each.on ? 'places in this script' : 'switched off'">{{ each.on ? (answer.counts[each.id] ?? 0).toLocaleString('en') : 'off' }}</span>
          <IconButton size="x-small" :icon="mdiArrowUp" :disabled="index === 0" :name="`Move ${ruleTexts[each.does].name} up`" @click="move(each, -1)" />
          <IconButton size="x-small" :icon="mdiArrowDown" :disabled="index === order.length - 1" :name="`Move ${ruleTexts[each.does].name} down`" @click="move(each, 1)" />
        </li>
      </VueDraggable>
      <p v-if="order.length === 0" class="quiet">No rules yet. Start from a set of them, or add one.</p>
    </section>

    <section class="detail" aria-label="The rule">
      <template v-if="rule !== null">
        <p class="quiet small group">{{ groupNames[ruleKinds[rule.does].group] }}</p>
        <h2>{{ ruleTexts[rule.does].name }}</h2>
        <p>{{ ruleTexts[rule.does].what }}</p>
        <RuleForm :key="rule.id" :rule="rule" :languages="desk.desk!.languages" @change="draft = $event" />
        <p v-if="fault !== ''" class="fault" role="alert">{{ fault }}</p>
        <div class="actions">
          <v-btn v-if="draft !== null" color="primary" variant="flat" :disabled="fault !== '' || draft.does === 'own' && draft.find === ''" @click="keep">Keep · {{ count(answer.counts[rule.id] ?? 0, 'place') }}</v-btn>
          <v-btn v-if="draft !== null" variant="text" @click="draft = null">Cancel</v-btn>
          <v-btn v-else variant="text" @click="change({ rules: { [rule.id]: null } })">Remove</v-btn>
        </div>
        <h3>{{ looking ? 'Looking …' : count(answer.counts[rule.id] ?? 0, 'place') }}</h3>
        <ul class="places">
          <li v-for="hit in answer.hits" :key="`${hit.passageId} ${hit.start} ${hit.end} ${hit.becomes}`">
            <RuleHit :hit="hit" />
            <v-btn v-if="rule.on && draft === null" size="small" variant="text" :aria-label="`Not here: ${hit.written}`" @click="switchOff(hit)">Not here</v-btn>
          </li>
        </ul>
        <template v-if="answer.off.length > 0">
          <h3>Switched off at {{ count(answer.off.length, 'place') }}</h3>
          <ul class="places">
            <li v-for="off in answer.off" :key="off.id">
              <span class="serif">{{ off.before }}<b>{{ off.written }}</b>{{ off.after }}</span>
              <v-btn size="small" variant="text" :aria-label="`Again: ${off.written}`" @click="notices.attempt(() => desk.operate([{ op: 'decide', id: off.id, decision: null }]))">Again</v-btn>
            </li>
          </ul>
        </template>
        <v-btn v-if="answer.hits.length < (answer.counts[rule.id] ?? 0)" size="small" variant="text" @click="most += 200">Show more</v-btn>
      </template>
      <template v-else>
        <h2>Rests</h2>
        <RestCard :house-style="style" :kind="null" :counts="answer.kinds" :levels="[1, 2, 3]" @change="change" />
        <p class="quiet small">Choose a rule to see what it does to this script, place by place.</p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.serif { font-weight: 400; }
.style { display: grid; grid-template-columns: minmax(0, 1fr) minmax(340px, 440px); height: 100%; }
.list { padding: 16px 22px; background: var(--sheet); overflow-y: auto; }
.detail { padding: 16px 22px; border-left: 1px solid var(--line); overflow-y: auto; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }
.first { margin-left: auto; }
.small { font-size: 14px; margin: 8px 0; }
.rules input { accent-color: var(--verdigris); width: 16px; height: 16px; }
.rules { list-style: none; margin: 0; padding: 0; }
.rules li { display: grid; grid-template-columns: auto auto minmax(0, 1fr) auto auto auto; align-items: center; gap: 8px; border-bottom: 1px solid var(--line); min-height: 38px; }
.rules li.chosen { background: var(--lit); box-shadow: inset 3px 0 0 var(--verdigris); }
.rules li.off .name { color: var(--quiet); }
.grip { cursor: grab; color: var(--quiet); }
.rule { display: flex; flex-wrap: wrap; align-items: baseline; gap: 0 10px; padding: 6px 0; border: 0; background: none; font: inherit; text-align: left; color: var(--ink); cursor: pointer; }
.rests { width: 100%; min-height: 38px; padding: 6px 8px 6px 52px; border-bottom: 1px solid var(--line); }
.rests.chosen { background: var(--lit); box-shadow: inset 3px 0 0 var(--verdigris); }
.name { font-weight: 550; }
.summary { font-size: 14px; overflow-wrap: anywhere; }
.hits { font-variant-numeric: tabular-nums; font-size: 14.5px; min-width: 44px; text-align: right; }
.off .hits { color: var(--quiet); }
h2 { margin: 0 0 4px; font-size: 20px; }
h3 { margin: 18px 0 4px; font-size: 14.5px; color: var(--quiet); }
.group { margin: 0; }
.detail > p { margin: 0 0 10px; font-size: 15px; }
.fault { color: var(--vermilion); font-size: 14px; }
.actions { display: flex; gap: 8px; margin-top: 12px; }
.places { list-style: none; margin: 0; padding: 0; }
.places li { display: flex; justify-content: space-between; align-items: baseline; gap: 10px; border-bottom: 1px solid var(--line); padding: 6px 0; }
@media (max-width: 1000px) { .style { display: block; height: auto; } .detail { border-left: 0; border-top: 1px solid var(--line); } }
</style>

<script setup lang="ts">
import type { WhyView } from '#shared/api'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { addedText, ruleTexts } from '~/utils/rules'
import { directionNames } from '~/utils/words'
import type { RuleKindName } from '#core/style/rules'
import type { DirectionKind } from '#core/script/directions'
import type { WhyStep } from '#shared/api'

// Why a place of the text is said as it is: what is written, what changed it in order, what the engine is given.

const props = defineProps<{ partId: string, place: { readonly passageId: string, readonly start: number, readonly end: number }, tick?: number }>()
const notices = useNotices()
const why = shallowRef<WhyView | null>(null)
const isOpen = defineModel<boolean>('open', { default: false })

watch([() => props.place, () => props.tick, isOpen], () => {
  if (!isOpen.value) why.value = null
  if (isOpen.value) void load()
})

async function load(): Promise<void> {
  const { passageId, start, end } = props.place
  const answer = await notices.attempt(() => ask<WhyView>(`/api/parts/${props.partId}/why?passage=${passageId}&start=${start}&end=${end}`))
  if (props.place.passageId === passageId && props.place.start === start) why.value = answer ?? null
}

function nameOf({ by, name }: WhyStep): string {
  if (by === 'rule') return ruleTexts[name as RuleKindName]?.name ?? 'Rule'
  if (by === 'word') return `Wordbook: ${name}`
  return `Direction: ${directionNames[name as DirectionKind]?.toLowerCase() ?? name}`
}
</script>

<template>
  <div class="why">
    <button type="button" class="ask" :aria-expanded="isOpen" @click="isOpen = !isOpen">Why does it say that?</button>
    <ol v-if="isOpen && why !== null" class="chain" aria-label="Why it is said so">
      <li><span class="quiet">written</span> <span class="serif">{{ why.written }}</span></li>
      <li v-for="(step, index) in why.steps" :key="index">
        <span class="quiet">{{ nameOf(step) }}</span>
        <span v-if="step.to !== step.from" class="serif spoken">{{ step.to.trim() === '' ? 'unspoken' : step.to.trim() }}</span>
        <span v-if="addedText(step.restMs, step.how) !== ''">{{ addedText(step.restMs, step.how) }}</span>
      </li>
      <li v-if="why.steps.length === 0"><span class="quiet">no direction, entry or rule acts here</span></li>
      <li><span class="quiet">the voice is given</span> <code>{{ why.sent === '' ? 'nothing' : why.sent }}</code></li>
      <li v-if="why.ipa !== null"><span class="quiet">it says</span> <span class="serif">/{{ why.ipa }}/</span></li>
    </ol>
  </div>
</template>

<style scoped>
.ask { border: 0; background: none; padding: 2px 0; font: inherit; font-size: 13.5px; color: var(--verdigris); text-decoration: underline; cursor: pointer; }
.chain { list-style: none; margin: 2px 0 6px; padding: 0 0 0 10px; border-left: 2px solid var(--line); font-size: 14px; line-height: 1.45; }
.chain li { overflow-wrap: anywhere; }
.chain li > .quiet { margin-right: 6px; font-size: 13px; }
.serif { font-weight: 400; }
.spoken { color: var(--dusk); font-style: italic; }
code { font: 12.5px var(--mono); }
</style>

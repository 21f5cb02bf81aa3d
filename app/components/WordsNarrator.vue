<script setup lang="ts">
import { v7 as uuidv7 } from 'uuid'
import { anchorAt, placeOf } from '#core/script/anchor'
import { writtenText } from '#core/script/content'
import type { Decision } from '#core/script/decisions'
import { withDirection } from '#core/script/edit'
import { replaced } from '#core/script/retext'
import type { Passage } from '#core/script/script'
import { defaultLongestSentence, narratorAdvice, narratorReasons, type NarratorReason } from '#core/style/narrator-check'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { count } from '~/utils/format'
import { narratorNames } from '~/utils/words'
import type { NarratorView } from '~/workers/words.worker'
import { useProduction } from '~/stores/production'

// What the script says that a synthetic narrator should not; each is mended here, or left as it is.

const props = defineProps<{ editionId: string, words: ReturnType<typeof useWords>, tick: number }>()
const { page } = useProduction()
const desk = useDesk()
const notices = useNotices()
const found = shallowRef<readonly NarratorView[]>([])
const decisions = shallowRef<readonly { readonly id: string, readonly decision: Decision }[]>([])
const looking = ref(true)
const reason = ref<NarratorReason | 'all'>('all')
const longest = ref(defaultLongestSentence)
const edited = ref<string | null>(null)
const text = ref('')
const most = ref(100)

watch([() => props.tick, longest], () => void notices.attempt(async () => {
  if (props.tick === 0) return
  decisions.value = await props.words.ask<typeof decisions.value>({ ask: 'decisions' })
  found.value = await props.words.ask<readonly NarratorView[]>({ ask: 'narrator', longest: longest.value })
  looking.value = false
}), { immediate: true })

const keyOf = ({ passageId, start, end, reason: why }: NarratorView): string => `${passageId} ${start} ${end} ${why}`
const left = computed(() => decisions.value.flatMap(({ decision }) => decision.about === 'narrator' ? [decision] : []))
const isLeft = (finding: NarratorView): boolean => left.value.some(({ reason: why, at }) => why === finding.reason && at.passageId === finding.passageId
  && (at.start === finding.start && at.quote === finding.written.slice(0, 2000) || placeOf(at, `${finding.before}${finding.written}${finding.after}`)?.[0] === finding.before.length))
const open = computed(() => found.value.filter(finding => !isLeft(finding)))
const shown = computed(() => reason.value === 'all' ? open.value : open.value.filter(finding => finding.reason === reason.value))
const reasons = computed(() => [
  { key: 'all' as const, title: 'All', count: open.value.length, main: true },
  ...narratorReasons.map(key => ({ key, title: narratorNames[key], count: open.value.filter(finding => finding.reason === key).length })),
])

async function withPassage(finding: NarratorView, make: (passage: Passage & { readonly revision: number }) => Parameters<typeof desk.operate>[0]): Promise<void> {
  await notices.attempt(async () => desk.operate(make(await props.words.ask({ ask: 'passage', passageId: finding.passageId }))))
  edited.value = null
}

const leave = (finding: NarratorView): Promise<void> => withPassage(finding, passage => [{ op: 'decide', id: uuidv7(), decision: { about: 'narrator', reason: finding.reason, at: anchorAt(finding.passageId, writtenText(passage.content), finding.start, finding.end) } }])
const leaveOut = (finding: NarratorView): Promise<void> => withPassage(finding, passage => [{ op: 'setContent', passageId: finding.passageId, revision: passage.revision, content: withDirection(passage.content, { id: uuidv7(), kind: 'leftOut' }, finding.start, finding.end) }])
const mend = (finding: NarratorView): Promise<void> => withPassage(finding, passage => [{ op: 'setContent', passageId: finding.passageId, revision: passage.revision, content: replaced(passage.content, finding.start, finding.end, text.value) }])

function edit(finding: NarratorView): void {
  edited.value = keyOf(finding)
  text.value = finding.written
}
</script>

<template>
  <div class="narrator">
    <nav class="reasons" aria-label="What is found">
      <ReasonList v-model="reason" :reasons="reasons" />
      <v-text-field :model-value="String(longest)" type="number" min="5" max="200" label="Longest sentence, words" class="longest" @update:model-value="Number($event) >= 5 && (longest = Math.round(Number($event)))" />
      <p class="quiet small">{{ count(left.length, 'place') }} left as they are</p>
    </nav>
    <section class="findings" aria-label="Narrator check">
      <p v-if="shown.length === 0 && !looking" class="quiet">Nothing that a synthetic narrator should not say.</p>
      <ul>
        <li v-for="finding in shown.slice(0, most)" :key="keyOf(finding)">
          <p class="serif"><template v-if="finding.written.length < 200">{{ finding.before }}</template><mark>{{ finding.written }}</mark><template v-if="finding.written.length < 200">{{ finding.after }}</template></p>
          <p class="advice"><b>{{ narratorNames[finding.reason] }}.</b> {{ narratorAdvice[finding.reason] }}</p>
          <form v-if="edited === keyOf(finding)" class="mend" @submit.prevent="mend(finding)">
            <v-textarea v-model="text" label="Written instead" rows="2" auto-grow autofocus @keydown.esc="edited = null" />
            <div><v-btn type="submit" size="small" color="primary" variant="flat" :disabled="text === finding.written">Keep the change</v-btn> <v-btn size="small" variant="text" @click="edited = null">Cancel</v-btn></div>
          </form>
          <div v-else class="actions">
            <NuxtLink :to="page('script', { part: finding.partId })" class="quiet">{{ finding.partLabel }}</NuxtLink>
            <v-btn size="small" variant="text" :aria-label="`Change the text “${finding.written.slice(0, 40)}”`" @click="edit(finding)">Change the text</v-btn>
            <v-btn size="small" variant="text" :aria-label="`Leave it unspoken: “${finding.written.slice(0, 40)}”`" @click="leaveOut(finding)">Leave it unspoken</v-btn>
            <v-btn size="small" variant="text" :aria-label="`Leave as it is: “${finding.written.slice(0, 40)}”`" @click="leave(finding)">Leave as it is</v-btn>
          </div>
        </li>
      </ul>
      <v-btn v-if="shown.length > most" variant="text" @click="most += 100">Show more</v-btn>
    </section>
  </div>
</template>

<style scoped>
.serif { font-weight: 400; }
.narrator { display: grid; grid-template-columns: 230px minmax(0, 1fr); height: 100%; }
.reasons { padding: 16px 14px; border-right: 1px solid var(--line); overflow-y: auto; }
.longest { margin-top: 18px; }
.small { font-size: 13.5px; }
.findings { padding: 10px 28px; background: var(--sheet); overflow-y: auto; }
.findings ul { list-style: none; margin: 0; padding: 0; max-width: 820px; }
.findings li { border-bottom: 1px solid var(--line); padding: 12px 0 8px; }
.findings p { margin: 0; }
.serif { font-size: 16.5px; line-height: 1.45; overflow-wrap: anywhere; }
mark { background: var(--lit); color: inherit; box-shadow: 0 1.5px 0 var(--vermilion); }
.advice { font-size: 14.5px; margin: 3px 0 2px; }
.actions { display: flex; flex-wrap: wrap; align-items: center; gap: 4px; font-size: 14px; }
.actions a { margin-right: auto; }
.mend { margin-top: 8px; max-width: 640px; }
@media (max-width: 1000px) { .narrator { display: block; height: auto; } .reasons { border-right: 0; } }
</style>

<script setup lang="ts">
import { clock } from '#core/estimate/clock'
import type { PresetName } from '#core/style/presets'
import type { ProposedPartView } from '#shared/api'
import type { ProductionRequest } from '#shared/schemas'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { count, spokenLength } from '~/utils/format'
import { dropNames, partNames } from '~/utils/words'

// What was found in a document, before it becomes a production: its parts beside their text, and what is not read.

const notices = useNotices()
const id = String(useRoute().params['id'])
const { document, found, proposal, choices, chosen, shown, refused, choose, restore, readAgain, stop } = useIntake(id)
const title = ref('')
const author = ref('')
const language = ref('')
/** The house style it begins with; null while the one of its kind is not known yet. */
const houseStyle = ref<PresetName | null>(null)
const accepting = ref(false)

useHead({ title: () => `Intake, ${document.value?.fileName ?? ''} – Orator Quill` })

watch(found, now => {
  if (now === null) return
  title.value = now.title
  author.value = now.author ?? ''
  language.value = now.language
})
const { languages } = useLanguages(true, computed(() => found.value?.language))

const parts = computed(() => proposal.value?.parts ?? [])
const part = computed(() => proposal.value === null || proposal.value.shown === null ? undefined : parts.value[proposal.value.shown.index])
const taken = computed(() => parts.value.filter(each => each.included))
const totalMs = computed(() => taken.value.reduce((sum, each) => sum + each.durationMs, 0))
const words = computed(() => taken.value.reduce((sum, each) => sum + each.words, 0))
/** What the document would be divided into is not known yet. */
const isReading = computed(() => proposal.value === null && refused.value === null)
const one = computed(() => found.value?.units?.kind ?? 'part')
const languageHint = computed(() => {
  if (found.value === null || language.value !== found.value.language) return 'chosen by you'
  return { chosen: '', declared: 'as the document says', detected: 'recognised from the text', assumed: 'assumed: too little text to tell. Check it.' }[found.value.languageSource]
})
/** Kept when a table is read again. */
const chosenEncoding = computed(() => found.value?.encoding?.certainty === 'chosen' ? { encoding: found.value.encoding.name } : {})
const dropped = computed(() => (proposal.value?.dropped ?? []).toSorted((a, b) => b.count - a.count))

const footnoteItems = [{ title: 'left out', value: 'leave-out' }, { title: 'read after their passage', value: 'in-place' }, { title: 'read at the end of the part', value: 'at-end' }]
const tableItems = [{ title: 'read row by row', value: 'read' }, { title: 'read, each cell with its heading', value: 'with-headers' }, { title: 'left out', value: 'leave-out' }]
const imageItems = [{ title: 'left out', value: 'leave-out' }, { title: 'read', value: 'read' }]
const deckItems = [{ title: 'the speaker notes', value: 'notes' }, { title: 'what is on the slides', value: 'slide' }, { title: 'both', value: 'both' }]

/** What is to be known of a part at a glance. */
function noteOf({ kind, about, words: spoken }: ProposedPartView): string | null {
  if (about?.hidden === true) return 'hidden'
  if (about?.duplicateOf !== undefined) return 'doubled'
  if (kind === 'slide' && spoken === 0) return 'says nothing'
  return kind === 'chapter' || kind === 'slide' || kind === 'article' ? null : partNames[kind].toLowerCase()
}

function include(block: number, included: boolean): void {
  choose({ included: { ...chosen.value.included, [block]: included } })
}

function begin(block: number): void {
  const { begins = [], joins = [] } = chosen.value
  choose({ begins: [...begins, block], joins: joins.filter(each => each !== block) })
}

function join(block: number): void {
  const { begins = [], joins = [] } = chosen.value
  if (shown.value > 0) shown.value -= 1
  choose({ begins: begins.filter(each => each !== block), joins: [...joins, block] })
}

const firstSteps = useFirstSteps()

async function accept(): Promise<void> {
  accepting.value = true
  const request: ProductionRequest = { manuscriptId: id, title: title.value, author: author.value, language: language.value, choices: chosen.value, ...(houseStyle.value === null ? {} : { houseStyle: houseStyle.value }) }
  const made = await notices.attempt(() => ask<{ editionId: string }>('/api/editions', 'POST', request))
  accepting.value = false
  if (made === null) return
  firstSteps.tick('brought')
  await navigateTo(`/productions/${made.editionId}/script`)
}
</script>

<template>
  <AppMasthead />
  <IntakeWait v-if="document !== null && document.state !== 'ready'" :document="document" @stop="stop" @again="readAgain($event === null ? {} : { encoding: $event })" />
  <main v-else-if="document !== null && found !== null && choices !== null" class="intake">
    <aside>
      <div class="controls">
        <h1>Intake</h1>
        <p class="mono file">{{ document.fileName }}</p>
        <v-text-field v-model="title" label="Title" maxlength="300" />
        <v-text-field v-model="author" label="Author" placeholder="not given" persistent-placeholder maxlength="300" />
        <v-autocomplete v-model="language" :items="languages" label="Language" :hint="languageHint" persistent-hint />
        <IntakeEncoding v-if="found.encoding !== null" :encoding="found.encoding" @read="readAgain({ encoding: $event })" />
        <IntakeSplit :found="found" :split="choices.split" :refused="refused" @choose="choose({ split: $event, begins: [], joins: [] })" />
        <IntakeExcerpt :found="found" :excerpt="choices.excerpt" @choose="choose({ excerpt: $event })" />
        <template v-if="found.units?.kind === 'slide'">
          <v-select :model-value="choices.from" :items="deckItems" label="What is said: from" @update:model-value="choose({ from: $event })" />
          <v-checkbox :model-value="choices.hints" label="Short texts on a slide become parts of their own (hints)" density="compact" hide-details @update:model-value="choose({ hints: $event === true })" />
        </template>
        <v-text-field
          v-if="found.units?.kind === 'article'" :model-value="choices.opening" label="First line of each article" hint="{title}, {author}, {date}, {source}" persistent-hint maxlength="300"
          @change="choose({ opening: ($event.target as HTMLInputElement).value })"
        />
        <IntakeColumns v-if="found.columns !== null" :columns="found.columns" @read="readAgain({ ...chosenEncoding, ...$event })" />
        <v-select v-if="found.footnotes > 0" :model-value="choices.footnotes" :items="footnoteItems" :label="count(found.footnotes, 'footnote')" @update:model-value="choose({ footnotes: $event })" />
        <v-select v-if="found.tables > 0" :model-value="choices.tables" :items="tableItems" :label="count(found.tables, 'table row')" @update:model-value="choose({ tables: $event })" />
        <v-select v-if="found.images > 0" :model-value="choices.images" :items="imageItems" :label="count(found.images, 'image description')" @update:model-value="choose({ images: $event })" />

        <IntakeStyle v-model="houseStyle" :manuscript-id="id" :language="language" :choices="chosen" />

        <section v-if="dropped.length > 0" aria-label="Not read">
          <h2>Not read</h2>
          <ul class="drops">
            <li v-for="drop in dropped" :key="drop.kind">
              <span>{{ count(drop.count, ...dropNames[drop.kind]) }}<span v-if="drop.restored > 0" class="quiet">, {{ drop.restored === drop.count ? 'all' : drop.restored }} read all the same</span></span>
              <button type="button" @click="restore({ kind: drop.kind }, !(choices.restoredKinds.includes(drop.kind)))">{{ choices.restoredKinds.includes(drop.kind) ? 'Do not read' : 'Read' }}</button>
            </li>
          </ul>
        </section>
        <section v-if="found.problems.length > 0" aria-label="To know">
          <h2>To know</h2>
          <ul class="problems"><li v-for="(problem, index) in found.problems.slice(0, 30)" :key="index">{{ problem.message }} <span v-if="problem.place !== undefined" class="quiet">({{ problem.place }})</span></li></ul>
        </section>
      </div>
      <div class="accept">
        <p v-if="refused !== null" class="fault-text" role="alert">{{ refused }}</p>
        <p v-if="isReading" class="quiet" role="status">Reading … The parts and their lengths come in a moment.</p>
        <p v-else class="quiet">{{ count(words, 'word') }}, about {{ spokenLength(totalMs) }} to listen to. Everything can be changed later.</p>
        <v-btn color="primary" variant="flat" size="large" block :loading="accepting" :disabled="title.trim() === '' || parts.length === 0 || refused !== null" @click="accept">
          {{ isReading ? 'Accept' : `Accept ${count(taken.length, one)}` }}
        </v-btn>
      </div>
    </aside>

    <section class="parts" aria-label="Parts found">
      <table class="plain">
        <thead><tr><th scope="col"><span class="sr-only">Read</span></th><th class="number" scope="col">No</th><th scope="col">Part</th><th class="number" scope="col">Words</th><th class="number" scope="col">Minutes</th></tr></thead>
        <tbody>
          <tr v-for="(each, index) in parts" :key="each.block" :class="{ shown: index === proposal?.shown?.index, out: !each.included }" @click="shown = index">
            <td class="check"><input type="checkbox" :checked="each.included" :aria-label="`Read ${each.label}`" @click.stop @change="include(each.block, ($event.target as HTMLInputElement).checked)"></td>
            <td class="number quiet">{{ index + 1 }}</td>
            <td>
              <button type="button" :aria-pressed="index === shown" @click.stop="shown = index">{{ each.label }}</button>
              <span v-if="noteOf(each) !== null" class="quiet kind">&ensp;{{ noteOf(each) }}</span>
            </td>
            <td class="number">{{ each.words.toLocaleString('en') }}</td>
            <td class="number">{{ each.words === 0 ? '–' : `~ ${clock(each.durationMs)}` }}</td>
          </tr>
        </tbody>
      </table>
    </section>

    <IntakeText
      v-if="part !== undefined && proposal?.shown" :part="part" :shown="proposal.shown" :first="proposal.shown.index === 0" :can-divide="choices.split.by !== 'unit'"
      @restore="restore" @begin="begin" @join="join"
    />
  </main>
</template>

<style scoped>
.intake { display: grid; grid-template-columns: 300px minmax(300px, 1fr) minmax(340px, 1.25fr); height: calc(100vh - var(--masthead) - 1px); }
aside { display: flex; flex-direction: column; min-height: 0; border-right: 1px solid var(--line); }
.controls { padding: 22px 20px 16px; display: flex; flex-direction: column; gap: 13px; overflow-y: auto; flex: 1 1 auto; }
.controls > * { flex: none; }
.controls h1 { margin: 0; }
.controls h2 { margin: 6px 0 4px; font-size: 16px; }
.accept { padding: 12px 20px 16px; border-top: 1px solid var(--line); }
.accept p { font-size: 13.5px; margin: 0 0 10px; }
.file { margin: -10px 0 2px; overflow-wrap: anywhere; color: var(--quiet); }
.drops, .problems { list-style: none; margin: 0; padding: 0; font-size: 14px; }
.drops li { display: flex; justify-content: space-between; gap: 10px; padding: 3px 0; border-bottom: 1px solid var(--line); }
.drops button { flex: none; border: 0; background: none; font: inherit; color: var(--verdigris); cursor: pointer; text-decoration: underline; text-underline-offset: 3px; }
.problems li { padding: 4px 0; }
.parts { overflow-y: auto; background: var(--sheet); padding: 8px 8px 30px 4px; }
.parts tr { cursor: pointer; }
.parts tr.shown td { background: var(--lit); }
.parts tr.out button { color: var(--quiet); text-decoration: line-through; }
.parts td, .parts th { padding-left: 10px; }
.parts td { vertical-align: top; }
.parts .check { width: 26px; padding-right: 0; }
.parts .check input { accent-color: var(--verdigris); width: 15px; height: 15px; vertical-align: -2px; }
.parts button { border: 0; background: none; font: inherit; color: inherit; text-align: left; padding: 0; cursor: pointer; }
.kind { font-size: 13px; }
@media (max-width: 1000px) { .intake { display: block; height: auto; } aside { border-right: 0; } }
</style>

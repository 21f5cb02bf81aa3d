<script setup lang="ts">
import type { DropKind } from '#core/manuscript/manuscript'
import type { ProposedPartView, ShownPart } from '#shared/api'
import { languageName } from '~/utils/format'
import { dropNames, kindNames } from '~/utils/words'

// The text of one part as it would be read, with what is dropped where it stands.

defineProps<{ part: ProposedPartView, shown: ShownPart, first: boolean, canDivide: boolean }>()
const emit = defineEmits<{
  restore: [drop: { id: string, kind: DropKind }, restored: boolean]
  /** A part begins at a block, or does not. */
  begin: [block: number]
  join: [block: number]
}>()
</script>

<template>
  <section class="text" aria-label="Text of the part">
    <div v-if="part.about !== null" class="about">
      <p v-if="part.about.author !== undefined || part.about.date !== undefined || part.about.source !== undefined" class="quiet">
        {{ [part.about.author, part.about.date, part.about.source].filter(each => each !== undefined).join(' · ') }}
      </p>
      <p v-if="part.about.hidden === true" class="stale-text">This slide is hidden in the deck, so it is left out.</p>
      <p v-if="part.about.duplicateOf !== undefined" class="stale-text">Has the same words as the earlier article “{{ part.about.duplicateOf }}”, so it is left out.</p>
    </div>
    <p v-if="part.kind === 'slide' && part.words === 0" class="stale-text">Nothing is said on this slide, so it makes no file.</p>
    <template v-for="(row, index) in shown.rows" :key="index">
      <div v-if="row.of === 'passage'" class="row">
        <span class="kind">{{ kindNames[row.kind] }}<template v-if="row.page !== null"><br>page {{ row.page }}</template></span>
        <p :class="row.kind" :lang="row.language ?? undefined">
          {{ row.text }} <span v-if="row.language !== null" class="quiet language">{{ languageName(row.language) }}</span>
        </p>
        <span v-if="canDivide && row.block !== null" class="divide">
          <button v-if="index === 0 && !first" type="button" @click="emit('join', row.block)">Join to the part before</button>
          <button v-else-if="index > 0" type="button" @click="emit('begin', row.block)">Begin a part here</button>
        </span>
      </div>
      <div v-else class="row drop" :class="{ restored: row.restored }">
        <span class="kind">{{ dropNames[row.kind][0] }}</span>
        <p class="dropped">{{ row.text.length > 300 ? `${row.text.slice(0, 300)} …` : row.text }}</p>
        <span class="divide always"><button type="button" @click="emit('restore', row, !row.restored)">{{ row.restored ? 'Do not read it' : 'Read it' }}</button></span>
      </div>
    </template>
    <p v-if="shown.more > 0" class="quiet more">and {{ shown.more.toLocaleString('en') }} more</p>
  </section>
</template>

<style scoped>
.text { overflow-y: auto; padding: 16px 18px 40px 14px; border-left: 1px solid var(--line); background: var(--sheet); }
.about p { margin: 0 0 8px; }
.row { position: relative; display: grid; grid-template-columns: 84px minmax(0, 1fr); gap: 4px 12px; align-items: baseline; margin-bottom: 9px; }
.row.drop { grid-template-columns: 84px minmax(0, 1fr) auto; }
.kind { font-size: 12.5px; color: var(--quiet); text-align: right; overflow-wrap: normal; }
.row p { margin: 0; font-family: var(--serif); font-size: 15.5px; line-height: 1.55; }
.row p.title { font-size: 20px; font-weight: 600; }
.row p.heading { font-weight: 600; }
.row p.quotation { font-style: italic; }
.row p.note { font-size: 14px; }
.row p.dropped { font-family: var(--sans); font-size: 14px; line-height: 1.4; color: var(--quiet); text-decoration: line-through; }
.row.restored p.dropped { text-decoration: none; }
.language { font-family: var(--sans); font-size: 12.5px; }
.divide button { border: 0; background: none; font: inherit; font-size: 13px; color: var(--verdigris); cursor: pointer; padding: 2px 4px; text-decoration: underline; text-underline-offset: 3px; }
.divide:not(.always) { position: absolute; right: 0; top: -14px; }
.divide:not(.always) button { opacity: 0; background: var(--sheet); }
.row:hover .divide button, .divide button:focus-visible { opacity: 1; }
.more { margin-left: 96px; font-size: 14px; }
@media (hover: none) { .divide:not(.always) button { opacity: 1; } }
@media (max-width: 1000px) { .text { border-left: 0; border-top: 1px solid var(--line); padding-left: 8px; } }
@media (max-width: 639px) { .row { grid-template-columns: 1fr; gap: 0; } .kind { text-align: left; } .more { margin-left: 0; } }
</style>

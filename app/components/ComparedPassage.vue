<script setup lang="ts">
import type { ComparedRow } from '#shared/api'
import { compare } from '~/utils/difference'

// One passage of a new version beside the script's, and the choice where there is one.

const props = defineProps<{ row: ComparedRow, kept: boolean }>()
const emit = defineEmits<{ keep: [kept: boolean] }>()

const names = { moved: 'Moved', edited: 'Edited', new: 'New', gone: 'Gone' } as const
const old = computed(() => props.row.conflict ? props.row.written : props.row.before)
const sides = computed(() => ({
  before: old.value === null ? null : compare(old.value, props.row.after ?? ''),
  after: props.row.after === null ? null : compare(props.row.after, old.value ?? ''),
}))
const canKeep = computed(() => props.row.state === 'edited' || props.row.state === 'gone')
</script>

<template>
  <tr :class="row.state">
    <td data-label="What"><b>{{ names[row.state] }}</b><br><span class="quiet part">{{ row.part }}</span></td>
    <td data-label="In the script">
      <p v-if="row.conflict" class="stale-text note">changed here since it came in</p>
      <template v-if="row.state === 'moved'">{{ row.before }}</template>
      <template v-else-if="sides.before !== null">{{ sides.before.before }}<del>{{ sides.before.own }}</del>{{ sides.before.after }}</template>
    </td>
    <td data-label="In the new version">
      <template v-if="row.state === 'moved'">in its new place</template>
      <template v-else-if="sides.after !== null">{{ sides.after.before }}<ins>{{ sides.after.own }}</ins>{{ sides.after.after }}</template>
      <span v-else class="quiet">not there any more</span>
    </td>
    <td data-label="Take over">
      <label v-if="canKeep" class="take"><input type="checkbox" :checked="!kept" @change="emit('keep', !($event.target as HTMLInputElement).checked)"> {{ row.state === 'gone' ? 'Remove it' : 'Take it' }}</label>
      <span v-else class="quiet">{{ row.state === 'moved' ? 'moves' : 'comes in' }}</span>
    </td>
  </tr>
</template>

<style scoped>
td { font-family: var(--serif); font-size: 15px; line-height: 1.5; }
td:first-child, td:last-child, .note { font-family: var(--sans); font-size: 14px; }
.note { margin: 0 0 2px; }
.part { font-size: 13px; }
del { background: var(--stale-wash); }
ins { background: var(--lit); text-underline-offset: 3px; }
.take { white-space: nowrap; cursor: pointer; }
.take input { accent-color: var(--verdigris); vertical-align: -1px; }
</style>

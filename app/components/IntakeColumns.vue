<script setup lang="ts">
import { columnRoles, type ColumnRole, type TableColumns } from '#core/manuscript/manuscript'
import type { ReaderOptions } from '#shared/schemas'

// What the columns of a table are, with its first rows to judge by.

const props = defineProps<{ columns: TableColumns }>()
const emit = defineEmits<{ read: [options: ReaderOptions] }>()

const roleNames: Readonly<Record<ColumnRole, string>> = { title: 'Title', author: 'Author', date: 'Date', body: 'Text', source: 'Source' }
const delimiters = [{ title: 'Comma', value: ',' }, { title: 'Semicolon', value: ';' }, { title: 'Tab', value: '\t' }, { title: 'Vertical line', value: '|' }]
const items = computed(() => [{ title: 'none', value: '' }, ...props.columns.names.map(name => ({ title: name, value: name }))])

function choose(role: ColumnRole, name: string): void {
  const all = Object.fromEntries(columnRoles.map(each => [each, props.columns.mapping[each] ?? '']))
  emit('read', { delimiter: props.columns.delimiter, columns: { ...all, [role]: name } })
}
</script>

<template>
  <details class="columns">
    <summary>Columns of the table</summary>
    <div class="fields">
      <v-select :model-value="columns.delimiter" :items="delimiters" label="Between the columns" @update:model-value="emit('read', { delimiter: $event })" />
      <v-select
        v-for="role in columnRoles" :key="role" :model-value="columns.mapping[role] ?? ''" :items="role === 'body' ? items.slice(1) : items" :label="roleNames[role]"
        @update:model-value="choose(role, $event)"
      />
    </div>
    <div class="sample" tabindex="0" role="region" aria-label="First rows of the table">
      <table class="plain">
        <thead><tr><th v-for="name in columns.names" :key="name" scope="col">{{ name }}</th></tr></thead>
        <tbody><tr v-for="(row, index) in columns.sample" :key="index"><td v-for="(cell, column) in row" :key="column">{{ cell }}</td></tr></tbody>
      </table>
    </div>
  </details>
</template>

<style scoped>
.columns { border-top: 1px solid var(--line); padding-top: 10px; }
.fields { display: flex; flex-direction: column; gap: 12px; padding-top: 12px; }
.fields > * { flex: none; }
summary { cursor: pointer; font-weight: 600; }
.sample { overflow-x: auto; max-height: 200px; margin-top: 12px; }
.sample table { font-size: 13px; }
.sample td, .sample th { max-width: 180px; min-width: 70px; overflow-wrap: normal; }
</style>

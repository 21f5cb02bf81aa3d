<script setup lang="ts">
import { ProblemError } from '#core/problem'
import { renamed } from '#core/script/rename'
import type { PartSummary } from '#shared/api'
import type { Operation } from '#shared/operations'
import { count } from '~/utils/format'

// Renames several parts by a pattern, with what comes of it.

const props = defineProps<{ parts: readonly PartSummary[] }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ operate: [operations: Operation[]] }>()

const find = ref('^(.*)$')
const replace = ref('Chapter {n}: $1')

const result = computed((): { names: readonly string[], problem: string | null } => {
  try {
    return { names: renamed(props.parts.map(part => part.label), find.value, replace.value), problem: null }
  } catch (error) {
    if (error instanceof ProblemError) return { names: props.parts.map(part => part.label), problem: error.message }
    throw error
  }
})
const changes = computed(() => props.parts.flatMap((part, index): Operation[] => {
  const label = result.value.names[index]!.slice(0, 300)
  return label === part.label ? [] : [{ op: 'renamePart', partId: part.id, revision: part.revision, label }]
}))

function apply(): void {
  emit('operate', changes.value)
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="640" aria-label="Rename parts" scrollable>
    <v-card :title="`Rename ${count(parts.length, 'part')}`">
      <v-card-text>
        <div class="fields">
          <v-text-field v-model="find" label="Find (regular expression)" class="mono" maxlength="300" :error-messages="result.problem ?? []" />
          <v-text-field v-model="replace" label="Put in its place" class="mono" maxlength="300" hint="$1 is the first group in brackets, {n} the number" persistent-hint />
        </div>
        <table class="plain">
          <thead><tr><th scope="col">Now</th><th scope="col">Then</th></tr></thead>
          <tbody>
            <tr v-for="(part, index) in parts.slice(0, 200)" :key="part.id"><td>{{ part.label }}</td><td :class="result.names[index] === part.label ? 'quiet' : ''">{{ result.names[index] }}</td></tr>
          </tbody>
        </table>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="open = false">Keep the names</v-btn>
        <v-btn color="primary" variant="flat" :disabled="changes.length === 0" @click="apply">Rename {{ count(changes.length, 'part') }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fields { display: grid; grid-template-columns: repeat(auto-fit, minmax(220px, 1fr)); gap: 12px; margin: 6px 0 14px; }
</style>

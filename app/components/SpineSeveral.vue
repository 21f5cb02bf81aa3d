<script setup lang="ts">
import type { PartSummary } from '#shared/api'
import type { Operation } from '#shared/operations'
import { count } from '~/utils/format'

// What is done with several parts at once: each action is one edit.

const props = defineProps<{ parts: readonly PartSummary[], chosen: ReadonlySet<string> }>()
const emit = defineEmits<{ all: [], none: [], close: [], operate: [operations: Operation[]], rename: [] }>()

const own = computed(() => props.parts.filter(part => props.chosen.has(part.id)))
const anyIn = computed(() => own.value.some(part => part.included))
const indexes = computed(() => own.value.map(part => props.parts.indexOf(part)))
const adjacent = computed(() => own.value.length > 1 && indexes.value.at(-1)! - indexes.value[0]! === own.value.length - 1)

function include(included: boolean): void {
  emit('operate', own.value.filter(part => part.included !== included).map(part => ({ op: 'includePart', partId: part.id, revision: part.revision, included })))
}

function merge(): void {
  const [first, ...rest] = own.value
  emit('operate', rest.map(part => ({ op: 'mergePart', partId: first!.id, revision: first!.revision, nextPartId: part.id })))
  emit('none')
}

/** Moves the chosen ones together by one place; those that stood apart come together. */
function move(by: -1 | 1): void {
  const others = props.parts.filter(part => !props.chosen.has(part.id))
  const before = others.filter(part => props.parts.indexOf(part) < indexes.value[by === -1 ? 0 : indexes.value.length - 1]!).length
  let after = others[before + by - 1]?.id ?? null
  const operations: Operation[] = []
  for (const part of own.value) {
    operations.push({ op: 'movePart', partId: part.id, revision: part.revision, afterPartId: after })
    after = part.id
  }
  emit('operate', operations)
}
</script>

<template>
  <div class="several" role="group" aria-label="Several parts">
    <p>{{ count(chosen.size, 'part') }} chosen <button type="button" class="link" @click="chosen.size === parts.length ? emit('none') : emit('all')">{{ chosen.size === parts.length ? 'none' : 'all' }}</button></p>
    <div class="actions">
      <v-btn size="small" :disabled="own.length === 0" @click="include(!anyIn)">{{ anyIn || own.length === 0 ? 'Leave out' : 'Take in' }}</v-btn>
      <v-btn size="small" :disabled="!adjacent" @click="merge">Merge</v-btn>
      <v-btn size="small" :disabled="own.length === 0" @click="emit('rename')">Rename …</v-btn>
      <v-btn size="small" :disabled="own.length === 0 || indexes[0] === 0" @click="move(-1)">Up</v-btn>
      <v-btn size="small" :disabled="own.length === 0 || indexes.at(-1) === parts.length - 1" @click="move(1)">Down</v-btn>
      <v-btn size="small" variant="text" @click="emit('close')">Done</v-btn>
    </div>
  </div>
</template>

<style scoped>
.several { padding: 0 14px 10px; font-size: 14px; }
.several p { margin: 0 0 6px; color: var(--quiet); }
.actions { display: flex; flex-wrap: wrap; gap: 5px; }
</style>

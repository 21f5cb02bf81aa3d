<script setup lang="ts">
import type { Split } from '#core/manuscript/choices'
import type { DivisionView, PartSummary } from '#shared/api'
import type { Operation } from '#shared/operations'
import { ask, messageOf } from '~/utils/api'
import { count } from '~/utils/format'

// Divides a script anew: where parts begin is chosen, what comes of it is seen first. Texts stay as they are.

const props = defineProps<{ editionId: string, parts: readonly PartSummary[] }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ operate: [operations: Operation[]] }>()

const split = ref<Split | null>(null)
const view = ref<DivisionView | null>(null)
const refused = ref<string | null>(null)
let asked = 0

async function look(): Promise<void> {
  asked += 1
  const own = asked
  try {
    const answer = await ask<DivisionView>(`/api/editions/${props.editionId}/division`, 'POST', split.value === null ? {} : { split: split.value })
    if (own !== asked) return
    view.value = answer
    refused.value = null
  } catch (error) {
    if (own === asked) refused.value = messageOf(error)
  }
}
watch([open, split], () => { if (open.value) void look() }, { immediate: true })

const kept = computed(() => view.value?.parts.filter(part => !part.isNew).length ?? 0)

function apply(): void {
  emit('operate', [{ op: 'divide', split: view.value!.split, parts: props.parts.map(({ id, revision }) => ({ id, revision })) }])
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="680" aria-label="Divide the script anew" scrollable>
    <v-card title="Divide the script anew">
      <v-card-text v-if="view !== null">
        <p class="quiet">Every text stays as it is, with its readings. Parts that begin where one begins now keep their names. Undo brings the old division back.</p>
        <div class="choice"><IntakeSplit :found="view" :split="split ?? view.split" :refused="refused" @choose="split = $event" /></div>
        <p v-if="refused !== null" class="fault-text" role="alert">{{ refused }}</p>
        <p v-else>{{ count(view.parts.length, 'part') }}: {{ kept }} as now, {{ view.parts.length - kept }} new, {{ parts.length - kept }} no longer.</p>
        <table class="plain">
          <thead><tr><th class="number" scope="col">No</th><th scope="col">Part</th><th class="number" scope="col">Words</th></tr></thead>
          <tbody>
            <tr v-for="(part, index) in view.parts.slice(0, 300)" :key="index">
              <td class="number quiet">{{ index + 1 }}</td><td>{{ part.label }} <span v-if="part.isNew" class="stale-text">new</span></td><td class="number">{{ part.words.toLocaleString('en') }}</td>
            </tr>
          </tbody>
        </table>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="open = false">Leave it</v-btn>
        <v-btn color="primary" variant="flat" :disabled="view === null || refused !== null" @click="apply">Divide into {{ count(view?.parts.length ?? 0, 'part') }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.choice { display: flex; flex-direction: column; gap: 12px; margin: 12px 0; max-width: 340px; }
</style>

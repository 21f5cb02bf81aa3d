<script setup lang="ts">
import { mdiCallMerge, mdiCallSplit } from '@mdi/js'
import { clock } from '#core/estimate/clock'
import type { FilePassage, RunSheetRow } from '#shared/delivery'
import type { FileMarksRequest } from '#shared/schemas'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { count, size } from '~/utils/format'

// The files that will be made. They are put together and taken apart by hand: by a button, or by dragging a file onto the one above, or a passage out of its file.

const { rows, editionId, chosen, locked } = defineProps<{ readonly rows: readonly RunSheetRow[], readonly editionId: string, readonly chosen: ReadonlySet<string>, readonly locked: boolean }>()
const emit = defineEmits<{ readonly choose: [key: string, on: boolean], readonly mark: [marks: FileMarksRequest['marks']] }>()
const notices = useNotices()

/** More rows than that are shown page by page. */
const rowsAtOnce = 250
const page = ref(1)
const pages = computed(() => Math.max(1, Math.ceil(rows.length / rowsAtOnce)))
const shown = computed(() => rows.slice((Math.min(page.value, pages.value) - 1) * rowsAtOnce, Math.min(page.value, pages.value) * rowsAtOnce))
/** Worth a column where a file is not simply a part. */
const showsParts = computed(() => rows.some((row, index) => row.parts.includes('–') || rows[index + 1]?.parts === row.parts))

/** The file whose passages are shown. */
const open = ref<string | null>(null)
const passages = shallowRef<readonly FilePassage[]>([])

async function loadPassages(): Promise<void> {
  const key = open.value
  if (key === null) return
  const found = rows.some(row => row.key === key)
    ? await notices.attempt(() => ask<FilePassage[]>(`/api/editions/${editionId}/run-sheet/passages?file=${encodeURIComponent(key)}`))
    : null
  if (open.value !== key) return
  if (found === null || found.length < 2) open.value = null
  else passages.value = found
}
watch(() => rows, () => void loadPassages())

function toggle(row: RunSheetRow): void {
  passages.value = []
  open.value = open.value === row.key ? null : row.key
  void loadPassages()
}

/** Why a file cannot be joined with the one before; null where it can. */
function joinProblem(row: RunSheetRow): string | null {
  if (row.number === 1) return 'There is no file before it'
  return row.canGoOn ? null : 'It begins within a passage, where a length has cut it, or beside credits with a file of their own: change that'
}

function join(row: RunSheetRow): void {
  if (joinProblem(row) === null && !locked) emit('mark', [{ passageId: row.passageId, mark: 'goesOn' }])
}

const beginAt = (passageId: string): void => { emit('mark', [{ passageId, mark: 'begins' }]) }

/** What is dragged: a file, or a passage of the open one. */
const dragged = shallowRef<{ readonly row: RunSheetRow } | { readonly passageId: string } | null>(null)
/** The file that what is dragged is over, when it can be let go there. */
const target = ref<string | null>(null)

function isTarget(row: RunSheetRow): boolean {
  const what = dragged.value
  return what !== null && 'row' in what && joinProblem(what.row) === null && what.row.number === row.number + 1
}

function over(event: DragEvent, row: RunSheetRow): void {
  if (!isTarget(row)) return
  event.preventDefault()
  target.value = row.key
}

function drop(): void {
  const what = dragged.value
  if (what !== null && 'row' in what) join(what.row)
  else if (what !== null) beginAt(what.passageId)
  endDrag()
}

function endDrag(): void {
  dragged.value = null
  target.value = null
}

function stateOf(row: RunSheetRow): { text: string, look: string } {
  if (row.state === 'notRead') return { text: 'not read', look: 'quiet' }
  if (row.missing > 0) return { text: `stale · ${count(row.missing, 'sentence')}`, look: 'stale-text' }
  return { ready: { text: 'read, not delivered', look: '' }, delivered: { text: 'delivered', look: 'done-text' }, stale: { text: 'stale', look: 'stale-text' }, damaged: { text: 'delivered, but damaged on the disk', look: 'fault-text' } }[row.state]
}
</script>

<template>
  <table class="plain rows run-sheet">
    <thead><tr><th scope="col"><span class="sr-only">Chosen</span></th><th class="number" scope="col">No</th><th scope="col">File</th><th scope="col">Title</th><th v-if="showsParts" scope="col">Parts</th><th class="number" scope="col">Minutes</th><th class="number" scope="col">Size</th><th scope="col">State</th><th scope="col">Verdict</th><th scope="col"><span class="sr-only">By hand</span></th></tr></thead>
    <tbody>
      <template v-for="row in shown" :key="row.key">
        <tr
          :class="{ target: target === row.key }" :draggable="!locked && joinProblem(row) === null"
          @dragstart="dragged = { row }" @dragover="over($event, row)" @dragleave="target = null" @drop.prevent="drop" @dragend="endDrag"
        >
          <td data-label="Make"><input type="checkbox" :checked="chosen.has(row.key)" :aria-label="`Make ${row.title} only`" @change="$emit('choose', row.key, ($event.target as HTMLInputElement).checked)"></td>
          <td class="number" data-label="No">{{ row.label }}</td>
          <td class="mono" data-label="File">{{ row.name }}</td>
          <td data-label="Title">{{ row.title }}</td>
          <td v-if="showsParts" data-label="Parts">{{ row.parts }}</td>
          <td class="number" data-label="Minutes">{{ row.exact ? '' : '~ ' }}{{ clock(row.durationMs) }}</td>
          <td class="number" data-label="Size">{{ size(row.bytes) }}</td>
          <td data-label="State" :class="stateOf(row).look">{{ stateOf(row).text }}</td>
          <td data-label="Verdict"><FileVerdict v-if="row.levels !== null" :findings="row.findings" /></td>
          <td class="hand" data-label="By hand">
            <IconButton
              :icon="mdiCallMerge" :name="`Join ${row.title} with the file before`" :hint="joinProblem(row) ?? 'Join with the file before'"
              :aria-disabled="locked || joinProblem(row) !== null" :class="{ off: locked || joinProblem(row) !== null }" @click="join(row)"
            />
            <IconButton
              :icon="mdiCallSplit" :name="`Divide ${row.title}`" hint="Divide: choose where another file begins" :aria-expanded="open === row.key"
              :aria-disabled="locked || row.passages < 2" :class="{ off: locked || row.passages < 2 }" @click="locked || row.passages < 2 ? undefined : toggle(row)"
            />
          </td>
        </tr>
        <tr v-if="open === row.key && passages.length > 1" class="passages">
          <td :colspan="showsParts ? 10 : 9">
            <p class="quiet">Another file begins at:</p>
            <ul>
              <li v-for="passage in passages.slice(1)" :key="passage.id" draggable="true" @dragstart.stop="dragged = { passageId: passage.id }" @dragend="endDrag">
                <button type="button" class="plain-link" :class="{ heading: passage.kind === 'title' || passage.kind === 'heading' }" @click="beginAt(passage.id)">{{ passage.title }}{{ passage.kind === 'title' || passage.kind === 'heading' ? '' : ' …' }}</button>
                <span class="quiet">{{ clock(passage.durationMs) }}</span>
              </li>
            </ul>
            <p v-if="dragged !== null && 'passageId' in dragged" class="strip" @dragover.prevent @drop.prevent="drop">Let go here: a file of its own begins with it</p>
          </td>
        </tr>
      </template>
    </tbody>
  </table>
  <nav v-if="pages > 1" class="pages" aria-label="Pages of the run sheet">
    <v-pagination v-model="page" :length="pages" :total-visible="5" density="compact" />
    <span class="quiet">{{ rowsAtOnce }} files a page</span>
  </nav>
</template>

<style scoped>
td.mono { min-width: 200px; }
th, td:not(.mono) :deep(.done-text) { white-space: nowrap; }
input[type="checkbox"] { accent-color: var(--verdigris); width: 15px; height: 15px; vertical-align: -2px; }
.hand { white-space: nowrap; text-align: right; padding: 0 !important; vertical-align: middle !important; color: var(--quiet); }
.off { opacity: 0.35; cursor: default; }
tr.target td { background: var(--paper); border-bottom: 2px solid var(--verdigris); }
.passages > td { background: var(--paper); padding: 10px 16px 12px 34px !important; }
.passages p { margin: 0 0 4px; }
.passages ul { list-style: none; margin: 0; padding: 0; max-height: 340px; overflow-y: auto; }
.passages li { display: flex; justify-content: space-between; gap: 16px; padding: 3px 0; max-width: 620px; cursor: grab; }
.passages .heading { font-weight: 600; }
.strip { border: 1px dashed var(--verdigris); padding: 10px; margin-top: 8px; text-align: center; }
.pages { display: flex; align-items: center; gap: 14px; margin-top: 10px; }
@media (max-width: 1000px) { td.mono { min-width: 0; } }
</style>

<script setup lang="ts">
import { keyOf } from '~/keys/caps'
import { allCommands, commandsIn, keyViews, viewNames, type CommandId } from '~/keys/tables'
import { useKeys } from '~/stores/keys'
import { glossary, tour } from '~/utils/glossary'

// The way through the work, the keys, which can be changed here, and the words that the interface uses.

const isOpen = defineModel<boolean>({ required: true })
const keys = useKeys()
const tab = ref<'tour' | 'keys' | 'words'>('tour')
const tabs = [{ value: 'tour', title: 'The way through' }, { value: 'keys', title: 'Keys' }, { value: 'words', title: 'Words used here' }] as const

/** Whose key is pressed next. */
const listening = ref<CommandId | null>(null)
const fault = ref<string | null>(null)
watch([isOpen, tab], () => {
  listening.value = null
  fault.value = null
})

function give(id: CommandId, wanted: readonly string[] | null): void {
  listening.value = null
  const doubles = keys.change(id, wanted)
  fault.value = doubles.length === 0 ? null : `Not changed: ${doubles.map(each => `“${allCommands.get(each)!.title}”`).join(' and ')} has this key. Give that another one first.`
}

function press(event: KeyboardEvent): void {
  if (listening.value === null) return
  event.preventDefault()
  event.stopPropagation()
  if (event.key === 'Escape') {
    listening.value = null
    return
  }
  const key = keyOf(event)
  if (key !== null) give(listening.value, [key])
}
const changed = computed(() => Object.keys(keys.changed).length)
</script>

<template>
  <v-dialog v-model="isOpen" max-width="760" aria-label="Help" scrollable>
    <v-card class="help" @keydown.capture="press">
      <div class="head">
        <h2>Help</h2>
        <v-btn size="small" variant="text" @click="isOpen = false">Close</v-btn>
      </div>
      <v-tabs v-model="tab" density="compact" color="primary"><v-tab v-for="each in tabs" :key="each.value" :value="each.value">{{ each.title }}</v-tab></v-tabs>
      <div class="body" tabindex="0" role="tabpanel" :aria-label="tabs.find(each => each.value === tab)!.title">
        <ol v-if="tab === 'tour'" class="tour"><li v-for="[stage, what] in tour" :key="stage"><b>{{ stage }}</b><span>{{ what }}</span></li></ol>
        <dl v-else-if="tab === 'words'"><template v-for="[word, meaning] in glossary" :key="word"><dt>{{ word }}</dt><dd>{{ meaning }}</dd></template></dl>
        <template v-else>
          <v-checkbox v-model="keys.singles" label="Keys that type a sign alone (H, ?, 1) do something while no text is typed" density="compact" hide-details />
          <p v-if="fault !== null" class="fault-text" role="alert">{{ fault }}</p>
          <section v-for="view in keyViews" :key="view" :aria-labelledby="`keys-${view}`">
            <h3 :id="`keys-${view}`">{{ viewNames[view] }}</h3>
            <table>
              <tbody>
                <tr v-for="[id, { title }] in commandsIn(view)" :key="id">
                  <th scope="row">{{ title }}</th>
                  <td><span v-if="listening === id" role="status">Press the new key; Esc leaves it.</span><KeyCaps v-else :id="id" all /></td>
                  <td class="act">
                    <v-btn size="x-small" variant="text" :aria-label="`Change the key of ${title}`" @click="listening = id">Change</v-btn>
                    <v-btn v-if="keys.keysOf(id).length > 0" size="x-small" variant="text" :aria-label="`None for ${title}`" @click="give(id, [])">None</v-btn>
                    <v-btn v-if="id in keys.changed" size="x-small" variant="text" :aria-label="`As usual: ${title}`" @click="give(id, null)">As usual</v-btn>
                  </td>
                </tr>
              </tbody>
            </table>
          </section>
          <v-btn v-if="changed > 0" size="small" @click="keys.reset()">All keys as usual</v-btn>
        </template>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.help { padding: 14px 22px 20px; }
.head { display: flex; align-items: center; justify-content: space-between; }
h2 { margin: 0; }
.body { overflow-y: auto; max-height: 66vh; padding-top: 14px; font-size: 15px; }
.tour { margin: 0; padding-left: 22px; }
.tour li { padding: 4px 0; }
.tour b { display: inline-block; min-width: 84px; }
dl { display: grid; grid-template-columns: 190px 1fr; gap: 6px 16px; margin: 0; }
dt { font-weight: 600; }
dd { margin: 0; }
h3 { margin: 18px 0 4px; font-size: 15px; }
table { width: 100%; border-collapse: collapse; }
tr { border-bottom: 1px solid var(--line); }
th { padding: 3px 0; font-weight: 400; text-align: left; width: 46%; }
.act { text-align: right; white-space: nowrap; }
@media (max-width: 700px) { dl { grid-template-columns: 1fr; } dd { margin-bottom: 6px; } }
</style>

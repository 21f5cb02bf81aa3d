<script setup lang="ts">
import { useKeys } from '~/stores/keys'

// All that can be done here, to be found by its name, with its keys.

const isOpen = defineModel<boolean>({ required: true })
const keys = useKeys()
const wanted = ref('')
const at = ref(0)
const list = ref<HTMLElement | null>(null)

watch(isOpen, opened => { if (opened) wanted.value = '' })
const found = computed(() => {
  const words = wanted.value.toLowerCase().split(/\s+/u).filter(word => word !== '')
  return keys.ready.filter(({ id, title }) => id !== 'commands' && words.every(word => title.toLowerCase().includes(word)))
})
watch(found, () => { at.value = 0 })

function step(by: 1 | -1): void {
  at.value = (at.value + by + found.value.length) % Math.max(1, found.value.length)
  void nextTick(() => list.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' }))
}

function run(index: number): void {
  const command = found.value[index]
  if (command === undefined) return
  isOpen.value = false
  // What is done may want the focus, which the dialog gives back when it is closed.
  setTimeout(() => command.run(), closedAfterMs)
}
const closedAfterMs = 60
</script>

<template>
  <v-dialog v-model="isOpen" max-width="560" aria-label="All commands" transition="none">
    <v-card class="commands">
      <input
        v-model="wanted" class="wanted" role="combobox" aria-label="Find a command" placeholder="Find a command" aria-expanded="true" aria-controls="command-list" :aria-activedescendant="found.length > 0 ? `command-${at}` : undefined" autofocus
        @keydown.down.prevent="step(1)" @keydown.up.prevent="step(-1)" @keydown.enter.prevent="run(at)" @keydown.esc="isOpen = false"
      >
      <ul id="command-list" ref="list" role="listbox" aria-label="Commands">
        <li v-for="(command, index) in found" :id="`command-${index}`" :key="command.id" role="option" :aria-selected="index === at" @click="run(index)" @mousemove="at = index">
          <span>{{ command.title }}</span><KeyCaps :id="command.id" all />
        </li>
      </ul>
      <p v-if="found.length === 0" class="quiet none" role="status">Nothing here is called so.</p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.commands { padding: 0; overflow: hidden; }
.wanted { width: 100%; padding: 14px 18px; border: 0; border-bottom: 1px solid var(--line); background: none; font: inherit; font-size: 17px; color: var(--ink); outline-offset: -2px; }
ul { list-style: none; margin: 0; padding: 6px 0; max-height: 56vh; overflow-y: auto; }
li { display: flex; justify-content: space-between; gap: 16px; padding: 5px 18px; font-size: 15px; cursor: pointer; }
li[aria-selected='true'] { background: var(--lit); }
.none { margin: 0; padding: 10px 18px 16px; }
</style>

<script setup lang="ts">
import { useKeys } from '~/stores/keys'

// All that can be done here, to be found by its name, with its keys.

const isOpen = defineModel<boolean>({ required: true })
const keys = useKeys()
const wanted = ref('')
const at = ref(0)
const dialog = ref<HTMLDialogElement | null>(null)
const field = ref<HTMLInputElement | null>(null)

// At once: what is typed right after the key is the name of a command, and no text of the script.
watch(isOpen, opened => {
  if (opened) {
    wanted.value = ''
    dialog.value?.showModal()
    field.value?.focus()
  } else {
    dialog.value?.close()
  }
}, { flush: 'sync' })

const found = computed(() => {
  if (!isOpen.value) return []
  const words = wanted.value.toLowerCase().split(/\s+/u).filter(word => word !== '')
  return keys.ready.filter(({ id, title }) => id !== 'commands' && words.every(word => title.toLowerCase().includes(word)))
})
watch(found, () => { at.value = 0 })

function step(by: 1 | -1): void {
  at.value = (at.value + by + found.value.length) % Math.max(1, found.value.length)
  void nextTick(() => dialog.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' }))
}

/** The focus goes back first: a command may want it. */
function run(index: number): void {
  const command = found.value[index]
  if (command === undefined) return
  isOpen.value = false
  command.run()
}
</script>

<template>
  <dialog ref="dialog" aria-label="All commands" @close="isOpen = false" @click.self="isOpen = false">
    <input
      ref="field" v-model="wanted" class="wanted" role="combobox" aria-label="Find a command" placeholder="Find a command" aria-expanded="true" aria-controls="command-list" aria-autocomplete="list"
      :aria-activedescendant="found.length > 0 ? `command-${at}` : undefined" @keydown.down.prevent="step(1)" @keydown.up.prevent="step(-1)" @keydown.enter.prevent="run(at)"
    >
    <ul id="command-list" role="listbox" aria-label="Commands" tabindex="-1">
      <li v-for="(command, index) in found" :id="`command-${index}`" :key="command.id" role="option" :aria-selected="index === at" @click="run(index)" @mousemove="at = index">
        <span>{{ command.title }}</span><KeyCaps :id="command.id" all />
      </li>
    </ul>
    <p v-if="found.length === 0" class="quiet none" role="status">Nothing here is called so.</p>
  </dialog>
</template>

<style scoped>
dialog { width: min(560px, calc(100vw - 24px)); margin-top: 12vh; padding: 0; border: 1px solid var(--gall); border-radius: 4px; background: var(--sheet); color: var(--ink); overflow: hidden; }
dialog::backdrop { background: rgb(0 0 0 / 30%); }
.wanted { width: 100%; padding: 14px 18px; border: 0; border-bottom: 1px solid var(--line); background: none; font: inherit; font-size: 17px; color: var(--ink); outline-offset: -2px; }
.wanted::placeholder { color: var(--quiet); opacity: 1; }
ul { list-style: none; margin: 0; padding: 6px 0; max-height: 56vh; overflow-y: auto; }
li { display: flex; justify-content: space-between; gap: 16px; padding: 5px 18px; font-size: 15px; cursor: pointer; }
li[aria-selected='true'] { background: var(--lit); }
.none { margin: 0; padding: 10px 18px 16px; }
</style>

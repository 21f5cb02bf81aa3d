<script setup lang="ts">
import { useTimeoutFn } from '@vueuse/core'

// A button that is only a sign: its name is read out, and shown when one points at it or comes to it by keys.

const { icon, name, hint = '', size = 'small' } = defineProps<{
  readonly icon: string, readonly name: string
  /** Shown in place of the name. */
  readonly hint?: string
  readonly size?: 'x-small' | 'small'
}>()

/** Before the name is shown, ms: who only passes by does not see it. */
const patienceMs = 350
// A list can have hundreds of such buttons: what shows a name is made when it is wanted.
const isNamed = ref(false)
const { start, stop } = useTimeoutFn(() => { isNamed.value = true }, patienceMs, { immediate: false })

function leave(): void {
  stop()
  isNamed.value = false
}
</script>

<template>
  <v-btn variant="text" :size="size" icon :aria-label="name" @pointerenter="start()" @pointerleave="leave" @focus="start()" @blur="leave" @click="leave">
    <v-icon :icon="icon" />
    <v-tooltip v-if="isNamed" :model-value="true" activator="parent" location="bottom" :text="hint === '' ? name : hint" />
  </v-btn>
</template>

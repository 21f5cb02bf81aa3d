<script setup lang="ts">
import { Tooltip as vTooltip } from 'vuetify/directives'

// A button that is only a sign: its name is read out, and shown when one points at it or comes to it by keys.

const { icon, name, hint = '', size = 'small' } = defineProps<{
  readonly icon: string, readonly name: string
  /** Shown in place of the name. */
  readonly hint?: string
  readonly size?: 'x-small' | 'small'
}>()
</script>

<template>
  <v-btn v-tooltip="{ text: hint === '' ? name : hint, location: 'bottom', openDelay: 300 }" variant="text" :size="size" :icon="icon" :aria-label="name" />
</template>

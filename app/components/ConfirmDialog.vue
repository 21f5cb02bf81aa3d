<script setup lang="ts">
// A question before something is removed. It is open as long as it has a title.

defineProps<{ title: string | null, act: string, keep?: string }>()
const emit = defineEmits<{ act: [], close: [] }>()
</script>

<template>
  <v-dialog :model-value="title !== null" max-width="500" :aria-label="title ?? ''" @update:model-value="emit('close')">
    <v-card v-if="title !== null" :title="title">
      <v-card-text><slot /></v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">{{ keep ?? 'Keep it' }}</v-btn>
        <v-btn color="error" @click="emit('act')">{{ act }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

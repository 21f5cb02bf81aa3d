<script setup lang="ts">
import type { DeliveryChangesView, DeliveryView } from '#shared/delivery'
import { ask } from '~/utils/api'
import { changesText } from '~/utils/changed-files'

// What the newest delivery has otherwise than the one before it.

const { deliveryId, before, downloads } = defineProps<{ readonly deliveryId: string, readonly before: DeliveryView, readonly downloads: boolean }>()
const changes = ref<DeliveryChangesView | null>(null)
watch(() => [deliveryId, before.id], async ([id, since]) => {
  // The report says it too, and why it cannot be told.
  const found = await ask<DeliveryChangesView>(`/api/deliveries/${id}/changes?since=${since}`).catch(() => null)
  if (id === deliveryId) changes.value = found
}, { immediate: true })
</script>

<template>
  <p v-if="changes !== null" class="news">
    <span>Beside delivery {{ before.number }}: {{ changesText(changes) }}</span>
    <ChangedFiles v-if="downloads" :delivery-id="deliveryId" :since-id="before.id" :changes="changes" />
  </p>
</template>

<style scoped>
.news { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 14px; margin: 0 0 10px; font-size: 14.5px; }
</style>

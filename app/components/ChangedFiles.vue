<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { changedCount } from '~/utils/changed-files'
import { count } from '~/utils/format'
import type { DeliveryChangesView } from '#shared/delivery'

// The files of a delivery that an earlier one has not, alone.

const { deliveryId, sinceId, changes } = defineProps<{ readonly deliveryId: string, readonly sinceId: string, readonly changes: DeliveryChangesView }>()
const number = computed(() => changedCount(changes))
</script>

<template>
  <v-btn v-if="number > 0" size="small" :prepend-icon="mdiDownload" :href="`/api/deliveries/${deliveryId}/package?since=${sinceId}`" download>Download {{ number === 1 ? 'this file' : `these ${count(number, 'file')}` }} alone</v-btn>
</template>

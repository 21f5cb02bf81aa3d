<script setup lang="ts">
import type { RuleHitView } from '#core/score/rule-places'
import { addedText } from '~/utils/rules'

// One place of a rule in its context: what is written, and what it becomes.

defineProps<{ hit: RuleHitView }>()
</script>

<template>
  <span class="hit">
    <span class="serif">{{ hit.before }}<del v-if="hit.becomes !== null">{{ hit.written }}</del><mark v-else>{{ hit.written.length > 60 ? `${hit.written.slice(0, 60)}…` : hit.written }}</mark><ins v-if="hit.becomes !== null && hit.becomes.trim() !== ''">{{ hit.becomes.trim() }}</ins>{{ hit.after }}</span>
    <span v-if="hit.becomes !== null && hit.becomes.trim() === ''" class="quiet added">unspoken</span>
    <span v-if="addedText(hit.restMs, hit.how) !== ''" class="quiet added">{{ addedText(hit.restMs, hit.how) }}</span>
  </span>
</template>

<style scoped>
.serif { font-weight: 400; }
.hit { min-width: 0; font-size: 15px; line-height: 1.4; overflow-wrap: anywhere; }
del { color: var(--vermilion); text-decoration-thickness: 1px; }
ins { margin-left: 5px; color: var(--dusk); text-decoration: none; font-style: italic; }
mark { background: var(--lit); color: inherit; }
.added { margin-left: 8px; font-size: 13.5px; white-space: nowrap; }
</style>
